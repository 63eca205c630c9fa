import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, bestByTrying, problemOf, shapeTaking } from '../../testing/allocations'
import { augmented } from './augment'
import { leastErrors } from './needs'
import { scoreOf, type Choice, type Problem } from './problem'

it('helps everyone who can be helped by others giving way, and nobody takes what another has', () => {
  fc.assert(
    fc.property(anyCrowd, (drawn) => {
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
    }),
    { numRuns: 150 },
  )
})

/** Everyone at the first place that is free, those who need most first. */
function laidGreedily({ items }: Problem): Choice {
  const taken = new Set<number>()
  const choice = items.map(({ leave }) => leave)
  const needs = (item: number): number => items[item]?.takes[0]?.length ?? 0
  for (const item of [...items.keys()].sort((a, b) => needs(b) - needs(a))) {
    const free = items[item]?.takes.findIndex((takes) => takes.every((each) => !taken.has(each))) ?? 0
    choice[item] = free
    for (const each of items[item]?.takes[free] ?? []) taken.add(each)
  }
  return choice
}

/** Numbers as they are on a channel: none is the lower of one pair and the upper of another. */
const APART = 5
const anyApart = fc.record({
  channels: fc
    .uniqueArray(fc.constantFrom(0, 1, 2, 5, 6, 7, 8), { minLength: 1, maxLength: 7, size: 'max' })
    .map((list) => [list.toSorted((a, b) => a - b).map((number) => ({ number, rank: 0 }))]),
  chains: fc.array(fc.record({ length: fc.constant(1), isPair: fc.boolean() }), {
    minLength: 2,
    maxLength: 5,
    size: 'max',
  }),
  outside: fc.constant([]),
})

it('moves two single numbers out of the way of a pair, or gives two what a pair had', () => {
  fc.assert(
    fc.property(anyApart, fc.boolean(), (drawn, isLaid) => {
      const problem = problemOf(drawn, APART)
      const start = isLaid ? laidGreedily(problem) : problem.items.map(({ leave }) => leave)
      const found = augmented(problem, start, ['errors'])
      expect(scoreOf(problem, found).errors).toBe(scoreOf(problem, bestByTrying(problem)).errors)
    }),
    { numRuns: 300 },
  )
})

it('gives a place that costs less of other terms, though another comes first', () => {
  const items = [shapeTaking([[0], [1], [2]], [1, 0, 0])]
  const problem: Problem = { items, chains: [[0]], resources: 3 }
  expect(augmented(problem, [3], ['errors'])).toEqual([1])
})

it('helps only those for whose sake it is', () => {
  const items = [shapeTaking([[0]]), shapeTaking([[0], [1]], [0, 1])]
  const problem: Problem = { items, chains: [[0], [1]], resources: 2 }
  expect(augmented(problem, [1, 1], ['errors', 'stale'])).toEqual([0, 1])
  expect(augmented(problem, [1, 1], ['errors', 'stale'], ['stale'])).toEqual([1, 0])
})

it('asks those again who gave way in vain', () => {
  const pair = shapeTaking([
    [0, 1],
    [2, 3],
  ])
  // The first lets the pair have 0, but nobody has 1 to spare; where the pair gets 2, the first has to give way as well.
  const singles = [[[0], [4]], [[1]], [[2], [0]], [[3], [5]]].map((sets) => shapeTaking(sets))
  const items = [pair, ...singles]
  const problem: Problem = { items, chains: items.map((_, item) => [item]), resources: 6 }
  expect(augmented(problem, [2, 0, 0, 0, 0], ['errors'])).toEqual([1, 1, 0, 1, 1])
})

it('gives the place of many to others without two in one place', () => {
  const anyMany = fc.record({
    channels: fc.array(
      fc
        .uniqueArray(fc.integer({ min: 0, max: 24 }), { minLength: 8, maxLength: 24, size: 'max' })
        .map((list) => list.toSorted((a, b) => a - b).map((number) => ({ number, rank: 0 }))),
      { minLength: 1, maxLength: 2 },
    ),
    chains: fc.array(fc.record({ length: fc.integer({ min: 1, max: 4 }), isPair: fc.boolean() }), {
      minLength: 4,
      maxLength: 14,
      size: 'max',
    }),
    outside: fc.constant([]),
  })
  fc.assert(
    fc.property(anyMany, (drawn) => {
      const problem = problemOf(drawn, 3)
      const start = problem.items.map(({ leave }) => leave)
      const found = augmented(problem, start, ['errors'])
      const taken = found.flatMap((candidate, item) => [...(problem.items[item]?.takes[candidate] ?? [])])
      expect(new Set(taken).size).toBe(taken.length)
      const least = leastErrors(problem)
      expect(scoreOf(problem, found).errors).toBeGreaterThanOrEqual(least)
    }),
    { numRuns: 300 },
  )
})
