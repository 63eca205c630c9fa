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

/** What the candidates of a shape take, one after another, and where each begins. */
interface Taking {
  begins: Int32Array
  list: Int32Array
}
const takings = new WeakMap<Shape, Taking>()

function takingOf(shape: Shape): Taking {
  const known = takings.get(shape)
  if (known) return known
  const begins = new Int32Array(shape.takes.length + 1)
  shape.takes.forEach((takes, index) => {
    begins[index + 1] = (begins[index] ?? 0) + takes.length
  })
  const list = new Int32Array(begins.at(-1) ?? 0)
  shape.takes.forEach((takes, index) => list.set(takes, begins[index]))
  const taking = { begins, list }
  takings.set(shape, taking)
  return taking
}

/** Costs with a price on everything that is taken; what is taken already cannot be had. */
export function priced(base: Costs, prices: Float64Array | null, taken: Uint8Array | null): Costs {
  const known = new Map<Shape, Float64Array>()
  return (shape) => {
    const before = known.get(shape)
    if (before) return before
    const costs = base(shape).slice()
    const taking = takingOf(shape)
    if (prices !== null) addPrices(costs, taking, prices)
    if (taken !== null) ruleOut(costs, taking, taken)
    known.set(shape, costs)
    return costs
  }
}

/** Most of the time is spent here, so it does nothing else. */
function addPrices(costs: Float64Array, { begins, list }: Taking, prices: Float64Array): void {
  let at = 0
  for (let index = 0; index < costs.length; index++) {
    const end = begins[index + 1] as number
    let cost = costs[index] as number
    for (; at < end; at++) cost += prices[list[at] as number] as number
    costs[index] = cost
  }
}

function ruleOut(costs: Float64Array, { begins, list }: Taking, taken: Uint8Array): void {
  let at = 0
  for (let index = 0; index < costs.length; index++) {
    const end = begins[index + 1] ?? 0
    for (; at < end; at++) if (taken[list[at] ?? 0] === 1) costs[index] = Infinity
  }
}

const steps = new WeakMap<Shape, WeakMap<Shape, Int32Array>>()

/** For each candidate of `shape`, the first candidate of `before` from which it runs on, or -1. */
export function runsFrom(before: Shape, shape: Shape): Int32Array {
  const known = steps.get(before)?.get(shape)
  if (known) return known
  const at = new Map<number, number>()
  before.addresses.forEach((address, index) => {
    if (address !== NOWHERE && !at.has(address)) at.set(address, index)
  })
  const from = shape.addresses.map((address) => (address === NOWHERE ? -1 : (at.get(address - 1) ?? -1)))
  const ofBefore = steps.get(before) ?? new WeakMap<Shape, Int32Array>()
  steps.set(before, ofBefore.set(shape, from))
  return from
}

const alikes = new WeakMap<Shape, Int32Array>()

/** For each candidate the next one with the same address, or -1; candidates with one address stand together. */
export function alikeIn(shape: Shape): Int32Array {
  const known = alikes.get(shape)
  if (known) return known
  const { addresses } = shape
  const next = addresses.map((address, index) =>
    address !== NOWHERE && addresses[index + 1] === address ? index + 1 : -1,
  )
  alikes.set(shape, next)
  return next
}

/** The first of the least of some values. */
export const leastOf = (values: Float64Array): number => {
  let best = 0
  for (let index = 1; index < values.length; index++)
    if ((values[index] ?? 0) < (values[best] ?? 0)) best = index
  return best
}

/** Room to work in: chains are gone through hundreds of thousands of times. */
let totals = new Float64Array(0)
let origins = new Int32Array(0)

/** The cheapest way through a chain (what it takes twice is not looked at): its candidates and its cost. */
export function cheapest(
  problem: Problem,
  chain: readonly number[],
  costs: Costs,
  breakCost: number,
): { path: number[]; cost: number } {
  const shapes = chain.flatMap((item) => problem.items[item] ?? [])
  const size = shapes.reduce((sum, { addresses }) => sum + addresses.length, 0)
  if (totals.length < size) {
    totals = new Float64Array(2 * size)
    origins = new Int32Array(2 * size)
  }
  const [total, from] = [totals, origins]
  let begin = 0
  let beginBefore = 0
  let best = 0
  let bestTotal = 0
  shapes.forEach((shape, index) => {
    const own = costs(shape)
    const before = shapes[index - 1]
    const runs = before ? runsFrom(before, shape) : null
    const alike = before ? alikeIn(before) : null
    const broken = bestTotal + breakCost
    let least = 0
    let leastTotal = Infinity
    for (let candidate = 0; candidate < own.length; candidate++) {
      let sum = own[candidate] ?? 0
      if (runs !== null) {
        let run = runs[candidate] ?? -1
        let on = Infinity
        for (let each = run; each >= 0; each = alike?.[each] ?? -1) {
          const sumThere = total[beginBefore + each] ?? 0
          if (sumThere >= on) continue
          on = sumThere
          run = each
        }
        from[begin + candidate] = on <= broken ? run : best
        sum += on <= broken ? on : broken
      }
      total[begin + candidate] = sum
      if (sum < leastTotal) {
        leastTotal = sum
        least = candidate
      }
    }
    beginBefore = begin
    begin += own.length
    best = least
    bestTotal = leastTotal
  })
  const path = new Array<number>(shapes.length)
  let at = best
  for (let index = shapes.length - 1; index >= 0; index--) {
    path[index] = at
    begin -= shapes[index]?.addresses.length ?? 0
    if (index > 0) at = from[begin + at] ?? 0
  }
  return { path, cost: bestTotal }
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
      const alike = alikeIn(before)
      const broken = (last[leastOf(last)] ?? Infinity) + breakCost
      for (let candidate = 0; candidate < total.length; candidate++) {
        let on = Infinity
        for (let run = runs[candidate] ?? -1; run >= 0; run = alike[run] ?? -1)
          on = Math.min(on, last[run] ?? Infinity)
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
      const alike = alikeIn(shape)
      runsFrom(shape, next).forEach((first, candidate) => {
        for (let run = first; run >= 0; run = alike[run] ?? -1)
          if ((after[candidate] ?? Infinity) < (best[run] ?? Infinity))
            best[run] = after[candidate] ?? Infinity
      })
      for (let candidate = 0; candidate < total.length; candidate++)
        total[candidate] = (total[candidate] ?? 0) + (best[candidate] ?? 0)
    }
    found.unshift(total)
  }
  return found
}
