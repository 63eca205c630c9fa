import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { shapeTaking } from '../../testing/allocations'
import type { Problem } from './problem'
import { withoutTogether } from './together'

const RESOURCES = 8
const anySet = fc.array(fc.nat({ max: RESOURCES - 1 }), { maxLength: 6 })
const anyProblem: fc.Arbitrary<Problem> = fc
  .array(fc.array(anySet, { minLength: 1, maxLength: 4, size: 'max' }), {
    minLength: 1,
    maxLength: 4,
    size: 'max',
  })
  .map((all) => {
    const shapes = all.map((sets) => shapeTaking(sets))
    return {
      items: shapes.flatMap((shape) => [shape, shape]),
      chains: shapes.flatMap((_, shape) => [[2 * shape], [2 * shape + 1]]),
      resources: RESOURCES,
    }
  })

const everyTaking = ({ items }: Problem) => items.flatMap(({ takes }) => takes)

it('lets the same exclude each other, and leaves no two resources that are always taken together', () => {
  fc.assert(
    fc.property(anyProblem, (problem) => {
      const before = everyTaking(problem)
      const after = everyTaking(withoutTogether(problem))
      const shares = (a: Int32Array | undefined, b: Int32Array | undefined): boolean =>
        a !== undefined && b !== undefined && a.some((resource) => b.includes(resource))
      before.forEach((own, at) =>
        before.forEach((other, beside) => expect(shares(after[at], after[beside])).toBe(shares(own, other))),
      )
      const usersOf = Array.from({ length: RESOURCES }, (_, resource) =>
        after.flatMap((own, at) => (own.includes(resource) ? [at] : [])).join(),
      ).filter((users) => users !== '')
      expect(new Set(usersOf).size).toBe(usersOf.length)
    }),
    { numRuns: 300 },
  )
})

it('is the same problem where nothing is always taken together', () => {
  const shape = shapeTaking([[0], [1], [0, 1]])
  const problem: Problem = { items: [shape, shape], chains: [[0], [1]], resources: 2 }
  expect(withoutTogether(problem)).toBe(problem)
})
