import { laidAnew } from './anew'
import { augmented } from './augment'
import { leastByCounting } from './by-counting'
import type { Weights } from './chain'
import { improved, layAll } from './construct'
import { solvedExactly } from './exact'
import { solvedHopefully } from './hopeful'
import { unlike } from './kinds'
import { lifted } from './lift'
import { lowest } from './lowest'
import { coverOf, HARD_TERMS } from './needs'
import { aloneWeights, findPrices, leastAlone, mixedWeights, type Priced, type Stage } from './prices'
import { mixedUp, mostWantedFirst, orders } from './orders'
import { quickly } from './quick'
import {
  comparePlaced,
  FIRST_TERMS,
  mostOf,
  noScore,
  scoreOf,
  TERMS,
  type Choice,
  type Problem,
  type Score,
  type Term,
} from './problem'
import { narrowed, reduced, type Reduced } from './reduce'
import { MOST_COLUMNS, type SolveProgram } from './program'
import { search, type Budget } from './search'
import { laidAtSameStakes } from './same-stakes'
import { widenedBy } from './smaller'
import { closed, withoutProof, type Solution } from './solution'

/** How much is tried. */
interface Effort {
  /** Rounds in which prices are found; of many items fewer, or they would take longer than they are worth. */
  rounds: number
  /** How often chains are taken up and laid again, at first and with every set of prices. */
  firstTries: number
  laterTries: number
  /** How often a few chains are laid anew as well as they can be. */
  anew: number
}
/** Tries where there is little time. */
const QUICK_TRIES = 200
export const FULL: Effort = { rounds: 900, firstTries: 400, laterTries: 20, anew: 16 }
/** What is found at once. */
export const QUICK: Effort = { rounds: 0, firstTries: QUICK_TRIES, laterTries: 0, anew: 0 }
/** Who finds a place at all. */
export const HASTY: Effort = { rounds: 0, firstTries: 0, laterTries: 0, anew: 0 }
/** For a few chains of many. */
export const FEW: Effort = { rounds: 80, firstTries: 40, laterTries: 10, anew: 0 }
const FEW_STEPS = 1500
/** Fewer chains are not laid anew in parts. */
const LEAST_ANEW = 7
const ROUND_ITEMS = 120_000
/** Rounds of a large problem; of one with very many candidates down to the least. */
const LARGE_ROUNDS = 24
const LEAST_ROUNDS = 8
/** So much of what candidates take is looked at in all rounds of a term, and so many candidates in all tries at first. */
const ROUND_TAKES = 130_000_000
const TRY_CANDIDATES = 30_000_000
/** Of more candidates chains are not laid anew. */
const MOST_ANEW_CANDIDATES = 300_000
/** What others give way for: first that all find a place, then that nothing learned is lost as well. */
const HELPED: ReadonlyArray<{ terms: readonly Term[]; sake: readonly Term[] }> = [
  { terms: HARD_TERMS, sake: HARD_TERMS },
  { terms: [...HARD_TERMS, 'stale'], sake: ['stale'] },
]
/** Above so many items chains are not laid again for every set of prices. */
const LARGE = 400
/** Where more are left of a large part, prices are found for the sake of a proof only: they come nowhere near that many. */
const MANY_LEFT = 100
/** With so many items, a search is only tried where it has to find so much less at most. */
const MOST_GAP_OF_LARGE = 2

/** As heavy as can be without a lower term getting lost in rounding. */
function rankedWeights(problem: Problem): Weights {
  const weights = noScore()
  let weight = 1
  for (const term of TERMS.toReversed()) {
    weights[term] = weight
    weight = Math.min(weight * (mostOf(problem, term) + 1), 2 ** 50)
  }
  return weights
}

/** A problem that grows smaller while it is solved, with the best choice that is known of it. */
interface Work {
  problem: Problem
  /** The candidates that were kept each time, from the first to the smallest. */
  steps: Array<Pick<Reduced, 'kept'>>
  best: Choice
}

/** Leave out of the problem what can no longer be part of a best choice. */
function shrink(work: Work, weights: Weights, prices: Float64Array | null, slack: number): void {
  const step = reduced(work.problem, weights, prices, slack)
  const best = narrowed(step, work.best)
  // The best that is known is within the slack; where rounding says otherwise, the problem stays as it is.
  if (best === null) return
  work.problem = step.problem
  work.steps.push({ kept: step.kept })
  work.best = best
}

/** The best choice for a problem whose parts hang together; `tell` is asked now and then whether to stop. */
export function solvePart(
  whole: Problem,
  budget: Budget,
  effort: Effort,
  tell: (proven: readonly Term[]) => boolean,
  {
    start = null,
    programs = null,
    enough = null,
    needsProof = true,
  }: {
    start?: Choice | null
    programs?: SolveProgram | null
    enough?: readonly Term[] | null
    needsProof?: boolean
  } = {},
): Solution {
  const weights = rankedWeights(whole)
  const isLarge = whole.items.length > LARGE
  const isQuick = effort === QUICK
  const size = unlike(whole)
  const mostRounds = Math.floor(ROUND_TAKES / (size.takes + 1))
  const rounds = Math.max(
    LEAST_ROUNDS,
    Math.min(effort.rounds, Math.max(LARGE_ROUNDS, Math.floor(ROUND_ITEMS / size.items)), mostRounds),
  )
  const mostTries = Math.ceil((TRY_CANDIDATES * whole.chains.length) / (size.candidates + 1))
  const firstTries = Math.min(mostTries, isLarge ? QUICK_TRIES : effort.firstTries)
  const [longest, plain] = orders(whole)
  const first = start ?? layAll(whole, longest, weights, null) ?? whole.items.map(({ leave }) => leave)
  if (first.includes(-1))
    throw new Error('A part has an item that can go nowhere, not even be left as it is.')
  const work: Work = { problem: whole, steps: [], best: first }
  let known = scoreOf(whole, first)
  const offer = (choice: Choice | null): void => {
    if (choice === null || comparePlaced(work.problem, choice, work.best) >= 0) return
    work.best = choice
    known = scoreOf(work.problem, choice)
  }
  // To lay a large part again takes long, and has not been seen to come out better than what it begins with.
  const others = start === null ? [plain] : isLarge ? [] : [plain, longest]
  for (const order of others) offer(layAll(whole, order, weights, null))
  const help = (): void => {
    // Who finds a place at all does not depend on what was learned.
    const all = effort === HASTY ? HELPED.slice(0, 1) : HELPED
    for (const { terms, sake } of all) offer(augmented(whole, work.best, terms, sake))
  }
  const aids = programs === null || isQuick ? null : { programs, budget, isStopped: () => tell([]) }
  const isMerged = aids !== null && effort === FULL && size.candidates > MOST_COLUMNS
  const sure = isMerged ? leastByCounting(whole, work.best, aids) : null
  const isSure = sure?.proven.length === FIRST_TERMS.length
  if (sure) offer(sure.choice)
  if (!isSure) help()
  if (effort === HASTY)
    return {
      choice: work.best,
      score: known,
      proven: [],
      bound: { term: 'errors', value: 0 },
      isLeast: false,
    }
  const hoped = aids && sure === null && solvedHopefully(whole, work.best, aids)
  if (hoped) return { ...lowest(hoped, null, budget, aids), proven: TERMS, bound: null }
  // Programs of single terms are nearer the best with it too.
  if (aids && size.candidates <= MOST_COLUMNS) work.problem = lifted(whole)
  offer(improved(whole, work.best, weights, firstTries))
  if (!isLarge && !isSure) help()
  const found = (): Solution => withoutProof({ choice: work.best, score: known })
  if (enough?.every((term) => known[term] === 0)) return found()
  // To look how near the best it is takes longer than to find it.
  if (isQuick && isLarge) return found()
  if (isQuick) return quickly(whole, work.best, longest)
  /** A few chains at a time, once: where all terms before the open one are as low as they can be. */
  const anew = (times: number): void =>
    offer(laidAnew(work.problem, work.best, { times, seed: whole.items.length, solveFew }))
  const isAnew = whole.chains.length >= LEAST_ANEW && size.candidates <= MOST_ANEW_CANDIDATES
  let times = isAnew ? (isLarge ? Math.ceil(effort.anew / 2) : effort.anew) : 0
  const isHopelesslyFull = isLarge && known.errors + known.unmet > MANY_LEFT
  if (isHopelesslyFull && !needsProof && (aids === null || size.candidates > MOST_COLUMNS)) {
    if (times > 0) anew(times)
    return found()
  }

  const solveOne = (part: Problem, from: Choice): Choice => {
    const own: Budget = { left: Math.floor((budget.left * part.items.length) / whole.items.length) }
    return solvePart(part, own, FEW, () => tell([]), { start: from, programs }).choice
  }

  const settled: Array<{ term: Term; value: number }> = []
  const proven: Term[] = []
  /** Terms of which every chain has the least it could have if it were alone. */
  const tight: Term[] = []
  let prices: Priced | null = null
  let open: Solution['bound'] = null
  let turn = 0
  const score = (): Score => known
  const settle = (term: Term): void => {
    settled.push({ term, value: known[term] })
    if (open === null) proven.push(term)
  }

  for (const term of TERMS) {
    if (sure?.proven.includes(term)) {
      settle(term)
      continue
    }
    const stage: Stage = { term, settled: [...settled] }
    const alone = aloneWeights(work.problem, term, tight)
    const leastOfAll = leastAlone(work.problem, term, alone)
    if (leastOfAll === score()[term]) {
      tight.push(term)
      shrink(work, alone, null, 0.5)
    } else if (sure && FIRST_TERMS.some((each) => known[each] > 0)) {
      if (!isLarge) offer(laidAtSameStakes(work.problem, work.best, solveOne))
      const counted = term === TERMS[sure.proven.length] ? sure.least : 0
      open ??= { term, value: Math.max(leastOfAll, counted) }
      break
    } else {
      const target = (): number => score()[term]
      const exact = aids && solvedExactly(work.problem, stage, target(), aids)
      if (exact) {
        offer(exact.better)
        prices = exact.priced
        if (exact.least < target()) open ??= { term, value: exact.least }
        shrink(work, prices.weights, prices.prices, target() - prices.bound)
        settle(term)
        continue
      }
      const cover = prices === null && HARD_TERMS.includes(term) ? coverOf(work.problem, term) : null
      const near: Priced = findPrices(work.problem, stage, target(), {
        // Prices of a cover are near the best already: of a large problem they are taken as they are.
        rounds: tell(proven) || (isLarge && cover) ? 1 : rounds,
        enough: target,
        start: prices ?? cover,
        onRound: (now, at) => {
          turn++
          const order = turn % 2 === 0 ? longest : mixedUp(longest, turn)
          const laid = layAll(work.problem, order, mixedWeights(at, term), now)
          offer(
            laid === null || isLarge ? laid : improved(work.problem, laid, weights, effort.laterTries, turn),
          )
        },
      })
      prices = near
      let lower = Math.ceil(near.bound - 1e-6)
      if (lower < target() && open === null && times > 0) {
        anew(times)
        times = 0
      }
      // Half of the steps that are left, so that one hard term does not take them all.
      const share: Budget = { left: Math.floor(budget.left / 2) }
      budget.left -= share.left
      const isHopeless = isLarge && target() - lower > MOST_GAP_OF_LARGE
      while (lower < target() && !isHopeless) {
        if (tell(proven)) break
        const ended = search(mostWantedFirst(work.problem, near), stage, target() - 1, near, share)
        if (ended.end === 'found') offer(improved(work.problem, ended.choice, weights, effort.laterTries))
        else if (ended.end === 'none') lower = target()
        else break
      }
      if (!tell(proven)) budget.left += Math.max(0, share.left)
      // What is not proven is held on to all the same, so that the terms after it come out well too.
      if (lower < target()) open ??= { term, value: Math.max(0, lower) }
      // Of a large problem the terms after it are as they were found: to look for less of them would take long.
      if (isLarge && open !== null) break
      shrink(work, near.weights, near.prices, target() - near.bound)
    }
    settle(term)
  }
  if ((isLarge || sure !== null) && open !== null) {
    const bound = closed(open, score(), proven)
    return { choice: widenedBy(work.steps, work.best), score: score(), proven, bound, isLeast: false }
  }
  const ended = lowest({ problem: work.problem, choice: work.best, steps: work.steps }, prices, budget, aids)
  // What lies lower may be better too, where a term is open.
  const bound = closed(open, ended.score, proven)
  return { ...ended, proven, bound, isLeast: open === null && ended.isLeast }
}

const solveFew = (few: Problem, start: Choice): Choice =>
  solvePart(few, { left: FEW_STEPS }, FEW, () => false, { start }).choice
