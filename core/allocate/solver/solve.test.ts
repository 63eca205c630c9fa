import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anySmall, problemOf } from '../../testing/allocations'
import { comparePlaced, scoreOf, type Choice, type Problem } from './problem'
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
