import { expect, it } from 'vitest'
import { shapeTaking } from '../../testing/allocations'
import { merged } from './alike'

it('puts together what takes the same, in whatever order, and leaves out what nobody else could take', () => {
  const items = [
    shapeTaking([
      [0, 1],
      [2, 3],
    ]),
    shapeTaking([
      [3, 2],
      [1, 0],
    ]),
    // Nobody else could take the last of these.
    shapeTaking([
      [0, 1, 9],
      [2, 3],
    ]),
    shapeTaking([[2, 3]]),
  ]
  const problem = { items, chains: items.map((_, item) => [item]), resources: 10 }
  const { groups, places } = merged(problem, ['errors'])
  expect(groups.map((group) => group.items)).toEqual([[0, 1, 2], [3]])
  expect(places.map((place) => place.toSorted((a, b) => a - b))).toEqual([[], [0, 1], [2, 3]])
})

it('tells apart what costs something else, and says by which candidates an item has it', () => {
  const items = [shapeTaking([[0], [1]], [0, 1]), shapeTaking([[1], [0]], [1, 0]), shapeTaking([[0], [1]])]
  const problem = { items, chains: items.map((_, item) => [item]), resources: 2 }
  expect(merged(problem, ['errors']).groups.map((group) => group.items)).toEqual([[0, 1, 2]])
  const { groups, manners, candidatesFor } = merged(problem, ['errors', 'stale'])
  expect(groups.map((group) => group.items)).toEqual([[0, 1], [2]])
  const stale = groups[0]?.options.find(({ manner }) => manners[manner]?.costs[1] === 1)
  expect(stale && [0, 1, 2].map((item) => candidatesFor(item, stale))).toEqual([[1], [0], []])
})

it('tells what most candidates take beside something else apart from where they lie', () => {
  const items = [shapeTaking([[0, 5], [1, 5], [2, 5], [3]]), shapeTaking([[0], [1], [2], [3], [5]])]
  const problem = { items, chains: items.map((_, item) => [item]), resources: 6 }
  const { groups, places, manners } = merged(problem, ['errors'])
  const had = groups[0]?.options.map(({ place, manner }) => [places[place], manners[manner]?.also])
  expect(had).toEqual([
    [[0], [5]],
    [[1], [5]],
    [[2], [5]],
    [[3], []],
    [[], []],
  ])
})
