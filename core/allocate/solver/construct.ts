import { cheapest, priced, weighed, type Costs, type Weights } from './chain'
import { comparePlaced, type Choice, type Problem } from './problem'

/** A whole that is being put together: what each item has, and what is taken. */
export interface Placing {
  choice: number[]
  taken: Uint8Array
}

/** Nothing chosen, nothing taken. */
export const emptyPlacing = ({ items, resources }: Problem): Placing => ({
  choice: new Array<number>(items.length).fill(-1),
  taken: new Uint8Array(resources),
})

/** Give an item a candidate, and take what that takes. */
export function place({ items }: Problem, placing: Placing, item: number, candidate: number): void {
  placing.choice[item] = candidate
  for (const resource of items[item]?.takes[candidate] ?? []) placing.taken[resource] = 1
}

/** Take an item’s candidate back; nothing where it has none. */
export function lift({ items }: Problem, placing: Placing, item: number): void {
  const candidate = placing.choice[item] ?? -1
  if (candidate < 0) return
  for (const resource of items[item]?.takes[candidate] ?? []) placing.taken[resource] = 0
  placing.choice[item] = -1
}

/**
 * So far it is looked ahead along a chain that is laid, at first; then so many times as far as the last way went before
 * it would have taken something twice.
 */
const FIRST_AHEAD = 64
const LEAST_AHEAD = 6
const AHEAD_AGAIN = 3

/**
 * Lay a chain as cheaply as can be beside what is taken. Where a way would take something twice, it goes on from
 * there anew. False if there is no room for it.
 */
export function layChain(
  problem: Problem,
  placing: Placing,
  chain: readonly number[],
  base: Costs,
  prices: Float64Array | null,
  breakCost: number,
): boolean {
  let rest = chain
  let ahead = FIRST_AHEAD
  while (rest.length > 0) {
    const costs = priced(base, prices, placing.taken)
    const near = rest.slice(0, ahead)
    const { path, cost } = cheapest(problem, near, costs, breakCost)
    if (cost === Infinity) return false
    let laid = 0
    for (const item of near) {
      const candidate = path[laid] ?? 0
      const takes = problem.items[item]?.takes[candidate] ?? new Int32Array()
      if (laid > 0 && takes.some((resource) => placing.taken[resource] === 1)) break
      place(problem, placing, item, candidate)
      laid++
    }
    rest = rest.slice(laid)
    ahead = Math.min(FIRST_AHEAD, Math.max(LEAST_AHEAD, AHEAD_AGAIN * laid))
  }
  return true
}

/** Lay all chains, one after the other. Null if that leads to where there is no room for one. */
export function layAll(
  problem: Problem,
  order: readonly number[],
  weights: Weights,
  prices: Float64Array | null,
): number[] | null {
  const placing = emptyPlacing(problem)
  const base = weighed(weights)
  const isLaid = order.every((index) =>
    layChain(problem, placing, problem.chains[index] ?? [], base, prices, weights.breaks),
  )
  return isLaid ? placing.choice : null
}

/**
 * Take chains up, one or two at a time, and lay them again, as long as that makes the whole better; at most
 * `budget` times, beginning with the chain at `from`.
 */
export function improved(
  problem: Problem,
  start: Choice,
  weights: Weights,
  budget: number,
  from = 0,
): number[] {
  const base = weighed(weights)
  const { chains } = problem
  let best = [...start]
  const placing = emptyPlacing(problem)
  best.forEach((candidate, item) => place(problem, placing, item, candidate))
  const relay = (which: readonly number[]): boolean => {
    const lists = which.flatMap((index) => (chains[index] ? [chains[index]] : []))
    const items = lists.flat()
    for (const item of items) lift(problem, placing, item)
    const isLaid = lists.every((list) => layChain(problem, placing, list, base, null, weights.breaks))
    if (isLaid && comparePlaced(problem, placing.choice, best, lists) < 0) {
      best = [...placing.choice]
      return true
    }
    for (const item of items) lift(problem, placing, item)
    for (const item of items) place(problem, placing, item, best[item] ?? 0)
    return false
  }
  let left = budget
  for (let isBetter = true; isBetter && left > 0;) {
    isBetter = false
    for (let turn = 0; turn < chains.length && left > 0; turn++) {
      const a = (from + turn) % chains.length
      left--
      if (relay([a])) isBetter = true
      for (let step = 1; turn + step < chains.length && left > 0; step++) {
        const b = (a + step) % chains.length
        left -= 2
        if (relay([a, b]) || relay([b, a])) isBetter = true
      }
    }
  }
  return best
}
