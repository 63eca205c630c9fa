import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { lifted } from './lift'
import { forOwnTerms, NOWHERE, type Problem, type Shape } from './problem'

/** An item with a candidate for each list of what it takes, and one that takes nothing. */
function itemOf(takes: readonly (readonly number[])[]): Shape {
  const all = [...takes, []]
  return {
    addresses: Int32Array.from(all, (_, index) => (index === all.length - 1 ? NOWHERE : index)),
    takes: all.map((each) => Int32Array.from(each)),
    costs: forOwnTerms(() => new Uint16Array(all.length)),
    leave: all.length - 1,
    fieldless: null,
  }
}
const problemOf = (items: Shape[], resources: number): Problem => ({
  items,
  chains: items.map((_, item) => [item]),
  resources,
})

/** Every choice in which nothing is taken twice, as text. */
function choicesOf({ items }: Problem): string[] {
  const go = (item: number, taken: readonly number[]): string[] => {
    const shape = items[item]
    if (!shape) return ['']
    return shape.takes.flatMap((takes, candidate) =>
      takes.some((resource) => taken.includes(resource))
        ? []
        : go(item + 1, [...taken, ...takes]).map((rest) => `${candidate} ${rest}`),
    )
  }
  return go(0, [])
}

it('lets three that exclude each other two by two take one thing together', () => {
  const problem = problemOf([itemOf([[0, 1]]), itemOf([[0, 2]]), itemOf([[1, 2]])], 3)
  const all = lifted(problem).items.map(({ takes }) => new Set(takes[0]))
  const [first, second, third] = all
  const common = [...(first ?? [])].filter((resource) => second?.has(resource) && third?.has(resource))
  expect(common.length).toBeGreaterThan(0)
})

it('makes no choice impossible, and none possible', () => {
  const anyTakes = fc.array(fc.uniqueArray(fc.nat(5), { minLength: 1, maxLength: 3 }), {
    minLength: 1,
    maxLength: 3,
  })
  const anyProblem = fc
    .record({ lists: fc.array(anyTakes, { minLength: 2, maxLength: 4 }), isTwice: fc.boolean() })
    .map(({ lists, isTwice }) => {
      const items = lists.map(itemOf)
      // Two that can go to the same places share one shape.
      return problemOf(isTwice && items[0] ? [...items, items[0]] : items, 6)
    })
  let changed = 0
  fc.assert(
    fc.property(anyProblem, (problem) => {
      const more = lifted(problem)
      if (more !== problem) changed++
      expect(choicesOf(more)).toEqual(choicesOf(problem))
    }),
    { numRuns: 500 },
  )
  expect(changed).toBeGreaterThan(0)
})
