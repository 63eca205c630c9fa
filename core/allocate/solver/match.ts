import { noScore, type Choice, type Problem, type Shape, type Term } from './problem'
import { boundAt, type Priced } from './prices'

/** Of each candidate that costs nothing of some terms the resource that most items want: what it needs at least. */
type Needs = ReadonlyMap<Shape, Int32Array>

/** Candidates that take nothing need nothing; a number below any resource stands for that. */
const NOTHING_NEEDED = -1

const costsNothing = ({ costs }: Shape, candidate: number, terms: readonly Term[]): boolean =>
  terms.every((term) => term === 'breaks' || (costs[term][candidate] ?? 0) === 0)

function needsOf({ items, resources }: Problem, terms: readonly Term[]): Needs {
  const counts = new Map<Shape, number>()
  for (const shape of items) counts.set(shape, (counts.get(shape) ?? 0) + 1)
  const wantedBy = new Int32Array(resources)
  for (const [shape, count] of counts) {
    const wanted = new Set<number>()
    shape.takes.forEach((takes, candidate) => {
      if (costsNothing(shape, candidate, terms)) for (const resource of takes) wanted.add(resource)
    })
    for (const resource of wanted) wantedBy[resource] = (wantedBy[resource] ?? 0) + count
  }
  const known = new Map<Shape, Int32Array>()
  for (const shape of counts.keys()) {
    const needs = new Set<number>()
    shape.takes.forEach((takes, candidate) => {
      if (!costsNothing(shape, candidate, terms)) return
      let most = takes[0] ?? NOTHING_NEEDED
      for (const resource of takes) if ((wantedBy[resource] ?? 0) > (wantedBy[most] ?? 0)) most = resource
      needs.add(most)
    })
    known.set(shape, Int32Array.from(needs))
  }
  return known
}

/**
 * Prices of which it follows how many items cannot have a candidate that costs nothing of some terms: as many as
 * possible are matched with one resource each that they need (Hopcroft and Karp's algorithm), and what covers all needs
 * then (König's theorem) has the price 1. Exact where every candidate takes one resource.
 */
export function coverPrices(problem: Problem, terms: readonly Term[]): Float64Array {
  const { items, resources } = problem
  const needs = needsOf(problem, terms)
  const wants = items.map((shape) => needs.get(shape) ?? new Int32Array())
  const needed = wants.map((list) => list.length > 0 && !list.includes(NOTHING_NEEDED))
  const holder = new Int32Array(resources).fill(-1)
  const held = new Int32Array(items.length).fill(-1)
  const level = new Int32Array(items.length)

  const layers = (): boolean => {
    let isOpen = false
    const queue: number[] = []
    level.fill(-1)
    needed.forEach((is, item) => {
      if (!is || (held[item] ?? -1) >= 0) return
      level[item] = 0
      queue.push(item)
    })
    for (let at = 0; at < queue.length; at++) {
      const item = queue[at] ?? 0
      for (const resource of wants[item] ?? []) {
        const other = holder[resource] ?? -1
        if (other < 0) isOpen = true
        else if (level[other] === -1) {
          level[other] = (level[item] ?? 0) + 1
          queue.push(other)
        }
      }
    }
    return isOpen
  }

  /** Where each item goes on looking, so that no way is tried twice in one turn. */
  const next = new Int32Array(items.length)
  const augment = (first: number): boolean => {
    const way = [first]
    for (;;) {
      const item = way.at(-1)
      if (item === undefined) return false
      const list = wants[item] ?? new Int32Array()
      const at = next[item] ?? 0
      if (at >= list.length) {
        level[item] = -1
        way.pop()
        const before = way.at(-1)
        if (before !== undefined) next[before] = (next[before] ?? 0) + 1
        continue
      }
      const resource = list[at] ?? 0
      const other = holder[resource] ?? -1
      if (other < 0) {
        for (const each of way) {
          const own = wants[each]?.[next[each] ?? 0] ?? 0
          holder[own] = each
          held[each] = own
        }
        return true
      }
      if (level[other] === (level[item] ?? 0) + 1) way.push(other)
      else next[item] = at + 1
    }
  }
  while (layers()) {
    next.fill(0)
    needed.forEach((is, item) => {
      if (is && (held[item] ?? -1) < 0) augment(item)
    })
  }
  // After the last turn `level` says who could be reached from those that have nothing.
  const prices = new Float64Array(resources)
  needed.forEach((is, item) => {
    if (is && (level[item] ?? -1) >= 0) for (const resource of wants[item] ?? []) prices[resource] = 1
  })
  return prices
}

/** Terms that say who finds no place at all: for these it is a matching who does. */
export const HARD_TERMS: readonly Term[] = ['errors', 'unmet']

/** Prices for such a term to begin with. */
export const coverOf = (problem: Problem, term: Term): Priced => ({
  prices: coverPrices(problem, HARD_TERMS.slice(0, HARD_TERMS.indexOf(term) + 1)),
  weights: { ...noScore(), [term]: 1 },
  bound: -Infinity,
})

/** So many are in an error or without a number at least, whatever is chosen. */
export function leastErrors(problem: Problem): number {
  const { prices, weights } = coverOf(problem, 'errors')
  const bound = boundAt(problem, { term: 'errors', settled: [] }, prices, weights)
  return Math.max(0, Math.ceil(bound - 1e-6))
}

/** So many may give way one after the other. */
const LONGEST_WAY = 400

/**
 * A choice with fewer items that cost something of some terms: one after the other is given what another has, who then
 * takes something else, and so on, until nobody can be helped that way.
 */
export function augmented(problem: Problem, start: Choice, terms: readonly Term[]): Choice {
  const { items, resources } = problem
  const choice = [...start]
  const holder = new Int32Array(resources).fill(-1)
  const takesOf = (item: number, candidate: number): Int32Array => items[item]?.takes[candidate] ?? NONE
  const occupy = (item: number, candidate: number): void => {
    choice[item] = candidate
    for (const resource of takesOf(item, candidate)) holder[resource] = item
  }
  const release = (item: number): void => {
    for (const resource of takesOf(item, choice[item] ?? 0)) holder[resource] = -1
  }
  choice.forEach((candidate, item) => occupy(item, candidate))

  /** Who has what an item would take: nobody (-1), one item, or more than one (null). */
  const inTheWay = (item: number, candidate: number): number | null => {
    let other = -1
    for (const resource of takesOf(item, candidate)) {
      const by = holder[resource] ?? -1
      if (by < 0 || by === other) continue
      if (other >= 0) return null
      other = by
    }
    return other
  }

  /** Who was asked in vain since someone was last helped. */
  const tried = new Uint8Array(items.length)
  /** Give an item that holds nothing something that costs nothing. If that fails it holds nothing still. */
  const help = (item: number, depth: number): boolean => {
    tried[item] = 1
    const shape = items[item]
    if (!shape || depth > LONGEST_WAY) return false
    for (let candidate = 0; candidate < shape.addresses.length; candidate++) {
      if (!costsNothing(shape, candidate, terms)) continue
      const other = inTheWay(item, candidate)
      if (other === null || (other >= 0 && tried[other] === 1)) continue
      const before = choice[other] ?? 0
      if (other >= 0) release(other)
      occupy(item, candidate)
      if (other < 0 || help(other, depth + 1)) return true
      release(item)
      occupy(other, before)
    }
    return false
  }
  items.forEach((shape, item) => {
    const before = choice[item] ?? 0
    if (tried[item] === 1 || costsNothing(shape, before, terms)) return
    release(item)
    if (help(item, 0)) tried.fill(0)
    else occupy(item, before)
  })
  return choice
}

const NONE = new Int32Array()
