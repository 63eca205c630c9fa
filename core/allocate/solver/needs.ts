import { coverPrices } from './cover'
import { boundAt, type Priced } from './prices'
import { costsNothing, noScore, type Problem, type Shape, type Term } from './problem'

/**
 * What every candidate of a shape that costs nothing of some terms needs at least: as many resources as the least of them takes,
 * of each candidate those that most items want. Each is a list of what it could be; none, if there is nothing to be had or
 * nothing that is needed.
 */
type Needs = readonly Int32Array[]

function needsOf({ items, resources }: Problem, terms: readonly Term[]): Map<Shape, Needs> {
  const counts = new Map<Shape, number>()
  for (const shape of items) counts.set(shape, (counts.get(shape) ?? 0) + 1)
  const free = new Map(
    [...counts.keys()].map((shape) => [
      shape,
      shape.takes.filter((_, candidate) => costsNothing(shape, candidate, terms)),
    ]),
  )
  /** The list in which each resource was put last. */
  const listed = new Int32Array(resources)
  let lists = 0
  const isFirstOf = (list: number, resource: number): boolean => {
    if (listed[resource] === list) return false
    listed[resource] = list
    return true
  }
  const wantedBy = new Int32Array(resources)
  for (const [shape, count] of counts) {
    lists++
    for (const takes of free.get(shape) ?? [])
      for (const resource of takes)
        if (isFirstOf(lists, resource)) wantedBy[resource] = (wantedBy[resource] ?? 0) + count
  }
  const mostWanted = (takes: Int32Array): Int32Array =>
    takes.length === 1 ? takes : takes.toSorted((a, b) => (wantedBy[b] ?? 0) - (wantedBy[a] ?? 0) || a - b)
  return new Map(
    [...free].map(([shape, all]): [Shape, Needs] => {
      const least = all.length === 0 ? 0 : Math.min(...all.map(({ length }) => length))
      const sorted = least === 0 ? [] : all.map(mostWanted)
      const nths = range(least).map((nth) => {
        lists++
        return Int32Array.from(
          sorted.map((takes) => takes[nth] ?? 0).filter((each) => isFirstOf(lists, each)),
        )
      })
      return [shape, nths]
    }),
  )
}

const range = (count: number): number[] => Array.from({ length: count }, (_, index) => index)

/** Terms that say who finds no place at all: for these it is a matching who does. */
export const HARD_TERMS: readonly Term[] = ['errors', 'unmet']

/**
 * Prices for such a term to begin with, with the bound that follows. Every item is one wish: where each needs one thing, that is
 * exact. Or an item that needs several things is as many wishes, each of its share of the weight; heavy wishes are matched
 * before light ones. The prices whose bound is higher are given.
 */
export function coverOf(problem: Problem, term: Term): Priced {
  const terms = HARD_TERMS.slice(0, HARD_TERMS.indexOf(term) + 1)
  const needs = needsOf(problem, terms)
  const all = problem.items.map((shape) => needs.get(shape) ?? [])
  const priced = (prices: Float64Array): Priced => {
    const weights = { ...noScore(), [term]: 1 }
    return { prices, weights, bound: boundAt(problem, [], prices, weights) }
  }
  const whole = priced(
    coverPrices(
      all.flatMap((lists) => lists.slice(0, 1)),
      problem.resources,
    ),
  )
  const sizes = [...new Set(all.map(({ length }) => length))].filter((size) => size > 0).sort((a, b) => a - b)
  if (sizes.length === 0 || (sizes.length === 1 && sizes[0] === 1)) return whole
  const mixed = new Float64Array(problem.resources)
  sizes.forEach((size, index) => {
    const next = sizes[index + 1]
    const share = 1 / size - (next === undefined ? 0 : 1 / next)
    const among = all.filter(({ length }) => length <= size).flat()
    coverPrices(among, problem.resources).forEach((price, resource) => {
      mixed[resource] = (mixed[resource] ?? 0) + share * price
    })
  })
  const halves = priced(mixed)
  return halves.bound > whole.bound ? halves : whole
}

/** So many are in an error or without a number at least, whatever is chosen. */
export const leastErrors = (problem: Problem): number =>
  Math.max(0, Math.ceil(coverOf(problem, 'errors').bound - 1e-6))
