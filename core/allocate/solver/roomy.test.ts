import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anySmall, bestByTrying, problemOf, withStakes } from '../../testing/allocations'
import { carriedOver } from './carried'
import { noScore, NOWHERE, scoreOf, TERMS, type Choice, type Score } from './problem'
import { keepOnly } from './reduce'
import { withRoomForAll } from './roomy'
import { solve } from './solve'

const anyFew = anySmall.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5)

const BEFORE_BREAKS = TERMS.slice(0, TERMS.indexOf('breaks'))

/** Below zero if the first terms of one are better than those of the other. */
const compareFirst = (a: Score, b: Score): number => {
  const differs = BEFORE_BREAKS.find((term) => a[term] !== b[term])
  return differs === undefined ? 0 : a[differs] - b[differs]
}

it('scores no more than the best of the problem, and mostly as much', () => {
  let tight = 0
  fc.assert(
    fc.property(anyFew, fc.integer({ min: 0, max: 3 }), (drawn, stays) => {
      const problem = withStakes(drawn, stays)
      const moves = (item: number, candidate: number): boolean =>
        item < problem.items.length - 1 &&
        candidate >= stays &&
        problem.items[item]?.addresses[candidate] !== NOWHERE
      const roomy = withRoomForAll(problem, moves, problem.items.length - 1)
      const found = solve(roomy, { steps: 1e6 })
      expect(found.bound).toBeNull()
      const best = scoreOf(problem, bestByTrying(problem))
      expect(compareFirst(found.score, best)).toBeLessThanOrEqual(0)
      if (compareFirst(found.score, best) === 0) tight++
      expect({ ...found.score, ...Object.fromEntries(BEFORE_BREAKS.map((term) => [term, 0])) }).toEqual(
        noScore(),
      )
    }),
    { numRuns: 100 },
  )
  expect(tight).toBeGreaterThan(30)
})

it('is small: places that cost the same are one', () => {
  const channels = [0, 1].map(() => Array.from({ length: 60 }, (_, number) => ({ number, rank: 0 })))
  const problem = problemOf({ channels, chains: [{ length: 4, isPair: false }], outside: [] })
  const roomy = withRoomForAll(
    problem,
    (item, candidate) => problem.items[item]?.addresses[candidate] !== NOWHERE,
    problem.items.length,
  )
  expect(roomy.items.map(({ addresses }) => addresses.length)).toEqual([2, 2, 2, 2])
})

it('carries a choice over to a problem with more candidates: the same score, and nothing taken twice', () => {
  let carriedOnes = 0
  fc.assert(
    fc.property(
      anyFew,
      fc.integer({ min: 0, max: 3 }),
      fc.infiniteStream(fc.boolean()),
      (drawn, stays, coins) => {
        const whole = withStakes(drawn, stays)
        const kept = whole.items.map(({ addresses, leave }) =>
          Int32Array.from(addresses.keys()).filter(
            (candidate) => candidate === leave || coins.next().value === true,
          ),
        )
        const few = keepOnly(whole, kept)
        const best: Choice = bestByTrying(few.problem)
        const carried = carriedOver(few.problem, best, whole)
        if (carried === null) return
        carriedOnes++
        expect(scoreOf(whole, carried)).toEqual(scoreOf(few.problem, best))
        const taken = carried.flatMap((candidate, item) => [...(whole.items[item]?.takes[candidate] ?? [])])
        expect(new Set(taken).size).toBe(taken.length)
      },
    ),
    { numRuns: 300 },
  )
  expect(carriedOnes).toBeGreaterThan(150)
})

it('begins with a choice that is given, and comes out no worse', () => {
  fc.assert(
    fc.property(anyFew, (drawn) => {
      const problem = problemOf(drawn, 3)
      const best = bestByTrying(problem)
      expect(solve(problem, { steps: 0, start: best }).choice).toEqual(best)
      const worst = problem.items.map(({ leave }) => leave)
      expect(solve(problem, { steps: 1e6, start: worst }).choice).toEqual(best)
    }),
  )
})
