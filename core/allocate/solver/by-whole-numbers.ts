import { liftedOnce, settle, settledAlone, type Descent } from './descent'
import { nodesFor, type Aids } from './exact'
import type { Weights } from './chain'
import { choiceOf, MOST_COLUMNS, NEARLY_NOTHING, posedFor } from './program'
import { scoreOf, TERMS, type Choice } from './problem'
import { reduced, widened } from './reduce'
import {
  candidatesOf,
  firstOf,
  relaxed,
  ROUNDING,
  sumBy,
  termsOf,
  weightsFrom,
  type Relaxed,
} from './several'
import type { Smaller } from './smaller'
import { within } from './within'

/** Terms are told in one number up to this: whole numbers are found within a smaller range than broken ones. */
const MOST_WEIGHT = 1e7

const NEAR_SHARE = 0.25

/** Programs of more columns end sooner where it is said what their costs may come to; smaller ones take longer. */
const MOST_WITHOUT_RANGE = 1000

/** There is nothing, or it took too long to see. */
type Lacking = 'none' | 'open'

/**
 * Go on through the terms, several at once, by linear programs where their columns are whole, and by whole numbers where they
 * are not. Nothing is better then, by the word of the package where whole numbers were asked for. Null where a program or its
 * tree would be too large.
 *
 * @param from With a choice that has what was settled.
 */
export function solvedByWholeNumbers(from: Descent, aids: Aids): Smaller | null {
  let descent: Descent | null = from
  while (descent !== null && descent.settled.length < TERMS.length)
    descent = settledAlone(descent) ?? settledSurely(liftedOnce(descent), aids)
  return descent?.choice ? { ...descent, choice: descent.choice } : null
}

/** With the next terms settled, of which nothing has less; null where that takes too long to see. */
function settledSurely(descent: Descent, aids: Aids): Descent | null {
  const { problem, settled, choice } = descent
  if (choice === null || candidatesOf(problem) > MOST_COLUMNS) return null
  const weights = weightsFrom(problem, settled.length, MOST_WEIGHT)
  const terms = termsOf(weights)
  const said = relaxed(problem, settled, weights, aids)
  if (said === null) return null
  const { found, priced } = said
  const sum = (of: Choice): number => sumBy(weights, scoreOf(problem, of))
  const by = (slack: number) => reduced(problem, priced.weights, priced.prices, slack)
  const known = found && sum(found) < sum(choice) ? found : choice
  const gap = sum(known) - priced.bound
  const settledBy = (best: Choice): Descent => {
    const score = scoreOf(problem, best)
    const values = terms.map((term) => ({ term, value: score[term] }))
    return settle(descent, values, by(sum(best) - priced.bound + ROUNDING), best)
  }
  if (gap < 1 - ROUNDING) return settledBy(known)
  const has = scoreOf(problem, known)
  const first = firstOf(problem, said, weights, (term, value) => has[term] === value)
  if (first.values.length > 0) return settle(descent, first.values, by(first.slack), known)
  /** The best that can be made of candidates that go with what costs so much more than the bound at most, and `least`. */
  const bestWithin = (slack: number, least: number): Choice | Lacking => {
    const small = by(slack)
    if (small.kept.some(({ length }) => length === 0)) return 'none'
    const asked = posedFor(small.problem, settled, weights, MOST_COLUMNS)
    if (asked === null || aids.isStopped()) return 'open'
    const nodes = nodesFor(aids.budget, asked.program)
    const isLarge = terms.length > 1 && asked.program.costs.length > MOST_WITHOUT_RANGE
    const program = isLarge ? within(asked.program, least, Math.floor(priced.bound + slack)) : asked.program
    const { end, values } = aids.programs(program, { isWhole: true, nodes, isStopped: aids.isStopped })
    const best = end === 'least' && values ? choiceOf(small.problem, asked, values) : null
    return best === null ? (end === 'none' ? 'none' : 'open') : widened(small, best)
  }
  let best: Choice = known
  let least = Math.ceil(priced.bound - ROUNDING)
  for (const each of slacksFor(weights, said)) {
    const slack = Math.min(each, sum(best) - priced.bound + ROUNDING)
    const ended = bestWithin(slack, least)
    if (ended === 'open') return null
    if (ended !== 'none' && sum(ended) < sum(best)) best = ended
    // What costs more may be beaten by what goes with candidates that were left out.
    if (sum(best) - priced.bound <= slack) return settledBy(best)
    least = Math.ceil(priced.bound + slack - ROUNDING)
  }
  return null
}

/**
 * So much above the bound the best is looked for, one after the other: mostly it has of the first term what whole columns have more
 * than broken ones, and of the others what comes to a share of one of it; else, of several terms, one more of it.
 */
function slacksFor(weights: Partial<Weights>, { amountOf }: Relaxed): number[] {
  const [first, second] = termsOf(weights)
  if (first === undefined) return [Infinity]
  const weight = weights[first] ?? 0
  const amount = amountOf(first)
  const near = (Math.ceil(amount - NEARLY_NOTHING) - amount + NEAR_SHARE) * weight
  return second === undefined ? [near, Infinity] : [near, near + weight, Infinity]
}
