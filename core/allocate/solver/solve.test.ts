import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anySmall, problemOf } from '../../testing/allocations'
import { referenceOptimum } from '../../testing/reference-solver'
import { comparePlaced, compareScores, scoreOf, type Choice, type Problem } from './problem'
import { solve } from './solve'

/** The best choice, by trying every one. */
function triedThrough(problem: Problem): Choice {
  let best: Choice | null = null
  const taken = new Set<number>()
  const choice: number[] = []
  const go = (item: number): void => {
    const shape = problem.items[item]
    if (!shape) {
      if (best === null || comparePlaced(problem, choice, best) < 0) best = [...choice]
      return
    }
    shape.takes.forEach((takes, candidate) => {
      if (takes.some((resource) => taken.has(resource))) return
      takes.forEach((resource) => taken.add(resource))
      choice.push(candidate)
      go(item + 1)
      choice.pop()
      takes.forEach((resource) => taken.delete(resource))
    })
  }
  go(0)
  return best ?? []
}

const RANKS = [0, 0, 0, 1, 2, 2, 4]

it('scores as integer programming does, term by term', async () => {
  for (const [gestures, channels, step] of [
    [10, 1, 5],
    [12, 1, 4],
    [14, 2, 2],
    [16, 2, 3],
    [28, 2, 3],
  ] as const) {
    const drawn = {
      channels: Array.from({ length: channels }, (_, channel) =>
        Array.from({ length: 60 }, (__, number) => ({
          number,
          rank: RANKS[(number * 5 + channel) % 7] ?? 0,
        })).filter(({ number }) => (number * number + channel) % (step + 1) !== 0),
      ),
      chains: Array.from({ length: Math.ceil(gestures / 4) }, (_, index) => ({
        length: Math.min(4, gestures - index * 4),
        isPair: index === 1,
      })),
      outside: [3, 4, 5, 20, 21],
    }
    const problem = problemOf(drawn)
    const found = solve(problem, { steps: 400_000 })
    expect(found.bound).toBeNull()
    expect(found.score).toEqual((await referenceOptimum(problem)).score)
  }
}, 120_000)

it('gives a whole choice and its bound where it has no steps', () => {
  fc.assert(
    fc.property(anySmall, (drawn) => {
      const problem = problemOf(drawn, 3)
      const quick = solve(problem, { steps: 0 })
      const best = solve(problem, { steps: 1e6 })
      expect(compareScores(best.score, quick.score)).toBeLessThanOrEqual(0)
      if (quick.bound) expect(quick.bound.value).toBeLessThanOrEqual(best.score[quick.bound.term])
      const taken = quick.choice.flatMap((candidate, item) => [
        ...(problem.items[item]?.takes[candidate] ?? []),
      ])
      expect(new Set(taken).size).toBe(taken.length)
    }),
  )
})

it('finds what trying everything finds, to the last address', () => {
  fc.assert(
    fc.property(
      anySmall.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5),
      (drawn) => {
        const problem = problemOf(drawn, 3)
        const found = solve(problem, { steps: 1e6 })
        const best = triedThrough(problem)
        expect(found.score).toEqual(scoreOf(problem, best))
        expect(found.bound).toBeNull()
        expect(found.isLeast).toBe(true)
        expect(found.choice).toEqual(best)
      },
    ),
    { numRuns: 200 },
  )
})
