import { describe, expect, it } from 'vitest'
import type { Rig } from '../rig'
import {
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
  layeredTemplates,
} from '../testing/rigs'
import { check } from '.'
import { addressAt, tagsOf } from '../testing/addresses'
import { bright, joinedAlone, two } from '../testing/mapped-rigs'

const found = (rig: Rig): string[] => check(rig).findings.map(({ rule, severity }) => `${severity} ${rule}`)

const buttons = { behaviour: { kind: 'trigger' } }
const merged = testDestination('d', { hears: { playing: { channels: { kind: 'merged' } }, settable: true } })
const onlyTwo = testDestination('d', { hears: { playing: { channels: { kind: 'only', channels: [2] } } } })
const kept = testDestination('d', {
  claims: [
    { id: 'c', function: 'its transport', kind: 'cc', channel: 1, low: 110, high: 117, serves: ['p1'] },
  ],
})

describe('same-address', () => {
  it('finds two gestures on one address, once, naming both and the destination', () => {
    const { findings } = check(two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20) }))
    expect(findings).toHaveLength(1)
    expect(findings[0]).toMatchObject({
      rule: 'same-address',
      severity: 'error',
      addresses: [addressAt('1:cc20')],
      destinations: ['d'],
    })
    expect(findings[0]?.message).toBe('Knob 1 (A) and Knob 1 (B) both send 1:cc20 to D.')
  })

  it.each<[string, Rig]>([
    ['another channel', two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20, { channel: 2 }) })],
    [
      'another kind',
      two(
        { 'k1.turn': sendingCc(60) },
        { 'k1.turn': sending({ kind: 'note', keys: { kind: 'one', number: 60 } }) },
      ),
    ],
    [
      'one of them put away',
      testRig([
        testController('a', { 'k1.turn': sendingCc(20) }),
        testController('b', { 'k1.turn': sendingCc(20) }, { inUse: false }),
      ]),
    ],
    [
      'a channel that nobody hears',
      two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20) }, [onlyTwo]),
    ],
    ['no cable', two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20) }, undefined, { cables: [] })],
    [
      'an accord',
      two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20) }, undefined, {
        accords: [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'b/k1.turn'] }],
      }),
    ],
    [
      'programs, which may come twice',
      two(
        { 'k1.turn': sending({ kind: 'program', number: 3 }) },
        { 'k1.turn': sending({ kind: 'program', number: 3 }) },
      ),
    ],
    [
      'a number still wanted',
      two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sending({ kind: 'cc', number: 'wanted' }) }),
    ],
    [
      'two messages of one gesture',
      testRig([
        testController('a', {
          'k1.turn': sending(
            { kind: 'cc', number: 20, moment: 'press' },
            { kind: 'cc', number: 20, moment: 'release' },
          ),
        }),
      ]),
    ],
  ])('stays silent for %s', (_, rig) => {
    expect(found(rig)).toEqual([])
  })

  it('is silent between two layers of a replacing stack, and speaks between layer and base', () => {
    const layered = (base: Assigned, a: Assigned, b: Assigned): Rig =>
      testRig([
        testController('a', base, {
          templates: layeredTemplates(a, b, { gestures: ['k1.turn', 'k2.turn'] }, base),
        }),
      ])
    expect(found(layered({}, { 'k1.turn': sendingCc(20) }, { 'k2.turn': sendingCc(20) }))).toEqual([])
    expect(found(layered({ 'k3.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20) }, {}))).toEqual([
      'error same-address',
    ])
  })

  it('where passages are declared, needs one in which both show', () => {
    const at = (template: string) => [{ controller: 'a', template }]
    const controller = testController(
      'a',
      {},
      {
        templates: [
          { id: 't', name: 'T', base: { 'k1.turn': sendingCc(20) } },
          { id: 'u', name: 'U' },
        ],
      },
    )
    const other = testController('b', { 'k1.turn': sendingCc(20) })
    const shows = (template: string): Rig =>
      testRig([controller, other], undefined, { passages: [{ id: 'p', name: 'P', showing: at(template) }] })
    expect(found(shows('t'))).toEqual(['error same-address'])
    expect(found(shows('u'))).toEqual([])
  })

  it('makes one finding of overlapping key spans, with the notes as a span', () => {
    const keys = (low: number, high: number) => sending({ kind: 'note', keys: { kind: 'span', low, high } })
    const { findings } = check(two({ 'k1.turn': keys(36, 60) }, { 'k1.turn': keys(50, 72) }))
    expect(findings.map(({ addresses }) => tagsOf(addresses))).toEqual([['1:note50-60']])
  })

  it('takes bend of two controllers for a warning, of one for one sender', () => {
    const bend = sending({ kind: 'pitchBend' })
    expect(found(two({ 'k1.turn': bend }, { 'k1.turn': bend }))).toEqual(['warning same-address'])
    expect(found(testRig([testController('a', { 'k1.turn': bend, 'k2.turn': bend })]))).toEqual([])
  })

  it('hears through a merge box and a thru port, and obeys a cable that stops a channel', () => {
    const cables = (rules: object[]): Rig =>
      two(
        { 'k1.turn': sendingCc(20) },
        { 'k1.turn': sendingCc(20) },
        [testDestination('d', { ports: [{ id: 'in', name: 'In', direction: 'in' }] })],
        {
          boxes: [
            {
              id: 'box',
              name: 'Box',
              kind: 'merge',
              ports: [
                { id: 'i1', name: '1', direction: 'in' },
                { id: 'i2', name: '2', direction: 'in' },
                { id: 'o', name: 'O', direction: 'out' },
              ],
            },
          ],
          cables: [
            { id: 'c1', from: { owner: 'a', port: 'out' }, to: { owner: 'box', port: 'i1' } },
            {
              id: 'c2',
              from: { owner: 'b', port: 'out' },
              to: { owner: 'box', port: 'i2' },
              rules: rules as never,
            },
            { id: 'c3', from: { owner: 'box', port: 'o' }, to: { owner: 'd', port: 'in' } },
          ],
        },
      )
    expect(found(cables([]))).toEqual(['error same-address'])
    expect(found(cables([{ kind: 'stop', match: { channels: [1] } }]))).toEqual([])
    expect(found(cables([{ kind: 'stop', match: { channels: [2] } }]))).toEqual(['error same-address'])
  })
})

describe('split-value', () => {
  const step = (value: number) => sendingCc(20, { range: { low: value, high: value }, ...buttons })
  it('finds two values of one number', () => {
    expect(found(two({ 'k1.turn': step(1) }, { 'k1.turn': step(127) }))).toEqual(['warning split-value'])
  })
  it('finds buttons that meet only when let go', () => {
    const press = (high: number) =>
      sendingCc(20, { range: { low: 0, high }, behaviour: { kind: 'momentary' } })
    expect(found(two({ 'k1.turn': press(64) }, { 'k1.turn': press(127) }))).toEqual(['warning split-value'])
  })
  it('gives way to same-address where values overlap', () => {
    expect(found(two({ 'k1.turn': step(64) }, { 'k1.turn': sendingCc(20) }))).toEqual(['error same-address'])
  })
})

describe('pair-broken', () => {
  const pair = { 'k1.turn': sending({ kind: 'cc14', number: 17 } as const) }
  it('is an error where the pair was learned, advice where nobody hears it', () => {
    const user = { 'k1.turn': sendingCc(49) }
    expect(found(two(pair, user))).toEqual(['advice pair-broken'])
    expect(
      found(two(pair, user, undefined, { mappings: joinedAlone('a/k1.turn', 'p1', '1:cc17+49') })),
    ).toEqual(['error pair-broken'])
  })
  it('speaks also when the first is sent alone but the destination hears a pair', () => {
    const hearsPair = testDestination('d', {
      parameters: [{ id: 'p1', name: 'One', fixed: { kind: 'cc14', number: 17 } }],
    })
    expect(found(two({ 'k1.turn': sendingCc(17) }, { 'k1.turn': sendingCc(49) }, [hearsPair]))).toEqual([
      'error pair-broken',
    ])
    expect(found(two({ 'k1.turn': sendingCc(17) }, { 'k1.turn': sendingCc(49) }))).toEqual([])
  })
  it('is silent while the pair sends only its first half', () => {
    expect(
      found(
        two(
          { 'k1.turn': sending({ kind: 'cc14', number: 17, halves: 'msb-only' }) },
          { 'k1.turn': sendingCc(49) },
        ),
      ),
    ).toEqual([])
  })
})

describe('reserved', () => {
  it('finds mode numbers and bank numbers sent plainly', () => {
    expect(found(testRig([testController('a', { 'k1.turn': sendingCc(123) })]))).toEqual(['error reserved'])
    expect(found(testRig([testController('a', { 'k1.turn': sendingCc(32) })]))).toEqual(['warning reserved'])
  })
  it('leaves real mode messages and banks alone', () => {
    const rig = testRig([
      testController('a', {
        'k1.turn': sending({ kind: 'channelMode', number: 123 }),
        'k2.turn': sending({ kind: 'program', number: 1, bank: { msb: 0, lsb: 1 } }),
      }),
    ])
    expect(found(rig)).toEqual([])
  })
})

describe('claimed', () => {
  const sent = { 'k1.turn': sendingCc(112) }
  it('finds a kept address, unless the gesture serves what it is kept for', () => {
    expect(found(testRig([testController('a', sent)], [kept]))).toEqual(['error claimed'])
    expect(
      found(
        testRig([testController('a', sent)], [kept], { mappings: joinedAlone('a/k1.turn', 'p1', '1:cc112') }),
      ),
    ).toEqual([])
    expect(
      found(
        testRig([testController('a', sent)], [kept], { mappings: joinedAlone('a/k1.turn', 'p2', '1:cc112') }),
      ),
    ).toEqual(['error claimed'])
    expect(found(testRig([testController('a', { 'k1.turn': sendingCc(118) })], [kept]))).toEqual([])
  })
})

describe('well-known', () => {
  const sent = { 'k1.turn': sendingCc(74) }
  const elsewhere = [testDestination('e'), bright]
  const other = {
    mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'e', parameter: 'p1', learnedAt: '1:cc74' }],
  }
  it('is advice for another use, an error where a destination reacts', () => {
    expect(
      found(
        testRig([testController('a', sent)], [testDestination('d')], {
          mappings: joinedAlone('a/k1.turn', 'p1', '1:cc74'),
        }),
      ),
    ).toEqual(['advice well-known'])
    expect(found(testRig([testController('a', sent)], elsewhere, other))).toEqual(['error well-known'])
    const on = (channel: number) =>
      testDestination('d', {
        parameters: [{ id: 'bright', name: 'Bright', fixed: { kind: 'cc', number: 74, channel } }],
      })
    const severity = (channel: number): string[] =>
      found(testRig([testController('a', sent)], [elsewhere[0]!, on(channel)], other))
    expect(severity(1)).toEqual(['error well-known'])
    expect(severity(2)).toEqual(['advice well-known'])
  })
  it('is silent for the meaning itself, and for a control that is joined to nothing', () => {
    expect(
      found(testRig([testController('a', sent)], [bright], { mappings: joinedAlone('a/k1.turn', 'bright') })),
    ).toEqual([])
    expect(found(testRig([testController('a', sent)], [bright]))).toEqual([])
  })
})

describe('merged-channels', () => {
  const rig = (destination: ReturnType<typeof testDestination>): Rig =>
    two({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(20, { channel: 2 }) }, [destination])
  it('finds what only the channel tells apart, and only where channels are merged', () => {
    expect(found(rig(merged))).toEqual(['error merged-channels'])
    expect(found(rig(testDestination('d')))).toEqual([])
  })
})
