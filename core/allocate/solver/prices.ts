import { cheapest, leastOf, priced, weighed, type Costs, type Weights } from './chain'
import { kindOf } from './kinds'
import {
  noScore,
  OWN_TERMS,
  runsOn,
  TERMS,
  type OwnTerm,
  type Problem,
  type Shape,
  type Term,
} from './problem'

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
const ROUNDS_A_TRY = 24
const LEAST_STRIDE = 1e-4
/** The newest round is at most so much of the mean of all. */
const MOST_SHARE = 0.1
/** Steps aim a little above what is known to be there, and never at nothing. */
const OVERSHOOT = 1.05
const LEAST_AIM = 0.3
/** How hard settled terms are held on to at first. */
const FIRST_WEIGHT = 4

/** The chains that are still to be laid, and what is taken by the others. */
export interface Part {
  chains: ReadonlyArray<readonly number[]>
  taken: Uint8Array | null
}

/** One chain of each kind, and how many there are of it. */
type Group = { chain: readonly number[]; count: number }

function groupsOf(problem: Problem, chains: Part['chains']): Group[] {
  const groups = new Map<string, Group>()
  for (const chain of chains) {
    const kind = kindOf(problem, chain)
    const group = groups.get(kind)
    if (group) group.count++
    else groups.set(kind, { chain, count: 1 })
  }
  return [...groups.values()]
}

/** What all chains cost together at these prices, how often each resource is taken, and how much of each term there is. */
function relaxed(
  problem: Problem,
  groups: readonly Group[],
  prices: Float64Array,
  weights: Weights,
  taken: Uint8Array | null,
) {
  const costs = priced(weighed(weights), prices, taken)
  const used = new Int32Array(problem.resources)
  const amounts = noScore()
  let sum = 0
  for (const { chain, count } of groups) {
    const { path, cost } = cheapest(problem, chain, costs, weights.breaks)
    sum += count * cost
    path.forEach((candidate, index) => {
      const shape = problem.items[chain[index] ?? 0]
      if (!shape) return
      for (const resource of shape.takes[candidate] ?? []) used[resource] = (used[resource] ?? 0) + count
      for (const term of OWN_TERMS) amounts[term] += count * (shape.costs[term][candidate] ?? 0)
      const before = problem.items[chain[index - 1] ?? -1]
      const from = before?.addresses[path[index - 1] ?? 0]
      if (index > 0 && !runsOn(from ?? -1, shape.addresses[candidate] ?? -1)) amounts.breaks += count
    })
  }
  return { cost: sum, used, amounts }
}

/** The sum over all items of what is said of the cheapest candidate of each: where breaks cost nothing, chains go by it. */
function sumOfCheapest(
  { items }: Problem,
  costs: Costs,
  of: (shape: Shape, candidate: number) => number,
): number {
  const known = new Map<Shape, number>()
  return items.reduce((sum, shape) => {
    const own = known.get(shape) ?? of(shape, leastOf(costs(shape)))
    known.set(shape, own)
    return sum + own
  }, 0)
}

/** The least that all chains cost together. */
function leastCost(problem: Problem, prices: Float64Array, weights: Weights): number {
  if (weights.breaks > 0)
    return relaxed(problem, groupsOf(problem, problem.chains), prices, weights, null).cost
  const costs = priced(weighed(weights), prices, null)
  return sumOfCheapest(problem, costs, (shape, candidate) => costs(shape)[candidate] ?? 0)
}

/** The bound that follows of any prices and weights that are not below nothing. */
export function boundAt(
  problem: Problem,
  settled: Stage['settled'],
  prices: Float64Array,
  weights: Weights,
): number {
  let bound = leastCost(problem, prices, weights)
  for (const price of prices) bound -= price
  for (const { term, value } of settled) bound -= weights[term] * value
  return bound
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
 * can to leaving it to each other (Lagrangian relaxation by the volume algorithm: steps from the best prices that
 * are known, along the mean of what all rounds have taken too much and too little of).
 */
export function findPrices(problem: Problem, stage: Stage, target: number, options: PriceOptions): Priced {
  const { rounds, enough, onRound, start, part = { chains: problem.chains, taken: null } } = options
  const prices = start ? start.prices.slice() : new Float64Array(problem.resources)
  part.taken?.forEach((is, resource) => {
    if (is === 1) prices[resource] = 0
  })
  const weights = noScore()
  weights[stage.term] = 1
  // Prices of a term before are as good for this one, if that term weighs more.
  const scale = start?.weights[stage.term] === 0 ? FIRST_WEIGHT : 1
  for (let resource = 0; resource < prices.length; resource++)
    prices[resource] = scale * (prices[resource] ?? 0)
  for (const { term } of stage.settled) weights[term] = scale * (start?.weights[term] ?? 0) || FIRST_WEIGHT
  let best: Priced = { prices: prices.slice(), weights: { ...weights }, bound: -Infinity }
  const groups = groupsOf(problem, part.chains)
  let stride = 1
  let idle = 0
  const held = stage.settled.map(({ term }) => term)
  const slope = new Float64Array(prices.length + held.length)
  /** What has been taken over what there is, as a running mean of all rounds. */
  const mean = new Float64Array(slope.length)
  const way = new Float64Array(slope.length)
  for (let round = 0; round < rounds; round++) {
    const { cost, used, amounts } = relaxed(problem, groups, prices, weights, part.taken)
    let bound = cost
    for (let resource = 0; resource < prices.length; resource++) bound -= prices[resource] ?? 0
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
    }
    for (let resource = 0; resource < used.length; resource++)
      slope[resource] = part.taken?.[resource] === 1 ? 0 : (used[resource] ?? 0) - 1
    stage.settled.forEach(({ term, value }, index) => {
      slope[used.length + index] = amounts[term] - value
    })
    const share = round === 0 ? 1 : shareOf(slope, mean)
    for (let index = 0; index < mean.length; index++) {
      mean[index] = share * (slope[index] ?? 0) + (1 - share) * (mean[index] ?? 0)
      // A price that is nothing cannot fall.
      const isStuck = index < prices.length && (mean[index] ?? 0) < 0 && (best.prices[index] ?? 0) === 0
      way[index] = isStuck ? 0 : (mean[index] ?? 0)
    }
    const length = dot(way, way)
    if (length < 1e-9) break
    const step = (stride * Math.max(OVERSHOOT * target - best.bound, LEAST_AIM)) / length
    for (let resource = 0; resource < prices.length; resource++)
      prices[resource] = Math.max(0, (best.prices[resource] ?? 0) + step * (way[resource] ?? 0))
    held.forEach((term, index) => {
      weights[term] = Math.max(0, best.weights[term] + step * (way[prices.length + index] ?? 0))
    })
  }
  return best
}

/** How much of the mean the newest round is to be, so that the mean becomes as small as it can. */
function shareOf(newest: Float64Array, mean: Float64Array): number {
  let along = 0
  let apart = 0
  for (let index = 0; index < mean.length; index++) {
    const difference = (newest[index] ?? 0) - (mean[index] ?? 0)
    along -= difference * (mean[index] ?? 0)
    apart += difference * difference
  }
  return apart === 0 ? MOST_SHARE : Math.max(MOST_SHARE / 10, Math.min(MOST_SHARE, along / apart))
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
  const weights = noScore()
  const first = tight.filter((each) => each === 'breaks' || isCounted(problem, each)).slice(-MOST_FIRST)
  ;[term, ...first.toReversed()].forEach((each, index) => {
    weights[each] = FAR ** index
  })
  return weights
}

/** The least of a term that chains have together that look for themselves only. */
export function leastAlone(problem: Problem, term: Term, weights: Weights): number {
  if (term !== 'breaks' && weights.breaks === 0)
    return sumOfCheapest(problem, weighed(weights), (shape, candidate) => shape.costs[term][candidate] ?? 0)
  const nothing = new Float64Array(problem.resources)
  return relaxed(problem, groupsOf(problem, problem.chains), nothing, weights, null).amounts[term]
}

const isCounted = ({ items }: Problem, term: OwnTerm): boolean =>
  [...new Set(items)].some(({ costs }) => costs[term].some((cost) => cost > 0))

/** Weights for laying chains by prices: those of the prices, with what comes after only to tell equals apart. */
export function mixedWeights(at: Weights, term: Term): Weights {
  const mixed = { ...at }
  let small = 1e-4
  for (const each of TERMS.slice(TERMS.indexOf(term) + 1)) {
    mixed[each] = small
    small /= 1e2
  }
  return mixed
}
