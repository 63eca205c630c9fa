import { cheapest, priced, weighed, type Weights } from './chain'
import { OWN_TERMS, runsOn, TERMS, type OwnTerm, type Problem, type Shape, type Term } from './problem'

/** A price for everything that is there once, what each unit of a settled term costs, and the bound that follows. */
export interface Priced {
  prices: Float64Array
  weights: Weights
  /** No choice that keeps to the settled terms has less of the open one than this. */
  bound: number
}

/** The term that is being made small, and those before it, which are settled. */
export interface Stage {
  term: Term
  settled: ReadonlyArray<{ term: Term; value: number }>
}

/** Rounds without a better bound before steps get smaller. */
const PATIENCE = 20
/** So many rounds pass from one try to lay everything by the prices to the next. */
const ROUNDS_A_TRY = 12
const LEAST_STRIDE = 1e-4
/** How hard settled terms are held on to at first. */
const FIRST_WEIGHT = 4

const shapeIds = new WeakMap<Shape, number>()
let shapeCount = 0
const kinds = new WeakMap<readonly number[], { problem: Problem; kind: string }>()

/** The same for chains of the same shapes, which at the same prices go the same way. */
function kindOf(problem: Problem, chain: readonly number[]): string {
  const known = kinds.get(chain)
  if (known?.problem === problem) return known.kind
  const ids = chain.map((item) => {
    const shape = problem.items[item]
    if (!shape) return -1
    const id = shapeIds.get(shape) ?? shapeCount++
    shapeIds.set(shape, id)
    return id
  })
  const kind = ids.join()
  kinds.set(chain, { problem, kind })
  return kind
}

/** The chains that are still to be laid, and what is taken by the others. */
export interface Part {
  chains: ReadonlyArray<readonly number[]>
  taken: Uint8Array | null
}

/** What all chains cost together at these prices, how often each thing is taken, and how much of each term there is. */
function relaxed(problem: Problem, prices: Float64Array, weights: Weights, { chains, taken }: Part) {
  const costs = priced(weighed(weights), prices, taken)
  const used = new Int32Array(problem.resources)
  const amounts = Object.fromEntries(TERMS.map((term) => [term, 0])) as Record<Term, number>
  let cost = 0
  const ways = new Map<string, ReturnType<typeof cheapest>>()
  for (const chain of chains) {
    const kind = kindOf(problem, chain)
    const way = ways.get(kind) ?? cheapest(problem, chain, costs, weights.breaks)
    ways.set(kind, way)
    cost += way.cost
    way.path.forEach((candidate, index) => {
      const shape = problem.items[chain[index] ?? 0]
      if (!shape) return
      for (const resource of shape.takes[candidate] ?? []) used[resource] = (used[resource] ?? 0) + 1
      for (const term of OWN_TERMS) amounts[term] += shape.costs[term][candidate] ?? 0
      const before = problem.items[chain[index - 1] ?? -1]
      const from = before?.addresses[way.path[index - 1] ?? 0]
      if (index > 0 && !runsOn(from ?? -1, shape.addresses[candidate] ?? -1)) amounts.breaks++
    })
  }
  return { cost, used, amounts }
}

export interface PriceOptions {
  rounds: number
  /** Stop as soon as the bound reaches this. */
  enough: () => number
  /** Called every few rounds with the prices as they stand. */
  onRound?: (prices: Float64Array, weights: Weights) => void
  start?: Priced | null
  /** If not the whole. */
  part?: Part
}

/**
 * Put a price on everything that is there once, until chains that look for themselves only come as near as they
 * can to leaving it to each other (Lagrangian relaxation with subgradient steps).
 */
export function findPrices(problem: Problem, stage: Stage, target: number, options: PriceOptions): Priced {
  const { rounds, enough, onRound, start, part = { chains: problem.chains, taken: null } } = options
  let prices = start ? start.prices.slice() : new Float64Array(problem.resources)
  part.taken?.forEach((is, resource) => {
    if (is === 1) prices[resource] = 0
  })
  const weights: Record<Term, number> = {
    ...(Object.fromEntries(TERMS.map((term) => [term, 0])) as Record<Term, number>),
    [stage.term]: 1,
  }
  for (const { term } of stage.settled) weights[term] = start?.weights[term] || FIRST_WEIGHT
  if (start?.weights[stage.term] === 0) prices.fill(0)
  let best: Priced = { prices: prices.slice(), weights: { ...weights }, bound: -Infinity }
  let stride = 1
  let idle = 0
  const held = stage.settled.map(({ term }) => term)
  let direction = new Float64Array(prices.length + held.length)
  for (let round = 0; round < rounds; round++) {
    const { cost, used, amounts } = relaxed(problem, prices, weights, part)
    let bound = cost
    for (const price of prices) bound -= price
    for (const { term, value } of stage.settled) bound -= weights[term] * value
    if (bound > best.bound + 1e-9) {
      if (bound > best.bound + 1e-3 * Math.max(1, Math.abs(target))) idle = 0
      best = { prices: prices.slice(), weights: { ...weights }, bound }
    } else idle++
    if (Math.ceil(best.bound - 1e-6) >= enough()) break
    if (round % ROUNDS_A_TRY === 0) onRound?.(prices, weights)
    if (idle >= PATIENCE) {
      idle = 0
      stride *= 0.75
      if (stride < LEAST_STRIDE) break
      prices = best.prices.slice()
      Object.assign(weights, best.weights)
      direction = new Float64Array(direction.length)
      continue
    }
    const slope = new Float64Array(direction.length)
    for (let resource = 0; resource < used.length; resource++) {
      const over = (used[resource] ?? 0) - 1
      const isOpen = part.taken?.[resource] !== 1 && (over > 0 || (prices[resource] ?? 0) > 0)
      slope[resource] = isOpen ? over : 0
    }
    stage.settled.forEach(({ term, value }, index) => {
      slope[used.length + index] = amounts[term] - value
    })
    // Steps against the last direction are bent back, or they would swing to and fro (Camerini, Fratta, Maffioli).
    const against = dot(slope, direction)
    const bend = against < 0 ? (-1.5 * against) / dot(direction, direction) : 0
    for (let index = 0; index < slope.length; index++)
      direction[index] = (slope[index] ?? 0) + bend * (direction[index] ?? 0)
    const length = dot(direction, direction)
    if (length === 0) break
    const step = (stride * Math.max(target - bound, 0.3)) / length
    for (let resource = 0; resource < prices.length; resource++)
      prices[resource] = Math.max(0, (prices[resource] ?? 0) + step * (direction[resource] ?? 0))
    held.forEach((term, index) => {
      weights[term] = Math.max(0, weights[term] + step * (direction[prices.length + index] ?? 0))
    })
  }
  return best
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let index = 0; index < a.length; index++) sum += (a[index] ?? 0) * (b[index] ?? 0)
  return sum
}

/** Terms that can be told apart beside another in one number. */
const MOST_FIRST = 2
const FAR = 2 ** 18

/**
 * Weights by which each chain has, of the least it can have of the `tight` terms, the least of another. Of very
 * many such terms only the last are looked at.
 */
export function aloneWeights(problem: Problem, term: Term, tight: readonly Term[]): Weights {
  const weights = Object.fromEntries(TERMS.map((each) => [each, 0])) as Record<Term, number>
  const first = tight.filter((each) => each === 'breaks' || isCounted(problem, each)).slice(-MOST_FIRST)
  ;[term, ...first.toReversed()].forEach((each, index) => {
    weights[each] = FAR ** index
  })
  return weights
}

/** The least of a term that chains have together that look for themselves only. */
export const leastAlone = (problem: Problem, term: Term, weights: Weights): number =>
  relaxed(problem, new Float64Array(problem.resources), weights, { chains: problem.chains, taken: null })
    .amounts[term]

const isCounted = (problem: Problem, term: OwnTerm): boolean =>
  problem.items.some(({ costs }) => costs[term].some((cost) => cost > 0))
