import type { Weights } from './chain'
import type { Aids } from './exact'
import { amountsIn, choiceOf, MOST_COLUMNS, NEARLY_NOTHING, posedFor, pricesOf, type Posed } from './program'
import type { Priced, Stage } from './prices'
import { mostOf, TERMS, type Choice, type Problem, type Score, type Term } from './problem'

/** What is lost in rounding of several terms that are told in one number. */
export const ROUNDING = 1e-3

/** What a program says: prices, the choice that its columns are if they are whole, and how much of each term they have. */
export interface Relaxed {
  priced: Priced
  found: Choice | null
  amountOf: (term: Term) => number
}

/** What a program says of as little as can be; null where it says nothing, or would be too large. */
export function relaxed(
  problem: Problem,
  settled: Stage['settled'],
  weights: Partial<Weights>,
  { programs, isStopped }: Aids,
): Relaxed | null {
  const asked = posedFor(problem, settled, weights, MOST_COLUMNS)
  if (asked === null || isStopped()) return null
  const { values, duals } = programs(asked.program, { isWhole: false, nodes: 0, isStopped })
  if (values === null || duals === null) return null
  return {
    priced: pricesOf(problem, settled, asked, duals, weights),
    found: choiceOf(problem, asked, values),
    amountOf: amountsOf(problem, asked, values),
  }
}

/** How much of a term some columns have. */
function amountsOf(problem: Problem, { runs }: Posed, values: Float64Array): (term: Term) => number {
  const amount = amountsIn(problem)
  return (term) =>
    runs.reduce((sum, run, column) => {
      const value = values[column] ?? 0
      return value === 0 ? sum : sum + value * amount(term, run)
    }, 0)
}

/**
 * Weights by which nothing of the terms from one on is worth more than something of a term before, of as many as can be told
 * apart in a number up to `most`, and up to the one at `end`. Breaks begin anew, as they need larger programs.
 */
export function weightsFrom(
  problem: Problem,
  at: number,
  most: number,
  end: number = TERMS.length,
): Partial<Weights> {
  const breaks = TERMS.indexOf('breaks')
  const terms: Array<{ term: Term; most: number }> = []
  let range = 1
  for (const term of TERMS.slice(at, at < breaks ? Math.min(end, breaks) : end)) {
    const own = mostOf(problem, term)
    range *= own + 1
    if (range > most) break
    terms.push({ term, most: own })
  }
  const weights: Partial<Record<Term, number>> = {}
  let weight = 1
  for (const { term, most: own } of terms.toReversed()) {
    weights[term] = weight
    weight *= own + 1
  }
  return weights
}

export const termsOf = (weights: Partial<Weights>): Term[] =>
  TERMS.filter((term) => weights[term] !== undefined)

/** How much a score comes to by some weights. */
export const sumBy = (weights: Partial<Weights>, score: Score): number =>
  termsOf(weights).reduce((sum, term) => sum + (weights[term] ?? 0) * score[term], 0)

/**
 * The first of several terms for which a program of all says as much as one for each would: nothing has less of it.
 * `slack`: whoever has these values costs no more than that above the bound.
 *
 * @param isTaken Is a value taken as that of a term, of which the columns have a certain amount?
 */
export function firstOf(
  problem: Problem,
  { priced, amountOf }: Relaxed,
  weights: Partial<Weights>,
  isTaken: (term: Term, value: number, amount: number) => boolean,
): { values: Array<{ term: Term; value: number }>; slack: number } {
  const terms = termsOf(weights)
  const values: Array<{ term: Term; value: number }> = []
  let rest = priced.bound
  let after = terms.reduce((sum, term) => sum + (weights[term] ?? 0) * mostOf(problem, term), 0)
  for (const term of terms.slice(0, -1)) {
    const weight = weights[term] ?? 0
    const without = after - weight * mostOf(problem, term)
    const value = Math.max(0, Math.ceil((rest - without) / weight - NEARLY_NOTHING))
    const amount = amountOf(term)
    if (!isTaken(term, value, amount)) break
    values.push({ term, value })
    rest -= weight * value
    after = without
    // Other columns would be the best if more of it has to be taken.
    if (amount < value - NEARLY_NOTHING) break
  }
  return { values, slack: after - rest + ROUNDING }
}

/** How many candidates there are: one column each is the least. */
export const candidatesOf = ({ items }: Problem): number =>
  items.reduce((sum, { addresses }) => sum + addresses.length, 0)
