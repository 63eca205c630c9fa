import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anySmall, bestByTrying, problemOf } from '../../testing/allocations'
import { augmented, leastErrors } from './match'
import { scoreOf } from './problem'

/** More that want a number than there are, as often as not. */
const anyCrowd = anySmall.map((drawn) => ({
  ...drawn,
  chains: [...drawn.chains, { length: 2, isPair: false }].slice(0, 3),
}))

it('says how many have to be left: exactly where each takes one thing, and never too many', () => {
  fc.assert(
    fc.property(
      anyCrowd.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5),
      (drawn) => {
        const problem = problemOf(drawn, 3)
        const least = scoreOf(problem, bestByTrying(problem)).errors
        const bound = leastErrors(problem)
        expect(bound).toBeLessThanOrEqual(least)
        if (drawn.chains.every(({ isPair }) => !isPair)) expect(bound).toBe(least)
      },
    ),
    { numRuns: 150 },
  )
})

it('helps everyone who can be helped by others giving way, and nobody takes what another has', () => {
  fc.assert(
    fc.property(
      anyCrowd.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5),
      (drawn) => {
        const problem = problemOf(drawn, 3)
        const found = augmented(
          problem,
          problem.items.map(({ leave }) => leave),
          ['errors'],
        )
        const taken = found.flatMap((candidate, item) => [...(problem.items[item]?.takes[candidate] ?? [])])
        expect(new Set(taken).size).toBe(taken.length)
        if (drawn.chains.every(({ isPair }) => !isPair))
          expect(scoreOf(problem, found).errors).toBe(scoreOf(problem, bestByTrying(problem)).errors)
      },
    ),
    { numRuns: 150 },
  )
})
