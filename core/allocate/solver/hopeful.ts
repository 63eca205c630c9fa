import type { Weights } from './chain'
import { nodesFor, type Aids } from './exact'
import {
  amountsIn,
  choiceOf,
  MOST_COLUMNS,
  NEARLY_NOTHING,
  posed,
  posedFor,
  pricesOf,
  type Posed,
} from './program'
import { aloneWeights, leastAlone, type Priced } from './prices'
import { mostOf, scoreOf, TERMS, type Choice, type Problem, type Score, type Term } from './problem'
import { lifted } from './lift'
import { lowestToBegin } from './lowest-by-programs'
import { narrowed, reduced, type Reduced } from './reduce'
import type { Smaller } from './smaller'

/** Terms are told in one number up to this, as far as rounding lets them be told apart. */
const MOST_WEIGHT = 1e9
/** What is lost in rounding of such a number. */
const ROUNDING = 1e-3

/**
 * Go through the terms as if every one could be as low as linear programming says, and see in the end whether there is a
 * choice of that kind. It mostly is, and then nothing is better. Several terms are asked for at once first: where a program
 * says a choice, that mostly is the best of all of them. Null where there is none, or where a program would be too large.
 *
 * @param known Something to begin with: a term of which chains have no less by themselves needs no program.
 */
export function solvedHopefully(whole: Problem, known: Choice, aids: Aids): Smaller | null {
  const { programs, isStopped } = aids
  const steps: Array<Pick<Reduced, 'kept'>> = []
  const settled: Array<{ term: Term; value: number }> = []
  const tight: Term[] = []
  let problem = whole
  let isLifted = false
  /** The last choice that a program said, as long as nothing has been settled since. */
  let choice: Choice | null = known
  /** Go on with what is left; false if that is nothing for someone. */
  const shrink = (step: Reduced): boolean => {
    problem = step.problem
    steps.push({ kept: step.kept })
    choice = choice && narrowed(step, choice)
    return step.kept.every(({ length }) => length > 0)
  }
  /** What a program says of as little as can be; null where it says nothing. */
  const relaxed = (weights: Partial<Weights>): Relaxed | null => {
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
  for (let at = 0; at < TERMS.length; at++) {
    const term = TERMS[at] ?? 'moved'
    const alone = aloneWeights(problem, term, tight)
    const least = leastAlone(problem, term, alone)
    const score: Score | null = choice && scoreOf(problem, choice)
    if (score?.[term] === least) {
      tight.push(term)
      shrink(reduced(problem, alone, null, 0.5))
      settled.push({ term, value: least })
      continue
    }
    // One column a candidate is the least.
    if (candidatesOf(problem) > MOST_COLUMNS) return null
    if (!isLifted) problem = lifted(problem)
    isLifted = true
    const several = weightsFrom(problem, at)
    const terms = TERMS.filter((each) => several[each] !== undefined)
    const together = terms.length > 1 ? relaxed(several) : null
    if (together?.found) {
      const { priced, found } = together
      const now = scoreOf(problem, found)
      const gap = terms.reduce((sum, each) => sum + (several[each] ?? 0) * now[each], -priced.bound)
      if (gap < 1 - ROUNDING) {
        choice = found
        for (const each of terms) settled.push({ term: each, value: now[each] })
        if (!shrink(reduced(problem, priced.weights, priced.prices, gap + ROUNDING))) return null
        at += terms.length - 1
        continue
      }
    }
    const first = together && firstOf(problem, together, several)
    if (together && first && first.values.length > 0) {
      if (together.found) choice = together.found
      settled.push(...first.values)
      if (!shrink(reduced(problem, together.priced.weights, together.priced.prices, first.slack))) return null
      at += first.values.length - 1
      continue
    }
    const only = relaxed({ [term]: 1 })
    if (only === null) return null
    const { priced, found } = only
    const value = Math.max(0, Math.ceil(priced.bound - NEARLY_NOTHING))
    if (found !== null || (score?.[term] ?? value) > value) choice = found
    settled.push({ term, value })
    if (!shrink(reduced(problem, priced.weights, priced.prices, value - priced.bound))) return null
  }
  const isThere = (of: Choice): boolean => {
    const score = scoreOf(problem, of)
    return settled.every(({ term, value }) => score[term] === value)
  }
  if (choice === null || !isThere(choice)) {
    const lowest = lowestToBegin(problem, settled, aids)
    if (lowest === 'none') return null
    choice = lowest === 'open' ? wholeOf(problem, settled, aids) : lowest.choice
    if (typeof lowest !== 'string') shrink(lowest.step)
  }
  return choice === null || !isThere(choice) ? null : { problem, steps, choice }
}

/** What a program says: prices, the choice that its columns are if they are whole, and how much of each term they have. */
interface Relaxed {
  priced: Priced
  found: Choice | null
  amountOf: (term: Term) => number
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
 * The first of several terms for which a program of all says as much as one for each would: nothing has less of it, and with less
 * than one more of it there are columns. `slack`: whoever has these values costs no more than that above the bound.
 */
function firstOf(
  problem: Problem,
  { priced, amountOf }: Relaxed,
  weights: Partial<Weights>,
): { values: Array<{ term: Term; value: number }>; slack: number } {
  const terms = TERMS.filter((term) => weights[term] !== undefined)
  const values: Array<{ term: Term; value: number }> = []
  let rest = priced.bound
  let after = terms.reduce((sum, term) => sum + (weights[term] ?? 0) * mostOf(problem, term), 0)
  for (const term of terms.slice(0, -1)) {
    const weight = weights[term] ?? 0
    const without = after - weight * mostOf(problem, term)
    const value = Math.max(0, Math.ceil((rest - without) / weight - NEARLY_NOTHING))
    const amount = amountOf(term)
    if (Math.ceil(amount - NEARLY_NOTHING) > value) break
    values.push({ term, value })
    rest -= weight * value
    after = without
    // Other columns would be the best if more of it has to be taken.
    if (amount < value - NEARLY_NOTHING) break
  }
  return { values, slack: after - rest + ROUNDING }
}

/**
 * Weights by which nothing of the terms from one on is worth more than something of a term before, of as many as can be told
 * apart. Breaks begin anew, as they need larger programs.
 */
function weightsFrom(problem: Problem, at: number): Partial<Weights> {
  const breaks = TERMS.indexOf('breaks')
  const terms: Array<{ term: Term; most: number }> = []
  let range = 1
  for (const term of TERMS.slice(at, at < breaks ? breaks : TERMS.length)) {
    const most = mostOf(problem, term)
    range *= most + 1
    if (range > MOST_WEIGHT) break
    terms.push({ term, most })
  }
  const weights: Partial<Record<Term, number>> = {}
  let weight = 1
  for (const { term, most } of terms.toReversed()) {
    weights[term] = weight
    weight *= most + 1
  }
  return weights
}

const candidatesOf = ({ items }: Problem): number =>
  items.reduce((sum, { addresses }) => sum + addresses.length, 0)

/** A choice that keeps to all terms; null where there is none. */
function wholeOf(
  problem: Problem,
  settled: ReadonlyArray<{ term: Term; value: number }>,
  { programs, budget, isStopped }: Aids,
): Choice | null {
  const last = settled.at(-1)
  if (!last) return null
  const asked = posed(problem, { term: last.term, settled: settled.slice(0, -1) }, MOST_COLUMNS)
  if (asked === null) return null
  const { values } = programs(asked.program, {
    isWhole: true,
    nodes: nodesFor(budget, asked.program),
    isStopped,
  })
  return values && choiceOf(problem, asked, values)
}
