import { NOWHERE, OWN_TERMS, type Problem, type Shape, type Term } from './problem'

/** What one unit of each term weighs. */
export type Weights = Readonly<Record<Term, number>>

/** What each candidate of a shape costs, by its terms alone. */
export type Costs = (shape: Shape) => Float64Array

/** Costs by weights, worked out once a shape. */
export function weighed(weights: Weights): Costs {
  const known = new Map<Shape, Float64Array>()
  const used = OWN_TERMS.filter((term) => weights[term] !== 0)
  return (shape) => {
    const before = known.get(shape)
    if (before) return before
    const costs = new Float64Array(shape.addresses.length)
    for (const term of used) {
      const own = shape.costs[term]
      const weight = weights[term]
      for (let index = 0; index < costs.length; index++)
        costs[index] = (costs[index] ?? 0) + weight * (own[index] ?? 0)
    }
    known.set(shape, costs)
    return costs
  }
}

/** Costs with a price on everything that is taken; what is taken already cannot be had. */
export function priced(base: Costs, prices: Float64Array | null, taken: Uint8Array | null): Costs {
  const known = new Map<Shape, Float64Array>()
  return (shape) => {
    const before = known.get(shape)
    if (before) return before
    const costs = base(shape).slice()
    shape.takes.forEach((takes, index) => {
      let cost = costs[index] ?? 0
      for (const resource of takes) {
        if (taken && taken[resource] === 1) cost = Infinity
        else if (prices) cost += prices[resource] ?? 0
      }
      costs[index] = cost
    })
    known.set(shape, costs)
    return costs
  }
}

const steps = new WeakMap<Shape, WeakMap<Shape, Int32Array>>()

/** For each candidate of `shape`, the candidate of `before` from which it runs on, or -1. */
export function runsFrom(before: Shape, shape: Shape): Int32Array {
  const known = steps.get(before)?.get(shape)
  if (known) return known
  const at = new Map<number, number>()
  before.addresses.forEach((address, index) => {
    if (address !== NOWHERE) at.set(address, index)
  })
  const from = shape.addresses.map((address) => (address === NOWHERE ? -1 : (at.get(address - 1) ?? -1)))
  const ofBefore = steps.get(before) ?? new WeakMap<Shape, Int32Array>()
  steps.set(before, ofBefore.set(shape, from))
  return from
}

const leastOf = (values: Float64Array): number => {
  let best = 0
  for (let index = 1; index < values.length; index++)
    if ((values[index] ?? 0) < (values[best] ?? 0)) best = index
  return best
}

/** The cheapest way through a chain (what it takes twice is not looked at): its candidates and its cost. */
export function cheapest(
  problem: Problem,
  chain: readonly number[],
  costs: Costs,
  breakCost: number,
): { path: number[]; cost: number } {
  const cameFrom: Int32Array[] = []
  let total: Float64Array | null = null
  let last: Shape | null = null
  for (const item of chain) {
    const shape = problem.items[item]
    if (!shape) throw new RangeError(`There is no item ${item}.`)
    const own = costs(shape)
    const from = new Int32Array(own.length).fill(-1)
    if (total === null || last === null) total = own.slice()
    else {
      const runs = runsFrom(last, shape)
      const best = leastOf(total)
      const broken = (total[best] ?? Infinity) + breakCost
      const next = new Float64Array(own.length)
      for (let index = 0; index < own.length; index++) {
        const run = runs[index] ?? -1
        const on = run < 0 ? Infinity : (total[run] ?? Infinity)
        next[index] = (own[index] ?? 0) + (on <= broken ? on : broken)
        from[index] = on <= broken ? run : best
      }
      total = next
    }
    last = shape
    cameFrom.push(from)
  }
  if (total === null) return { path: [], cost: 0 }
  let at = leastOf(total)
  const cost = total[at] ?? Infinity
  const path = new Array<number>(chain.length)
  for (let index = chain.length - 1; index >= 0; index--) {
    path[index] = at
    at = cameFrom[index]?.[at] ?? -1
  }
  return { path, cost }
}

/** For each item of a chain and each of its candidates, the least that it and all before it can cost. */
export function forwards(
  problem: Problem,
  chain: readonly number[],
  costs: Costs,
  breakCost: number,
): Float64Array[] {
  const found: Float64Array[] = []
  chain.forEach((item, index) => {
    const shape = problem.items[item]
    if (!shape) throw new RangeError(`There is no item ${item}.`)
    const total = costs(shape).slice()
    const last = found.at(-1)
    const before = problem.items[chain[index - 1] ?? -1]
    if (last && before) {
      const runs = runsFrom(before, shape)
      const broken = (last[leastOf(last)] ?? Infinity) + breakCost
      for (let candidate = 0; candidate < total.length; candidate++) {
        const run = runs[candidate] ?? -1
        const on = run < 0 ? Infinity : (last[run] ?? Infinity)
        total[candidate] = (total[candidate] ?? 0) + Math.min(on, broken)
      }
    }
    found.push(total)
  })
  return found
}

/** For each item of a chain and each of its candidates, the least that it and all after it can cost. */
export function completions(
  problem: Problem,
  chain: readonly number[],
  costs: Costs,
  breakCost: number,
): Float64Array[] {
  const found: Float64Array[] = []
  for (let index = chain.length - 1; index >= 0; index--) {
    const shape = problem.items[chain[index] ?? 0]
    if (!shape) throw new RangeError(`There is no item ${chain[index]}.`)
    const total = costs(shape).slice()
    const after = found[0]
    const next = problem.items[chain[index + 1] ?? -1]
    if (after && next) {
      const broken = (after[leastOf(after)] ?? Infinity) + breakCost
      const best = new Float64Array(total.length).fill(broken)
      runsFrom(shape, next).forEach((run, candidate) => {
        if (run >= 0 && (after[candidate] ?? Infinity) < (best[run] ?? Infinity))
          best[run] = after[candidate] ?? Infinity
      })
      for (let candidate = 0; candidate < total.length; candidate++)
        total[candidate] = (total[candidate] ?? 0) + (best[candidate] ?? 0)
    }
    found.unshift(total)
  }
  return found
}
