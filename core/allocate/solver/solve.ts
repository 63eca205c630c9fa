import type { Weights } from './chain'
import { improved, layAll } from './construct'
import { findPrices, leastAlone, type Priced, type Stage } from './prices'
import { comparePlaced, scoreOf, TERMS, type Choice, type Problem, type Score, type Term } from './problem'
import { search, type Budget } from './search'

export interface SolveOptions {
  /** Search steps before the best that is known is given, with its bound. */
  steps: number
  /** Called now and then; `true` stops the search. */
  onProgress?: (progress: Progress) => boolean
}

export interface Progress {
  score: Score
  /** The terms that are proven. */
  proven: readonly Term[]
}

export interface Solution {
  choice: Choice
  score: Score
  /** The terms that are proven to be as low as they can be, given those before them. */
  proven: readonly Term[]
  /** The least that the first term that is not proven can be; null if all are. */
  bound: { term: Term; value: number } | null
  /** Is it also the one with the lowest addresses of all that score the same? */
  isLeast: boolean
}

const ROUNDS = 900
/** Above so many items bounds take longer than they are worth: fewer rounds. */
const LARGE = 400
const LARGE_ROUNDS = 24

/** As heavy as can be without a lower term getting lost in rounding. */
function rankedWeights(problem: Problem): Weights {
  const weights = {} as Record<Term, number>
  let weight = 1
  for (const term of TERMS.toReversed()) {
    weights[term] = weight
    const most =
      term === 'breaks'
        ? problem.chains.reduce((sum, chain) => sum + chain.length - 1, 0)
        : problem.items.reduce((sum, { costs }) => sum + costs[term].reduce((a, b) => Math.max(a, b), 0), 0)
    weight = Math.min(weight * (most + 1), 2 ** 50)
  }
  return weights
}

/** Chains in the orders in which they are tried: as they stand, and the longest first. */
function orders({ chains }: Problem): number[][] {
  const plain = chains.map((_, index) => index)
  const longest = plain.toSorted((a, b) => (chains[b]?.length ?? 0) - (chains[a]?.length ?? 0) || a - b)
  return [longest, plain]
}

/**
 * The best choice for a problem, term by term in the order of `TERMS`, and of equal ones that with the lowest
 * addresses. Always the same for the same problem and steps. Run to its end it is optimal; `proven` says how far it came.
 */
export function solve(problem: Problem, { steps, onProgress }: SolveOptions): Solution {
  const weights = rankedWeights(problem)
  const isLarge = problem.items.length > LARGE
  const budget: Budget = { left: steps }
  const { chains } = problem
  let best: Choice | null = null
  const offer = (choice: Choice): void => {
    if (best === null || comparePlaced(problem, choice, best) < 0) best = choice
  }
  for (const order of orders(problem)) offer(layAll(problem, order, weights, null))
  const first = best ?? []
  offer(improved(problem, first, weights, isLarge ? 200 : 2000))

  const settled: Array<{ term: Term; value: number }> = []
  const proven: Term[] = []
  let prices: Priced | null = null
  const current = (): Choice => best ?? first
  const score = (): Score => scoreOf(problem, current())
  let isStopped = false
  const tell = (): void => {
    if (onProgress?.({ score: score(), proven: [...proven] })) isStopped = true
  }

  // Terms of which every chain has the least it could have if it were alone.
  const tight: Term[] = []

  for (const term of TERMS) {
    tell()
    const stage: Stage = { term, settled: [...settled] }
    const alone = leastAlone(problem, term, tight)
    if (alone === score()[term]) tight.push(term)
    else {
      const longest = orders(problem)[0] ?? []
      const found: Priced = findPrices(problem, stage, score()[term], {
        rounds: isStopped ? 1 : isLarge ? LARGE_ROUNDS : ROUNDS,
        get enough() {
          return score()[term]
        },
        start: prices,
        onRound: (now, at) => {
          const mixed = mixedWeights(weights, at, term)
          offer(improved(problem, layAll(problem, longest, mixed, now), weights, isLarge ? 0 : chains.length))
        },
      })
      prices = found
      let lower = Math.ceil(found.bound - 1e-6)
      while (lower < score()[term] && !isStopped) {
        tell()
        const ended = search(problem, stage, score()[term] - 1, found, budget)
        if (ended.end === 'found') offer(improved(problem, ended.choice, weights, 200))
        else if (ended.end === 'none') lower = score()[term]
        else break
      }
      if (lower < score()[term])
        return {
          choice: current(),
          score: score(),
          proven,
          bound: { term, value: Math.max(0, lower) },
          isLeast: false,
        }
    }
    settled.push({ term, value: score()[term] })
    proven.push(term)
  }
  const last: Stage = { term: 'moved', settled: settled.slice(0, -1) }
  const flat = prices ?? findPrices(problem, last, score().moved, { rounds: 1, enough: 0 })
  const ended = search(problem, last, score().moved, flat, budget)
  if (ended.end === 'found') best = ended.choice
  return { choice: current(), score: score(), proven, bound: null, isLeast: ended.end === 'found' }
}

/** Weights for laying chains by prices: those of the prices, with what comes after only to tell equals apart. */
function mixedWeights(ranked: Weights, at: Weights, term: Term): Weights {
  const mixed = { ...at }
  let small = 1e-4
  for (const each of TERMS.slice(TERMS.indexOf(term) + 1)) {
    mixed[each] = small * (ranked[each] > 0 ? 1 : 0)
    small /= 1e2
  }
  return mixed
}
