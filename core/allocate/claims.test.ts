import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import type { Rig } from '../rig'
import { joined, only } from '../testing/mapped-rigs'
import {
  layeredTemplates,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
} from '../testing/rigs'
import { TERMS, type Plan } from '.'
import type { AllocateInput } from './request'
import { apply, moves, plan } from '../testing/plans'

const errorsAfter = (rig: Rig, { edits }: Plan): string[] =>
  check(apply(rig, edits)).findings.flatMap(({ severity, message }) =>
    severity === 'error' ? [message] : [],
  )
const nrpn = (number: number | 'wanted', channel = 1) => sending({ kind: 'nrpn', channel, number })

describe('a gesture that sends in several layers', () => {
  const replace = { mode: 'replace' as const, gestures: ['k1.turn'] }
  const layered = () => {
    const sends = { 'k1.turn': sendingCc(20) }
    return testRig(
      [
        testController('a', {}, { templates: layeredTemplates(sends, sends, replace) }),
        testController('b', { 'k2.turn': sendingCc(20) }),
      ],
      undefined,
      { mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })] },
    )
  }

  it('is lost when all of its layers have left, so the one that is learned nowhere moves', () => {
    const found = plan(layered(), { kind: 'repair' })
    expect(moves(found)).toEqual(['b/k2.turn: 1:cc20 → 1:cc3'])
    expect(found.score.stale).toBe(0)
    expect(found.stale).toEqual([])
  })

  it('is counted once where it has to be lost', () => {
    const rig = layered()
    const away: AllocateInput = { kind: 'avoid', away: [{ low: 20, high: 20 }] }
    const found = plan(rig, away)
    expect(found.score.stale).toBe(1)
    expect(found.stale).toHaveLength(1)
  })

  it('is proven lost where it sets off what nobody uses any more: no teaching ends that', () => {
    const rig = testRig(
      [
        testController(
          'a',
          {},
          {
            templates: layeredTemplates({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(21) }, replace),
          },
        ),
        testController('old', { 'k2.turn': sendingCc(30) }, { inUse: false }),
      ],
      undefined,
      {
        mappings: [
          joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
          joined('old/k2.turn', 'p2', { learnedAt: '1:cc20' }),
        ],
      },
    )
    const found = plan(rig, { kind: 'replan', policy: { kind: 'keep' } })
    expect(found.score.stale).toBe(1)
    expect(found.proven).toContain('stale')
    expect(moves(found)).toEqual(['a/k1.turn: 1:cc20 → 1:cc3'])
  })

  it('stays where what is taught again then, from another layer, would be an error; nobody else is kept from moving', () => {
    const wanting = Object.fromEntries(
      [1, 2, 3, 4, 5, 6].map((n) => [`k${n}.turn`, sending({ kind: 'cc', number: 'wanted' })]),
    )
    const crowd = Array.from({ length: 11 }, (_, n) => testController(`c${n}`, wanting))
    const pair = sending({ kind: 'cc14', number: 22 })
    const rig = testRig(
      [
        testController(
          'a',
          {},
          { templates: layeredTemplates({ 'k1.turn': pair }, { 'k1.turn': sendingCc(51) }, replace) },
        ),
        testController('b', {
          'k1.turn': { ...sendingCc(51), pinned: true },
          'k2.turn': { ...sendingCc(54), pinned: true },
        }),
        ...crowd,
      ],
      undefined,
      { mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc51' })] },
    )
    let checked = 0
    const found = plan(rig, { kind: 'replan', policy: { kind: 'keep' } }, () => checked++)
    expect(
      found.shortages.flatMap(({ at }) => at.map(({ controller, layer }) => `${controller} ${layer}`)),
    ).toEqual(['a y'])
    expect(moves(found)).toHaveLength(66)
    expect(checked).toBeLessThan(8)
  })

  it('stays where another control would move what is taught again then, from another layer', () => {
    const templates = layeredTemplates(
      { 'k1.turn': { ...sendingCc(40), pinned: true } },
      { 'k1.turn': sendingCc(30), 'k2.turn': { ...sendingCc(40), pinned: true } },
      { mode: 'replace' as const, gestures: ['k1.turn', 'k2.turn'] },
    )
    const other = testController('b', { 'k1.turn': { ...sendingCc(30), pinned: true } })
    const rig = testRig([testController('a', {}, { templates }), other], undefined, {
      mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc30' })],
    })
    let tried = 0
    const found = plan(rig, { kind: 'replan', policy: { kind: 'keep' } }, () => tried++)
    expect(found.shortages.flatMap(({ at }) => at.map(({ layer }) => layer))).toEqual(['y'])
    expect(tried).toBe(2)
  })

  it('gets the number at which it was learned, where that is free', () => {
    const rig = testRig(
      [
        testController(
          'a',
          {},
          {
            templates: layeredTemplates(
              { 'k1.turn': sending({ kind: 'cc', number: 'wanted' }) },
              { 'k1.turn': sending({ kind: 'cc', number: 'wanted' }) },
              replace,
            ),
          },
        ),
      ],
      undefined,
      { mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc33' })] },
    )
    const found = plan(rig, { kind: 'fill', shareLayers: true })
    expect(moves(found)).toContain('a/k1.turn: null → 1:cc33')
    expect(found.score.warnings).toBe(0)
  })
})

describe('gestures that could go to the same places', () => {
  it('lose what is learned of each, whichever comes first', () => {
    for (const [learned, other] of [
      ['k1', 'k2'],
      ['k2', 'k1'],
    ]) {
      const rig = testRig(
        [testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(20) })],
        undefined,
        {
          mappings: [
            joined(`a/${learned}.turn`, 'p1', { learnedAt: '1:cc20' }),
            joined(`a/${other}.turn`, 'p2', { learnedAt: '1:cc50' }),
          ],
        },
      )
      // Where the other one was learned it must not go: so either goes where nobody hears it.
      const found = plan(rig, {
        kind: 'repair',
        rules: [{ kind: 'avoid', channel: null, low: 50, high: 50, controller: null, block: null }],
      })
      expect(moves(found)).toEqual([`a/${other}.turn: 1:cc20 → 1:cc3`])
      expect(found.score).toMatchObject({ stale: 0, warnings: 1 })
    }
  })

  it('leave a channel, or stay on it, each by where it is', () => {
    const isOnTwo = { channel: 2 }
    const rig = testRig([
      testController('a', {
        'k1.turn': sendingCc(20),
        'k2.turn': sendingCc(20),
        'k3.turn': sendingCc(20, isOnTwo),
        'k4.turn': sendingCc(20, isOnTwo),
      }),
    ])
    const found = plan(rig, {
      kind: 'repair',
      rules: [{ kind: 'avoid', channel: 2, low: 0, high: 127, controller: null, block: null }],
    })
    expect(moves(found)).toEqual(['a/k1.turn: 1:cc20 → 1:cc3', 'a/k3.turn: 2:cc20 → 1:cc9'])
    expect(found.score.warnings).toBe(1)
  })
})

describe('who cannot be placed', () => {
  it('goes to another channel where its own brings an error each time', () => {
    const rig = testRig([testController('a', { 'k1.turn': nrpn('wanted'), 'k2.turn': sendingCc(6) })])
    const found = plan(rig, { kind: 'fill', policy: { kind: 'among', channels: [1, 2] } })
    expect(moves(found)).toEqual(['a/k1.turn: null → 2:nrpn0'])
    expect(found.shortages).toEqual([])
  })

  it('takes a number from nobody else who is left too: that no room is left for them is in the score', () => {
    const wanted = (kind: 'cc' | 'cc14') => sending({ kind, number: 'wanted' })
    const houseRules = [
      { id: 'r1', kind: 'avoid' as const, message: 'cc' as const, low: 0, high: 19 },
      { id: 'r2', kind: 'avoid' as const, message: 'cc' as const, low: 21, high: 51 },
      { id: 'r3', kind: 'avoid' as const, message: 'cc' as const, low: 53, high: 127 },
      { id: 'r4', kind: 'avoid' as const, message: 'cc14' as const, low: 0, high: 19 },
      { id: 'r5', kind: 'avoid' as const, message: 'cc14' as const, low: 21, high: 31 },
    ]
    const rig = testRig(
      [testController('a', { 'k1.turn': wanted('cc14'), 'k2.turn': wanted('cc'), 'k3.turn': wanted('cc') })],
      undefined,
      { houseRules },
    )
    const found = plan(rig, { kind: 'fill', policy: { kind: 'keep' } })
    expect(moves(found)).toHaveLength(2)
    expect(found.score.errors).toBe(1)
    expect(found.bound).toBeNull()
    expect(found.shortages.flatMap(({ at }) => at.map(({ gesture }) => gesture))).toEqual(['k1.turn'])
  })

  it('is counted, named, and keeps its address taken', () => {
    const rig = testRig([
      testController('a', { 'k1.turn': { ...sendingCc(20), pinned: true } }),
      testController('b', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }),
      testController('c', { 'k1.turn': { ...sendingCc(21), pinned: true } }),
    ])
    const rules = [
      { kind: 'avoid' as const, low: 0, high: 19 },
      { kind: 'avoid' as const, low: 23, high: 127 },
    ]
    const found = plan(rig, { kind: 'repair', policy: { kind: 'keep' }, rules })
    expect(found.score.errors).toBe(1)
    expect(found.changes).toHaveLength(1)
    expect(found.shortages.flatMap(({ at }) => at)).toHaveLength(1)
    expect(errorsAfter(rig, found)).toHaveLength(1)
  })
})

describe('one channel for each', () => {
  const crowd = (count: number, gestures: number) =>
    testRig(
      Array.from({ length: count }, (_, index) =>
        testController(
          `c${index}`,
          Object.fromEntries(
            Array.from({ length: gestures }, (_each, knob) => [
              `k${knob + 1}.turn`,
              sending({ kind: 'cc', number: 'wanted' }),
            ]),
          ),
        ),
      ),
    )

  it('lets as few share as must where there are more controllers than channels', () => {
    const found = plan(crowd(17, 2), { kind: 'fill', policy: { kind: 'each-controller' } })
    const counts = new Map<number, number>()
    for (const { channel } of found.changes) counts.set(channel, (counts.get(channel) ?? 0) + 1)
    expect([...counts.values()].toSorted((a, b) => a - b)).toEqual([...Array<number>(15).fill(2), 4])
    expect(found.score.errors).toBe(0)
  })

  it('goes by destination, whatever controller sends, and leaves what is joined to nothing on its channel', () => {
    const rig = testRig(
      [
        testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(30) }),
        testController('b', { 'k1.turn': sending({ kind: 'cc', channel: 3, number: 21 }) }),
      ],
      [testDestination('d'), testDestination('e')],
      {
        mappings: [
          joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
          joined('b/k1.turn', 'p2', { learnedAt: '3:cc21' }),
        ],
      },
    )
    const found = plan(rig, { kind: 'replan', policy: { kind: 'each-destination' } })
    const then = apply(rig, found.edits)
    const channels = check(then).context.occupancy.senders.map(({ channel }) => channel)
    expect(channels[0]).toBe(channels[2])
    expect(channels[1]).toBe(1)
  })

  it('that cannot be had is no error in a rig that has none', () => {
    const rig = testRig(
      [
        testController('a', {
          'k1.turn': sending({ kind: 'cc', channel: 1, number: 20 }),
          'k2.turn': sending({ kind: 'cc', channel: 2, number: 21 }),
        }),
      ],
      [testDestination('d', only(1)), testDestination('e', only(2))],
      {
        mappings: [
          joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
          { ...joined('a/k2.turn', 'p2', { learnedAt: '2:cc21' }), destination: 'e' },
        ],
      },
    )
    const found = plan(rig, { kind: 'replan', policy: { kind: 'each-controller' } })
    expect(found.score).toMatchObject({ errors: 0, unmet: 1, stale: 0 })
    expect(found.shortages[0]?.help).toBe('To help: let channels stay as they are.')
  })
})

it('lets another leave its channel rather than lose what was learned', () => {
  const full = Object.fromEntries(
    Array.from({ length: 2 }, (_, index) => [`k${index + 1}.turn`, sendingCc(20 + index)]),
  )
  const rig = testRig(
    [testController('a', full), testController('b', { 'k1.turn': sendingCc(20) })],
    undefined,
    {
      mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })],
    },
  )
  // On channel 1 there is one free number, and b may not have it.
  const rules = [
    { kind: 'avoid' as const, channel: 1, low: 0, high: 19 },
    { kind: 'avoid' as const, channel: 1, low: 23, high: 127 },
    { kind: 'avoid' as const, channel: 1, low: 22, high: 22, controller: 'b' },
  ]
  const found = plan(rig, { kind: 'repair', rules })
  expect(found.score).toMatchObject({ errors: 0, stale: 0, warnings: 1 })
  expect(moves(found)).toEqual([expect.stringMatching(/^b\/k1\.turn: 1:cc20 → 2:/)])
})

it('what is joined to nothing may leave some of the destinations that it reaches', () => {
  const channelOne = { playing: { channels: { kind: 'only' as const, channels: [1] } } }
  const rig = testRig(
    [
      testController('a', { 'k1.turn': { ...sendingCc(20), pinned: true } }),
      testController('b', { 'k1.turn': sendingCc(20) }),
    ],
    [testDestination('d'), testDestination('e', { hears: channelOne })],
  )
  const found = plan(rig, {
    kind: 'repair',
    rules: [{ kind: 'avoid', channel: 1, low: 0, high: 127 }],
  })
  expect(found.score.errors).toBe(0)
  expect(found.shortages).toEqual([])
})

it('leaves the last number to the one who wants it', () => {
  const rig = testRig(
    [
      testController('a', { 'k1.turn': { ...sendingCc(20), pinned: true } }),
      testController('b', { 'k1.turn': sendingCc(20), 'k2.turn': sending({ kind: 'cc', number: 'wanted' }) }),
    ],
    undefined,
    {
      houseRules: [
        { id: 'x', kind: 'avoid', channel: 1, low: 0, high: 20 },
        { id: 'y', kind: 'avoid', channel: 1, low: 22, high: 127 },
      ].map((rule) => ({ ...rule, kind: 'avoid' as const })),
    },
  )
  const found = plan(rig, { kind: 'repair', policy: { kind: 'keep' } })
  expect(found.changes).toEqual([])
  expect(found.score.errors).toBe(1)
  // The first plan had it at 21: what it came to by being barred from there is not called proven.
  expect(found.bound).toEqual({ term: 'errors', value: 0 })
  expect(found.shortages.flatMap(({ at }) => at)).not.toEqual([])
  const wide = plan(rig, { kind: 'repair' })
  expect(moves(wide)).toEqual([expect.stringMatching(/^b\/k1\.turn: 1:cc20 → 2:/)])
})

it('tells what moves nothing from then on although nothing is lost', () => {
  const sends = { 'k1.turn': sendingCc(20) }
  const rig = testRig(
    [
      testController(
        'a',
        {},
        { templates: layeredTemplates(sends, sends, { mode: 'replace', gestures: ['k1.turn'] }) },
      ),
    ],
    undefined,
    {
      mappings: [
        joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
        joined('a/k1.turn', 'p2', { learnedAt: '1:cc20' }),
      ],
    },
  )
  const found = plan(rig, { kind: 'repair' })
  expect(moves(found)).toHaveLength(1)
  expect(found.stale).toEqual([])
  expect(found.silenced.map(({ message }) => message)).toEqual([
    expect.stringMatching(/moves nothing until whichever of D · One and D · Two it is for is taught there/),
  ])
})

it('says why this one moves, and why there', () => {
  const rig = testRig(
    [
      testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }),
      testController('b', { 'k1.turn': sendingCc(20) }),
    ],
    undefined,
    { mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })] },
  )
  const [change] = plan(rig, { kind: 'repair' }).changes
  expect(change?.at.controller).toBe('b')
  expect(change?.reason).toMatch(/both send 1:cc20.* Knob 1 \(A\) stays: it would have to be taught again\./)
})

it('holds all terms of a rig without free gestures for proven', () => {
  const found = plan(testRig([testController('a', { 'k1.turn': sendingCc(20) })]), { kind: 'repair' })
  expect(found.proven).toEqual(TERMS)
})
