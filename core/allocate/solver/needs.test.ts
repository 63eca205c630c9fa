import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, bestByTrying, problemOf, shapeTaking } from '../../testing/allocations'
import { leastErrors } from './needs'
import { scoreOf } from './problem'

it('says how many have to be left: exactly where each takes one thing, and never too many', () => {
  fc.assert(
    fc.property(anyCrowd, (drawn) => {
      const problem = problemOf(drawn, 3)
      const least = scoreOf(problem, bestByTrying(problem)).errors
      const bound = leastErrors(problem)
      expect(bound).toBeLessThanOrEqual(least)
      if (drawn.chains.every(({ isPair }) => !isPair)) expect(bound).toBe(least)
    }),
    { numRuns: 150 },
  )
})

it('counts a pair as two, of which each is half of it', () => {
  const numbers = [0, 1, 5, 6].map((number) => ({ number, rank: 0 }))
  const chains = (pairs: number, single: number) => [
    { length: pairs, isPair: true },
    { length: single, isPair: false },
  ]
  const least = (pairs: number, single: number): number =>
    leastErrors(problemOf({ channels: [numbers], chains: chains(pairs, single), outside: [] }, 5))
  expect(least(1, 2)).toBe(0)
  expect(least(2, 1)).toBe(1)
  expect(least(2, 4)).toBe(2)
  expect(least(1, 5)).toBe(2)
  expect(least(4, 1)).toBe(3)
})

it('counts each as one where all need the same thing and any other', () => {
  const any = shapeTaking([
    [0, 1],
    [0, 2],
    [0, 3],
  ])
  expect(leastErrors({ items: [any, any, any], chains: [[0], [1], [2]], resources: 4 })).toBe(2)
})
