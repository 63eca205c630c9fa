import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { crowdedRig } from '../testing/crowded-rigs'
import { joined } from '../testing/mapped-rigs'
import { apply, plan, programs } from '../testing/plans'
import { sending, sendingCc, testController, testRig } from '../testing/rigs'
import { allocate } from './allocate'
import { hasPlace, problemBuilder } from './build-problem'
import { askedSenders, troublesOf } from './free'
import type { Plan } from './plan'
import { AllocateRequest } from './request'
import { TERMS, type Score, type Term } from './solver/problem'
import { withRoomForAll } from './solver/roomy'
import { solve } from './solver/solve'

/** Below zero if the first of two scores is better in some terms. */
function compareIn(terms: readonly Term[], a: Score, b: Score): number {
  const differs = terms.find((term) => a[term] !== b[term])
  return differs === undefined ? 0 : a[differs] - b[differs]
}

it('says what is certain where not everyone is asked: nothing is better with all who may move on all channels', () => {
  let proven = 0
  for (let seed = 1; seed <= 4; seed++) {
    const { rig } = crowdedRig({ seed, gestures: 8 + 2 * seed, channels: 1, full: 0.3 + 0.05 * seed })
    const checked = check(rig)
    const request = AllocateRequest.parse({ kind: 'replan' })
    const troubles = troublesOf(checked)
    const { free } = askedSenders(checked, request, troubles)
    const problems = problemBuilder(checked.context, request, free)(troubles)
    const wide = problems.build(new Set(), new Set(free))
    const roomy = solve(problems.roomy(), { steps: 1e5, programs })
    const ofAll = solve(
      withRoomForAll(
        wide.problem,
        (item, candidate) => wide.goesTo(item, candidate) !== null,
        wide.senders.length,
      ),
      { steps: 1e5, programs },
    )
    // One place of each channel stands for all that are like it.
    expect(roomy.score).toEqual(ofAll.score)
    const best = solve(wide.problem, { steps: 4e5, programs })
    const found = plan(rig, { kind: 'replan' })
    expect(compareIn(found.proven, found.score, best.score)).toBeLessThanOrEqual(0)
    if (found.bound) expect(found.bound.value).toBeLessThanOrEqual(best.score[found.bound.term])
    // Where all are asked nothing stays open.
    if (found.bound !== null && found.proven.includes('breaks')) proven++
    const first = TERMS.slice(0, TERMS.indexOf('breaks'))
    expect(compareIn(first, roomy.score, best.score)).toBeLessThanOrEqual(0)
  }
  expect(proven).toBeGreaterThan(1)
}, 120_000)

it('knows of each item which candidate leaves it as it is, on whatever channels it could go', () => {
  const { rig } = crowdedRig({ seed: 3, gestures: 24, channels: 2, full: 0.3 })
  const checked = check(rig)
  const request = AllocateRequest.parse({ kind: 'replan' })
  const troubles = troublesOf(checked)
  const { free } = askedSenders(checked, request, troubles)
  const { problem, senders, goesTo } = problemBuilder(
    checked.context,
    request,
    free,
  )(troubles).build(new Set(), new Set(free))
  const leaving = senders.map((_, item) => problem.items[item]?.leave ?? -1)
  expect(Math.max(...leaving)).toBeGreaterThan(100)
  leaving.forEach((candidate, item) => expect(goesTo(item, candidate)).toBeNull())
  expect(leaving).not.toContain(-1)
})

it('looks at once on the own channels only where many may move, and does not wait for what would help', () => {
  const wanting = Object.fromEntries(
    [1, 2, 3, 4, 5, 6].map((n) => [`k${n}.turn`, sending({ kind: 'cc', number: 'wanted' })]),
  )
  const crowd = Array.from({ length: 42 }, (_, index) =>
    testController(`c${index}`, wanting, { homeChannel: 3 + (index % 4) }),
  )
  const few = [
    testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }),
    testController('b', { 'k1.turn': sendingCc(20) }),
  ]
  const mappings = [
    joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
    joined('a/k2.turn', 'p2', { learnedAt: '1:cc21' }),
  ]
  // On channel 1 there is one free number, and b may not have it.
  const rules = [
    { kind: 'avoid' as const, channel: 1 as const, low: 0, high: 19 },
    { kind: 'avoid' as const, channel: 1 as const, low: 23, high: 127 },
    { kind: 'avoid' as const, channel: 1 as const, low: 22, high: 22, controller: 'b' },
  ]
  const atOnce = { kind: 'replan' as const, rules, steps: 0 }
  const large = plan(testRig([...few, ...crowd], undefined, { mappings }), atOnce)
  expect(large.free).toBeGreaterThan(250)
  expect(large.score).toMatchObject({ errors: 0, stale: 1 })
  expect(plan(testRig(few, undefined, { mappings }), atOnce).score).toMatchObject({ errors: 0, stale: 0 })

  const crowded = crowdedRig({ seed: 2006, gestures: 24, channels: 1, full: 0.85 })
  const keep = { kind: 'replan', policy: { kind: 'keep' } } as const
  expect(plan(crowded.rig, keep).shortages.map(({ help }) => help)).toContainEqual(
    expect.stringContaining('To help'),
  )
  const [shortage, ...more] = plan(crowded.rig, { ...keep, steps: 0 }).shortages
  expect(shortage?.message).toMatch(/left\.$/)
  expect([shortage, ...more].map((each) => each?.help)).toEqual([shortage, ...more].map(() => ''))
})

it('sees whether there is a place for one without listing all of them', () => {
  const seen = new Set<boolean>()
  for (let seed = 1; seed <= 6; seed++) {
    const { rig, request: input } = crowdedRig({ seed, gestures: 20, channels: 1, full: 0.75 + 0.03 * seed })
    const checked = check(rig)
    const request = AllocateRequest.parse(input)
    const { free } = askedSenders(checked, request, troublesOf(checked))
    for (const sender of free) {
      const alone = problemBuilder(checked.context, request, [sender])([]).build(new Set(), new Set([sender]))
      const item = alone.senders.indexOf(sender)
      const isThere = hasPlace(checked.context, request, sender)
      expect(isThere).toBe(alone.roomFor(item).length > 0)
      seen.add(isThere)
    }
  }
  expect(seen.size).toBe(2)
})

it('does not count as a place where one is already, but where it is listened for', () => {
  const mappings = [joined('a/k1.turn', 'p1', { learnedAt: '1:cc21' })]
  const { context } = check(
    testRig([testController('a', { 'k1.turn': sendingCc(20) })], undefined, { mappings }),
  )
  /** Is there a place where only numbers up to `highest` are not avoided, from that of the control on? */
  const isPlaceUpTo = (highest: number): boolean => {
    const rules = [
      { kind: 'avoid' as const, low: 0, high: 19 },
      { kind: 'avoid' as const, low: highest + 1, high: 127 },
    ]
    const request = AllocateRequest.parse({ kind: 'replan', policy: { kind: 'keep' }, rules })
    return context.occupancy.senders.some((sender) => hasPlace(context, request, sender))
  }
  expect(isPlaceUpTo(20)).toBe(false)
  expect(isPlaceUpTo(21)).toBe(true)
})

it('tells of a thousand of whom not all have room how few have to be left, and how little is lost', () => {
  const { rig } = crowdedRig({ seed: 4, gestures: 1000, channels: 16, full: 0.6 })
  const { free, score, proven } = plan(rig, { kind: 'replan' })
  expect(free).toBeGreaterThan(900)
  expect(score.errors).toBeGreaterThan(100)
  expect(proven).toEqual(expect.arrayContaining(['errors', 'unmet', 'stale', 'warnings']))
}, 60_000)

it('does not wait for what would help once it was to stop', () => {
  const { rig } = crowdedRig({ seed: 2006, gestures: 24, channels: 1, full: 0.85 })
  const request = AllocateRequest.parse({ kind: 'replan', policy: { kind: 'keep' } })
  const helped = ({ shortages }: Plan): boolean => shortages.some(({ help }) => help !== '')
  const checked = check(rig)
  expect(helped(allocate(checked, request, apply, { programs }))).toBe(true)
  const stopped = allocate(checked, request, apply, { programs, onProgress: () => true })
  expect(stopped.shortages.length).toBeGreaterThan(0)
  expect(helped(stopped)).toBe(false)
})
