import { cheapest, completions, priced, weighed, type Costs, type Weights } from './chain'
import { emptyPlacing, lift, place } from './construct'
import { kindOf, twinsBefore } from './kinds'
import { findPrices, type Part, type Priced, type Stage } from './prices'
import { NOWHERE, noScore, OWN_TERMS, runsOn, type Choice, type Problem, type Term } from './problem'

/** How a search ended: with a choice, with the proof that there is none, or out of steps. */
export type Searched = { end: 'found'; choice: Choice } | { end: 'none' } | { end: 'out-of-steps' }

/** Steps left; what stops a long search. */
export interface Budget {
  left: number
}

const EPSILON = 1e-6
/** Rounds in which prices are looked at again for what is left to be laid. */
const FEW_ROUNDS = 12
/** A round over so many candidates counts as a step, and one over an item at least. */
const CANDIDATES_A_STEP = 100

/** What each chain from an index on costs at least, together with all after it. */
function suffixes(problem: Problem, from: number, costs: Costs, breakCost: number): number[] {
  const sums = new Array<number>(problem.chains.length + 1).fill(0)
  const known = new Map<string, number>()
  for (let index = problem.chains.length - 1; index >= from; index--) {
    const chain = problem.chains[index] ?? []
    const kind = kindOf(problem, chain)
    const cost = known.get(kind) ?? cheapest(problem, chain, costs, breakCost).cost
    known.set(kind, cost)
    sums[index] = cost + (sums[index + 1] ?? 0)
  }
  return sums
}

/** How many steps a round over each chain and all after it counts as. */
function roundStepsFrom({ chains, items }: Problem): number[] {
  const steps = chains.map(() => 0)
  let sum = 0
  for (let chain = chains.length - 1; chain >= 0; chain--) {
    for (const item of chains[chain] ?? [])
      sum += Math.max(1, Math.ceil((items[item]?.addresses.length ?? 0) / CANDIDATES_A_STEP))
    steps[chain] = sum
  }
  return steps
}

const only = (term: Term): Weights => ({ ...noScore(), [term]: 1 })

/**
 * Look, item by item in the order of the rig and from the lowest address up, for a choice that keeps to the
 * settled terms and has at most `most` of the open one. The first that is found has the lowest addresses. What
 * cannot lead there by the prices, which are found anew for what is left after each chain, is passed over.
 */
export function search(
  problem: Problem,
  { term, settled }: Stage,
  most: number,
  start: Priced,
  budget: Budget,
): Searched {
  const { chains, items } = problem
  const caps: ReadonlyArray<{ term: Term; value: number }> = [...settled, { term, value: most }]
  /** What chains from each on have at least of each capped term. */
  const alone = caps.map((cap) => {
    const own = only(cap.term)
    return { ...cap, least: suffixes(problem, 0, weighed(own), own.breaks) }
  })
  const roundSteps = roundStepsFrom(problem)
  const twins = twinsBefore(problem)
  const placing = emptyPlacing(problem)
  const amounts: Record<Term, number> = noScore()

  const within = (chain: number): boolean =>
    alone.every((cap) => amounts[cap.term] + (cap.least[chain] ?? 0) <= cap.value)

  /** True if it led to a choice, false if not, null if the steps ran out. */
  const chainAt = (chain: number, before: Priced): boolean | null => {
    const list = chains[chain]
    if (!list) return true
    const part: Part = { chains: chains.slice(chain), taken: placing.taken }
    let now = before
    if (chain > 0 && part.chains.length > 1) {
      const left = caps.map((cap) => ({ term: cap.term, value: cap.value - amounts[cap.term] }))
      const open = left.at(-1)?.value ?? 0
      now = findPrices(problem, { term, settled: left.slice(0, -1) }, open + 1, {
        rounds: FEW_ROUNDS,
        enough: () => open + 1,
        start: before,
        part,
      })
      budget.left -= FEW_ROUNDS * (roundSteps[chain] ?? 0)
      if (now.bound > open + EPSILON) return false
    }
    const { prices, weights } = now
    const base = weighed(weights)
    const costs = priced(base, prices, placing.taken)
    const after = suffixes(problem, chain + 1, costs, weights.breaks)[chain + 1] ?? 0
    const ways = completions(problem, list, costs, weights.breaks)
    const limit = caps.reduce((sum, cap) => sum + weights[cap.term] * (cap.value - amounts[cap.term]), 0)
    const open = prices.reduce((sum, price, resource) => sum + (placing.taken[resource] === 1 ? 0 : price), 0)

    const twin = chains[twins[chain] ?? -1]?.[0]
    /** Chains that could change places are looked at in one order only. */
    const floor =
      twin === undefined ? NOWHERE : (items[twin]?.addresses[placing.choice[twin] ?? 0] ?? NOWHERE)
    const isOutOfOrder = (address: number): boolean =>
      twin !== undefined && address !== NOWHERE && (floor === NOWHERE || address < floor)

    const itemAt = (index: number, spent: number, unused: number): boolean | null => {
      if (index === list.length) return within(chain + 1) ? chainAt(chain + 1, now) : false
      const item = list[index] ?? 0
      const shape = items[item]
      const last = list[index - 1]
      const way = ways[index]
      if (!shape || !way) return false
      const from =
        last === undefined ? NOWHERE : (items[last]?.addresses[placing.choice[last] ?? 0] ?? NOWHERE)
      const own = base(shape)
      for (let candidate = 0; candidate < own.length; candidate++) {
        if (index === 0 && isOutOfOrder(shape.addresses[candidate] ?? NOWHERE)) continue
        const isBreak = last !== undefined && !runsOn(from, shape.addresses[candidate] ?? NOWHERE)
        const step = isBreak ? weights.breaks : 0
        if (spent + step + (way[candidate] ?? Infinity) + after - unused > limit + EPSILON) continue
        const takes = shape.takes[candidate] ?? NOTHING
        if (takes.some((resource) => placing.taken[resource] === 1)) continue
        if (--budget.left < 0) return null
        let price = 0
        for (const resource of takes) price += prices[resource] ?? 0
        place(problem, placing, item, candidate)
        for (const each of OWN_TERMS) amounts[each] += shape.costs[each][candidate] ?? 0
        if (isBreak) amounts.breaks++
        const led = caps.every((cap) => amounts[cap.term] <= cap.value)
          ? itemAt(index + 1, spent + step + (own[candidate] ?? 0), unused - price)
          : false
        if (led !== false) return led
        if (isBreak) amounts.breaks--
        for (const each of OWN_TERMS) amounts[each] -= shape.costs[each][candidate] ?? 0
        lift(problem, placing, item)
      }
      return false
    }
    return itemAt(0, 0, open)
  }

  const led = within(0) ? chainAt(0, start) : false
  if (led === null) return { end: 'out-of-steps' }
  return led ? { end: 'found', choice: placing.choice } : { end: 'none' }
}

const NOTHING = new Int32Array()
