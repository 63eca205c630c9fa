import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { isWanting } from '../addresses'
import { check, RULES, type Finding } from '../conflicts'
import { assignmentsOf, numberOf, perform, placeKey, undone, type Rig } from '../rig'
import {
  anyRig,
  layeredTemplates,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
} from '../testing/rigs'
import { problemsOf, type Plan } from '.'
import { AllocateRequest, type AllocateInput } from './request'
import { tagOf } from '../testing/addresses'
import { onceTaught } from '../mappings'
import { apply, plan } from '../testing/plans'
import { cases } from '../testing/cases'

const after = (rig: Rig, input: AllocateInput): Rig => apply(rig, plan(rig, input).edits)
const errors = (rig: Rig): Finding[] => check(rig).findings.filter(({ severity }) => severity === 'error')
/** Errors before those of one cause are told as one. */
const errorsOneByOne = (rig: Rig) =>
  check(rig).reports.flatMap(({ rule, draft: { severity, places, senders, message } }) =>
    severity === 'error'
      ? [{ rule, at: (places ?? senders.map(({ place }) => place)).map(placeKey), message }]
      : [],
  )
const moves = ({ changes }: Plan): string[] => changes.map(({ from, to }) => `${tagOf(from)} → ${tagOf(to)}`)

const anyInput: fc.Arbitrary<AllocateInput> = fc
  .record({
    kind: fc.constantFrom('fill', 'repair', 'replan', 'avoid', 'make-room'),
    policy: fc.constantFrom<Array<NonNullable<AllocateInput['policy']>>>(
      { kind: 'keep' },
      { kind: 'keep-if-room' },
      { kind: 'among', channels: [1, 2, 3] },
      { kind: 'each-controller' },
      { kind: 'each-layer' },
    ),
    shareLayers: fc.boolean(),
  })
  .map(({ kind, ...options }): AllocateInput => {
    const all = { ...options, steps: 20_000 }
    switch (kind) {
      case 'avoid':
        return { kind, ...all, away: [{ channel: 1, low: 16, high: 60 }] }
      case 'make-room':
        return { kind, ...all, controller: 'a' }
      default:
        return { kind, ...all }
    }
  })

describe('a plan', () => {
  it('moves no pin, makes no error, is the same each time, and can be undone', () => {
    fc.assert(
      fc.property(anyRig, anyInput, (rig, input) => {
        const first = plan(rig, input)
        expect(plan(rig, input)).toEqual(first)
        const pinned = new Set(
          rig.controllers.flatMap((controller) =>
            [...assignmentsOf(controller)].flatMap(({ place, assignment }) =>
              assignment.pinned ? [placeKey(place)] : [],
            ),
          ),
        )
        for (const { at } of first.changes) expect(pinned).not.toContain(placeKey(at))
        const { rig: then, step } = perform(rig, 'plan', first.edits)
        const before = errorsOneByOne(rig)
        // What is to be taught again is part of the plan.
        for (const { rule, at, message } of errorsOneByOne(onceTaught(rig, then).rig)) {
          const wasThere = before.some((old) => old.rule === rule && at.every((key) => old.at.includes(key)))
          expect(wasThere, message).toBe(true)
        }
        expect(undone(then, step)).toEqual(rig)
      }),
      cases(12),
    )
  })

  it('drops nobody: who wants a number, or is in an error that numbers can cure, is changed, well where it is, or named', () => {
    const numbered = new Set(RULES.filter(({ byNumbers }) => byNumbers).map(({ id }) => id))
    fc.assert(
      fc.property(
        anyRig,
        anyInput.filter(({ kind }) => kind === 'fill' || kind === 'replan'),
        (rig, input) => {
          const found = plan(rig, input)
          const then = onceTaught(rig, apply(rig, found.edits)).rig
          const named = new Set(
            [...found.shortages, ...found.leaves].flatMap(({ at }) => at.map((place) => placeKey(place))),
          )
          const wanting = check(then).context.occupancy.senders.filter(isWanting)
          for (const { place } of wanting) expect(named).toContain(placeKey(place))
          if (input.kind !== 'replan') return
          for (const { rule, at } of check(then).findings.filter(({ severity }) => severity === 'error'))
            if (numbered.has(rule)) for (const place of at) expect(named, rule).toContain(placeKey(place))
        },
      ),
      cases(20),
    )
  })

  it('says of the demo planned anew, where all could leave their channel, how near the best its breaks are', () => {
    const { score, proven, bound } = plan(nineRingsRig('as-found'), { kind: 'replan' })
    expect(proven).toEqual(['errors', 'unmet', 'stale', 'warnings', 'changed'])
    expect(bound?.term).toBe('breaks')
    expect(bound?.value).toBeLessThanOrEqual(score.breaks)
    expect(bound?.value).toBeGreaterThan(0.9 * score.breaks)
  })

  it('cures every error of the demo that numbers can cure, and keeps what was learned where it can', () => {
    const rig = nineRingsRig('as-found')
    const found = plan(rig, { kind: 'repair' })
    expect(found.leaves).toEqual([])
    expect(found.shortages).toEqual([])
    expect(found.bound).toBeNull()
    expect(found.cures.map(({ finding }) => finding?.rule)).toEqual(['merged-channels', 'ghost'])
    const after = onceTaught(rig, apply(rig, found.edits)).rig
    const rules = new Set(errors(after).map(({ rule }) => rule))
    for (const rule of [
      'same-address',
      'merged-channels',
      'claimed',
      'ghost',
      'secondary',
      'pair-broken',
      'reserved',
    ])
      expect(rules).not.toContain(rule)
  })
})

describe('fill', () => {
  const wanting = sending({ kind: 'cc', number: 'wanted' })

  it('gives a run of the best numbers, beside what is taken, avoided and kept', () => {
    const rig = testRig(
      [testController('a', { 'k1.turn': wanting, 'k2.turn': wanting, 'k3.turn': sendingCc(3) })],
      [
        testDestination('d', {
          claims: [{ id: 'c', function: 'its clock', kind: 'cc', channel: 1, low: 9, high: 9, serves: [] }],
        }),
      ],
      { houseRules: [{ id: 'h', kind: 'avoid', low: 0, high: 13, memo: 'nothing below 14' }] },
    )
    expect(moves(plan(rig, { kind: 'fill' }))).toEqual(['null → 1:cc14', 'null → 1:cc15'])
  })

  it('goes to what is preferred, even where the standard has a meaning for it', () => {
    const rig = testRig([testController('a', { 'k1.turn': wanting })])
    const rules = [{ kind: 'prefer' as const, low: 70, high: 72 }]
    expect(moves(plan(rig, { kind: 'fill', rules }))).toEqual(['null → 1:cc70'])
  })

  it('says who competes for what where there is no room, and what would help', () => {
    const rules = [
      { kind: 'avoid' as const, low: 0, high: 20 },
      { kind: 'avoid' as const, low: 22, high: 127 },
    ]
    const rig = testRig([testController('a', { 'k1.turn': wanting, 'k2.turn': wanting })])
    const found = plan(rig, { kind: 'fill', rules, policy: { kind: 'keep' } })
    expect(found.changes).toHaveLength(1)
    expect(found.score.errors).toBe(1)
    expect(found.shortages[0]?.message).toMatch(/2 gestures compete for 1 free CC number on channel 1/)
    expect(found.shortages[0]?.help).toMatch(/any channel/)
  })

  it('leaves its channel only for want of room', () => {
    const rules = [{ kind: 'avoid' as const, channel: 1, low: 0, high: 127 }]
    const rig = testRig([testController('a', { 'k1.turn': wanting })])
    const left = plan(rig, { kind: 'fill', rules })
    expect(moves(left)).toEqual(['null → 2:cc3'])
    // That it is on another channel than its controller is worth a warning.
    expect(left.score.warnings).toBe(1)
    expect(plan(rig, { kind: 'fill', rules, policy: { kind: 'keep' } }).changes).toEqual([])
  })
})

describe('repair', () => {
  const clash = (more: object = {}) =>
    testRig(
      [testController('a', { 'k1.turn': sendingCc(20) }), testController('b', { 'k1.turn': sendingCc(20) })],
      undefined,
      more,
    )

  it('moves the one of two that no destination has learned', () => {
    const mappings = [
      { id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' },
    ]
    const found = plan(clash({ mappings }), { kind: 'repair' })
    expect(found.changes.map(({ at }) => at.controller)).toEqual(['b'])
    expect(found.stale).toEqual([])
    expect(found.changes[0]?.reason).toMatch(/both send 1:cc20/)
  })

  it('moves only as many as meet: of three of whom two meet the third, the third', () => {
    const sends = { 'k1.turn': sendingCc(20) }
    const wire = (from: string, to: string) => ({
      id: `${from}-${to}`,
      from: { owner: from, port: 'out' },
      to: { owner: to, port: 'in' },
    })
    const ids = ['a', 'b', 'c']
    // Whichever of them it is.
    for (const third of ids) {
      const [one = '', other = ''] = ids.filter((id) => id !== third)
      const rig = testRig(
        ids.map((id) => testController(id, sends)),
        [testDestination('d'), testDestination('e')],
        { cables: [wire(one, 'd'), wire(third, 'd'), wire(third, 'e'), wire(other, 'e')] },
      )
      const found = plan(rig, { kind: 'repair' })
      expect(found.changes.map(({ at }) => at.controller)).toEqual([third])
      expect(errors(apply(rig, found.edits))).toEqual([])
    }
    const layered = testRig([
      testController('x', {}, { templates: layeredTemplates(sends, sends, { gestures: ['k1.turn'] }) }),
      testController('y', sends),
    ])
    expect(plan(layered, { kind: 'repair' }).changes.map(({ at }) => at.controller)).toEqual(['y'])
  })

  it('keeps the one of many that was learned, wherever it stands', () => {
    const ids = Array.from({ length: 16 }, (_, index) => `c${index}`)
    const mappings = [
      { id: 'm', gesture: 'c15/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' },
    ]
    const rig = testRig(
      ids.map((id) => testController(id, { 'k1.turn': sendingCc(20) })),
      undefined,
      { mappings },
    )
    const found = plan(rig, { kind: 'repair' })
    expect(found.score).toMatchObject({ errors: 0, stale: 0, changed: 15 })
    expect(found.changes.map(({ at }) => at.controller)).not.toContain('c15')
  })

  it('leaves together what shares on purpose, unless it is named', () => {
    // 7 has a meaning by the standard: whoever may move goes elsewhere.
    const rig = testRig(
      [testController('a', { 'k1.turn': sendingCc(7) }), testController('b', { 'k1.turn': sendingCc(7) })],
      undefined,
      { accords: [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'b/k1.turn'] }] },
    )
    expect(plan(rig, { kind: 'replan' }).changes).toEqual([])
    expect(
      plan(rig, { kind: 'replan', gestures: ['a/k1.turn'] }).changes.map(({ at }) => at.controller),
    ).toEqual(['a'])
  })

  it('plans again without a line that is struck out', () => {
    const rig = clash()
    const first = plan(rig, { kind: 'repair' })
    const struck = first.changes.map(({ key }) => key)
    const second = plan(rig, { kind: 'repair', struck })
    expect(second.changes.map(({ at }) => at.controller)).not.toEqual(
      first.changes.map(({ at }) => at.controller),
    )
    expect(errors(apply(rig, second.edits))).toEqual([])
  })

  it('leaves two pins on one address, and says which would have to be unpinned', () => {
    const pinned = { ...sendingCc(20), pinned: true }
    const rig = testRig([
      testController('a', { 'k1.turn': pinned }),
      testController('b', { 'k1.turn': pinned }),
    ])
    const found = plan(rig, { kind: 'repair' })
    expect(found.changes).toEqual([])
    expect(found.leaves).toHaveLength(1)
    expect(found.shortages[0]?.help).toMatch(/Knob 1 \(A\) and Knob 1 \(B\): it is pinned/)
  })
})

it('make room leaves the new controller as it is', () => {
  const rig = testRig([
    testController('a', { 'k1.turn': sendingCc(20) }),
    testController('new', { 'k1.turn': sendingCc(20) }),
  ])
  const found = plan(rig, { kind: 'make-room', controller: 'new' })
  expect(found.changes.map(({ at }) => at.controller)).toEqual(['a'])
  // As few as can be are changed, before runs and ranks are looked at.
  expect(found.score).toMatchObject({ changed: 1, moved: 0 })
  expect(errors(apply(rig, found.edits))).toEqual([])
})

it('avoid moves away what lies there, and nothing else', () => {
  const rig = testRig([testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(30) })])
  const moved = after(rig, { kind: 'avoid', away: [{ low: 16, high: 24 }] })
  const numbers = moved.controllers.flatMap((controller) =>
    [...assignmentsOf(controller)].flatMap(({ assignment }) =>
      assignment.messages.map((message) => ('number' in message ? Number(message.number) : NaN)),
    ),
  )
  expect(numbers[1]).toBe(30)
  expect(numbers[0]).not.toBeGreaterThan(30)
  expect(numbers[0] !== undefined && numbers[0] >= 16 && numbers[0] <= 24).toBe(false)
})

it('avoid moves notes where notes are meant, and leaves controllers of the same number', () => {
  const rig = testRig([
    testController('a', {
      'k1.turn': sendingCc(20),
      'k2.turn': sending({ kind: 'note', keys: { kind: 'one', number: 20 } }),
    }),
  ])
  const moved = after(rig, {
    kind: 'avoid',
    gestures: ['a/k1.turn', 'a/k2.turn'],
    away: [{ message: 'note', low: 10, high: 30 }],
  })
  const [turn, note] = moved.controllers.flatMap((controller) =>
    [...assignmentsOf(controller)].flatMap(({ assignment }) => assignment.messages.map(numberOf)),
  )
  expect(turn).toBe(20)
  expect(note !== null && note !== undefined && (note < 10 || note > 30)).toBe(true)
})

it.each<[string, AllocateInput, RegExp]>([
  ['avoids everything', { kind: 'fill', rules: [{ kind: 'avoid', low: 0, high: 127 }] }, /none can be given/],
  [
    'prefers and avoids the same',
    {
      kind: 'fill',
      rules: [
        { kind: 'prefer', low: 20, high: 30 },
        { kind: 'avoid', low: 25, high: 26 },
      ],
    },
    /opposite things/,
  ],
  ['moves away from everything', { kind: 'avoid', away: [{}] }, /nowhere to go/],
  ['stands in for itself', { kind: 'stand-in', controller: 'a', for: 'a' }, /itself/],
  ['speaks of a controller that is gone', { kind: 'make-room', controller: 'nobody' }, /no such controller/],
])('a request that %s is refused, saying why', (_, input, reason) => {
  const rig = testRig([testController('a', {})])
  const [problem] = problemsOf(rig, AllocateRequest.parse(input))
  expect(problem?.message).toMatch(reason)
  expect(problem?.path).toMatch(/^request/)
})
