import { describe, expect, it } from 'vitest'
import type { Rig, RigInput } from '../rig'
import { sending, sendingCc, testController, testDestination, testRig } from '../testing/rigs'
import { check } from '.'
import { cures, severities, type CableInput } from '../testing/mapped-rigs'

type BoxInput = NonNullable<RigInput['boxes']>[number]

const cable = (from: string, to: string, more: Partial<CableInput> = {}): CableInput => {
  const [fromOwner = '', fromPort = ''] = from.split('.')
  const [toOwner = '', toPort = ''] = to.split('.')
  return {
    id: `${from}-${to}`.replaceAll('.', '-'),
    from: { owner: fromOwner, port: fromPort },
    to: { owner: toOwner, port: toPort },
    ...more,
  }
}
const box = (id: string): BoxInput => ({
  id,
  name: id.toUpperCase(),
  kind: 'merge',
  ports: [
    { id: 'in', name: 'In', direction: 'in' },
    { id: 'back', name: 'Back', direction: 'in' },
    { id: 'out', name: 'Out', direction: 'out' },
  ],
})
const withThru = testDestination('d', {
  ports: [
    { id: 'in', name: 'In', direction: 'in' },
    { id: 'thru', name: 'Thru', direction: 'thru' },
  ],
})

describe('loop', () => {
  const ringed = (back: Partial<CableInput> = {}, forth: Partial<CableInput> = {}): Rig =>
    testRig([testController('a', { 'k1.turn': sendingCc(20) })], [withThru], {
      boxes: [box('m')],
      cables: [cable('a.out', 'm.in'), cable('m.out', 'd.in', forth), cable('d.thru', 'm.back', back)],
    })
  const only = (channel: number) => [{ kind: 'pass' as const, match: { channels: [channel] } }]
  const moved = (from: number, to: number) => [
    { kind: 'rewrite' as const, match: { channels: [from] }, to: { channel: to } },
  ]

  it('finds a ring of thru and box, and offers to take a cable of it out', () => {
    expect(severities(ringed(), 'loop')).toEqual(['error'])
    expect(cures(ringed(), 'loop')).toContain('unplug')
  })
  it('names what goes round where rules let only that pass', () => {
    const rig = ringed({ rules: [{ kind: 'pass', match: { kinds: ['note'] } }], otherwise: 'stop' })
    expect(check(rig).findings.find(({ rule }) => rule === 'loop')?.message).toMatch(/^Note messages/)
  })
  it('tries a channel that no rule names too', () => {
    const others = {
      rules: [
        { kind: 'stop' as const, match: { channels: [1] } },
        { kind: 'pass' as const, match: { kinds: ['cc' as const] } },
      ],
    }
    expect(severities(ringed({ ...others, otherwise: 'stop' }), 'loop')).toEqual(['error'])
  })
  it('follows rewriting: a channel that is turned into one that stops does not come round', () => {
    expect(severities(ringed({ rules: moved(1, 2) }, { rules: only(1), otherwise: 'stop' }), 'loop')).toEqual(
      [],
    )
    expect(
      severities(ringed({ rules: moved(1, 2) }, { rules: moved(2, 1), otherwise: 'stop' }), 'loop'),
    ).toEqual(['error'])
  })
  it('finds the one number among many that a rule takes to where it goes round', () => {
    // What comes in at 40 leaves at 60, and only 60 passes the ring; 60 itself does not come in.
    const shifted = (start: { low: number; high: number }): Rig =>
      testRig([testController('a', { 'k1.turn': sendingCc(20) })], [withThru], {
        boxes: [box('m')],
        cables: [
          cable('a.out', 'm.in', {
            rules: [{ kind: 'pass', match: { kinds: ['cc'], ...start } }],
            otherwise: 'stop',
          }),
          cable('m.out', 'd.in', {
            rules: [
              { kind: 'rewrite', match: { kinds: ['cc'], low: 30, high: 45 }, to: { number: 50 } },
              { kind: 'pass', match: { kinds: ['cc'], low: 60, high: 60 } },
            ],
            otherwise: 'stop',
          }),
          cable('d.thru', 'm.back', {
            rules: [{ kind: 'pass', match: { kinds: ['cc'], low: 60, high: 60 } }],
            otherwise: 'stop',
          }),
        ],
      })
    expect(severities(shifted({ low: 10, high: 50 }), 'loop')).toEqual(['error'])
    expect(severities(shifted({ low: 41, high: 50 }), 'loop')).toEqual([])
    expect(severities(shifted({ low: 10, high: 39 }), 'loop')).toEqual([])
  })
  it.each<[string, Rig]>([
    ['a ring that lets nothing pass', ringed({ otherwise: 'stop' })],
    [
      'rules of which each stops what the other lets pass',
      ringed({ rules: only(1), otherwise: 'stop' }, { rules: only(2), otherwise: 'stop' }),
    ],
    [
      'a chain that does not close',
      testRig([testController('a', {})], [withThru], {
        boxes: [box('m')],
        cables: [cable('a.out', 'm.in'), cable('m.out', 'd.in')],
      }),
    ],
  ])('stays silent for %s', (_, rig) => expect(severities(rig, 'loop')).toEqual([]))
})

describe('double-path', () => {
  const twoWays = (
    second: Partial<CableInput> = {},
    more: Partial<RigInput> = {},
    sent = sendingCc(20),
  ): Rig =>
    testRig(
      [
        testController(
          'a',
          { 'k1.turn': sent },
          {
            ports: [
              { id: 'out', name: 'Out', direction: 'out' },
              { id: 'too', name: 'Too', direction: 'out' },
            ],
          },
        ),
      ],
      [testDestination('d')],
      {
        boxes: [box('m')],
        cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in', second), cable('m.out', 'd.in')],
        ...more,
      },
    )
  it('finds a second way to one input, which can be stopped or unplugged', () => {
    expect(severities(twoWays(), 'double-path')).toEqual(['error'])
    expect(new Set(cures(twoWays(), 'double-path'))).toEqual(new Set(['stop', 'unplug']))
  })
  it('stays silent where the second way stops it, or goes elsewhere', () => {
    const stops = { rules: [{ kind: 'stop' as const, match: { channels: [1] } }] }
    expect(severities(twoWays(stops), 'double-path')).toEqual([])
    expect(
      severities(twoWays({}, { cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in')] }), 'double-path'),
    ).toEqual([])
  })
  it('offers no cable without which another destination would hear nothing', () => {
    const elsewhere = (...more: CableInput[]): Rig => {
      const rig = testRig(
        [
          testController(
            'a',
            { 'k1.turn': sendingCc(20) },
            {
              ports: [
                { id: 'out', name: 'Out', direction: 'out' },
                { id: 'too', name: 'Too', direction: 'out' },
              ],
            },
          ),
          testController('b', { 'k1.turn': sendingCc(21) }),
        ],
        [testDestination('d'), testDestination('e')],
        {
          boxes: [box('m')],
          cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in'), cable('m.out', 'd.in'), ...more],
        },
      )
      return rig
    }
    const labels = (rig: Rig): string[] => {
      const { findings, fixesOf } = check(rig)
      const finding = findings.find(({ rule }) => rule === 'double-path')
      return fixesOf(finding?.id ?? '').map(({ label }) => label)
    }
    expect(labels(elsewhere()).some((label) => label.includes('A · Too'))).toBe(true)
    const kept = labels(elsewhere(cable('m.out', 'e.in')))
    expect(kept.length).toBeGreaterThan(0)
    expect(kept.some((label) => label.includes('A · Too'))).toBe(false)
  })
  it('lets what may come again come twice: programs, with a bank too', () => {
    const program = (bank: { msb: number; lsb: number } | null) =>
      sending({ kind: 'program', number: 3, bank })
    expect(severities(twoWays({}, {}, program(null)), 'double-path')).toEqual([])
    expect(severities(twoWays({}, {}, program({ msb: 1, lsb: 0 })), 'double-path')).toEqual([])
  })
  it('names only the ways by which it arrives twice', () => {
    const stopped = { id: 'third', otherwise: 'stop' as const }
    const rig = twoWays(
      {},
      {
        cables: [
          cable('a.out', 'd.in'),
          cable('a.too', 'm.in'),
          cable('m.out', 'd.in'),
          cable('a.too', 'm.back', stopped),
        ],
      },
    )
    const finding = check(rig).findings.find((each) => each.rule === 'double-path')
    expect(finding?.message).toContain('by A → D and A → M → D:')
    expect(finding?.things.map(({ id }) => id)).not.toContain('third')
  })
  it('counts local control as a way of its own', () => {
    const unit = (localControl: boolean): Rig =>
      testRig(
        [testController('a', { 'k1.turn': sendingCc(20) })],
        [testDestination('d', { unit: { controller: 'a', localControl } })],
      )
    expect(severities(unit(true), 'double-path')).toEqual(['error'])
    expect(cures(unit(true), 'double-path')[0]).toBe('local-off')
    expect(severities(unit(false), 'double-path')).toEqual([])
  })
})

describe('port-held', () => {
  const program = (id: string, port: string) =>
    testDestination(id, {
      kind: 'daw',
      ports: [{ id: 'in', name: 'In', direction: 'in', opens: { computer: 'pc', port } }],
    })
  const shared = (sharing: 'shared' | 'exclusive', second = 'usb'): Rig =>
    testRig([testController('a', {})], [program('d', 'usb'), program('e', second)], {
      computers: [
        {
          id: 'pc',
          name: 'Laptop',
          ports: [
            { id: 'usb', name: 'USB', sharing },
            { id: 'usb-2', name: 'USB 2', sharing },
          ],
        },
      ],
      cables: [cable('a.out', 'pc.usb')],
    })
  it('is an error where the port is exclusive, else advice; one of the two can close it', () => {
    expect(severities(shared('exclusive'), 'port-held')).toEqual(['error'])
    expect(severities(shared('shared'), 'port-held')).toEqual(['advice'])
    expect(cures(shared('exclusive'), 'port-held')).toEqual(['close', 'close'])
  })
  it('stays silent where each has a port', () => {
    expect(severities(shared('exclusive', 'usb-2'), 'port-held')).toEqual([])
  })
})
