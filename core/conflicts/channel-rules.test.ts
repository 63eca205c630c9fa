import { describe, expect, it } from 'vitest'
import type { Rig } from '../rig'
import { sending, sendingCc, testController, testDestination, testRig, type Assigned } from '../testing/rigs'
import {
  type DestinationInput,
  told,
  severities,
  joined,
  rigOf,
  merged,
  sends20,
} from '../testing/mapped-rigs'

describe('one destination that takes all channels for one', () => {
  const nrpn = (number: number, channel: number, more: object = {}) =>
    sending({ kind: 'nrpn', number, channel, ...more })
  const program = (channel: number, bank: { msb: number; lsb: number } | null) =>
    sending({ kind: 'program', number: 3, channel, bank })
  const two = (a: Assigned, b: Assigned, destination: DestinationInput): Rig =>
    testRig([testController('a', a), testController('b', b)], [testDestination('d', destination)])
  it('mixes parameters of all channels', () => {
    const [a, b] = [{ 'k1.turn': nrpn(1, 1) }, { 'k1.turn': nrpn(2, 2) }]
    expect(severities(two(a, b, {}), 'parameter-interleave')).toEqual([])
    expect(severities(two(a, b, merged), 'parameter-interleave')).toEqual(['warning'])
  })
  it('mixes banks of all channels', () => {
    const base = { 'k1.turn': program(1, null), 'k2.turn': program(2, { msb: 1, lsb: 0 }) }
    expect(severities(rigOf(base), 'bank-drift')).toEqual([])
    expect(severities(rigOf(base, [], merged), 'bank-drift')).toEqual(['warning'])
  })
  it('lets layers share an address on two channels', () => {
    const mappings = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
      joined('a/k2.turn', 'p2', { learnedAt: '2:cc20' }),
    ]
    const templates = [
      {
        id: 't',
        name: 'T',
        stacks: [
          {
            id: 's',
            name: 'S',
            powerUp: 'x',
            gestures: ['k1.turn', 'k2.turn'],
            layers: [
              { id: 'x', name: 'X', assignments: sends20 },
              { id: 'y', name: 'Y', assignments: { 'k2.turn': sendingCc(20, { channel: 2 }) } },
            ],
          },
        ],
      },
    ]
    const rig = (destination: DestinationInput): Rig =>
      testRig([testController('a', {}, { templates })], [testDestination('d', destination)], { mappings })
    expect(severities(rig({}), 'layer-share')).toEqual([])
    expect(severities(rig(merged), 'layer-share')).toEqual(['error'])
  })
  it('while ports that are told apart keep banks apart', () => {
    const ports = [
      { id: 'in', name: 'In', direction: 'in' as const },
      { id: 'in-2', name: 'In 2', direction: 'in' as const },
    ]
    const rig = (told: 'apart' | 'merged'): Rig =>
      testRig(
        [
          testController('a', { 'k1.turn': program(1, null) }),
          testController('b', { 'k1.turn': program(1, { msb: 1, lsb: 0 }) }),
        ],
        [testDestination('d', { ports, hears: { playing: { ports: told } } })],
        {
          cables: [
            { id: 'c1', from: { owner: 'a', port: 'out' }, to: { owner: 'd', port: 'in' } },
            { id: 'c2', from: { owner: 'b', port: 'out' }, to: { owner: 'd', port: 'in-2' } },
          ],
        },
      )
    expect(severities(rig('merged'), 'bank-drift')).toEqual(['warning'])
    expect(severities(rig('apart'), 'bank-drift')).toEqual([])
  })
  it('names the template of a button that is on both sides', () => {
    const rig = testRig([
      testController(
        'a',
        {},
        {
          templates: [
            { id: 't', name: 'Day', base: { 'k1.turn': program(1, null) } },
            { id: 'u', name: 'Night', base: { 'k1.turn': program(1, { msb: 1, lsb: 0 }) } },
          ],
        },
      ),
    ])
    expect(told(rig, 'bank-drift')[0]).toContain(
      'Knob 1 of “Day” (A) sends a program on channel 1 without a bank, while Knob 1 of “Night” (A) changes',
    )
  })
})

describe('parameters', () => {
  const nrpn = (more: object = {}) => sending({ kind: 'nrpn', number: 5, ...more })
  it('any carrier used plainly where parameters run is an error; increments of a parameter are not plain', () => {
    for (const number of [6, 38, 96, 97, 98, 99, 100, 101])
      expect(
        severities(rigOf({ 'k1.turn': nrpn(), 'k2.turn': sendingCc(number) }), 'parameter-carriers'),
        `${number}`,
      ).toEqual(['error'])
    expect(severities(rigOf({ 'k1.turn': nrpn(), 'k2.turn': sendingCc(95) }), 'parameter-carriers')).toEqual(
      [],
    )
    expect(
      severities(
        rigOf({ 'k1.turn': nrpn(), 'k2.turn': nrpn({ number: 6, steps: 'increments' }) }),
        'parameter-carriers',
      ),
    ).toEqual([])
  })
  it('a parameter sent by hand is one finding', () => {
    const byHand = sending({ kind: 'cc', number: 99 }, { kind: 'cc', number: 98 }, { kind: 'cc', number: 6 })
    const found = told(rigOf({ 'k1.turn': nrpn(), 'k2.turn': byHand }), 'parameter-carriers')
    expect(found).toHaveLength(1)
    expect(found[0]).toContain('Knob 2 (A) sends a parameter by hand with 1:cc99, 1:cc98, 1:cc6')
  })
  it('increments that send their number leave nothing out', () => {
    const two = (more: object): string[] =>
      severities(
        testRig([
          testController('a', { 'k1.turn': nrpn(more) }),
          testController('b', { 'k1.turn': nrpn({ number: 9 }) }),
        ]),
        'parameter-interleave',
      )
    expect(two({ steps: 'increments' })).toEqual(['warning'])
    expect(two({ steps: 'increments', omitNumber: true })).toEqual(['error'])
  })
  it('what a destination keeps may be a carrier or a bank', () => {
    const keeps = (number: number) => ({
      claims: [{ id: 'c', function: 'its own', kind: 'cc' as const, channel: 1, low: number, high: number }],
    })
    expect(severities(rigOf({ 'k1.turn': nrpn() }, [], keeps(98)), 'claimed')).toEqual(['error'])
    expect(
      severities(
        rigOf(
          { 'k1.turn': sending({ kind: 'program', number: 1, bank: { msb: 0, lsb: 0 } }) },
          [],
          keeps(32),
        ),
        'claimed',
      ),
    ).toEqual(['error'])
  })
  it('a pair of which only the MSB is sent is broken where it is heard as a pair', () => {
    const heard = { parameters: [{ id: 'p1', name: 'One', fixed: { kind: 'cc14' as const, number: 17 } }] }
    const base = {
      'k1.turn': sending({ kind: 'cc14', number: 17, halves: 'msb-only' as const }),
      'k2.turn': sendingCc(49),
    }
    expect(severities(rigOf(base, [], heard), 'pair-broken')).toEqual(['error'])
    expect(severities(rigOf(base), 'pair-broken')).toEqual([])
    const both = {
      'k1.turn': sending({ kind: 'cc14', number: 17 }),
      'k2.turn': sending({ kind: 'cc14', number: 17 }),
    }
    expect(severities(rigOf(both), 'pair-broken')).toEqual([])
  })
})
