import { solvedByWholeNumbers } from './by-whole-numbers'
import { descentFrom, isThere, liftedOnce, nextTerm, settle, settledAlone, type Descent } from './descent'
import type { Aids } from './exact'
import { MOST_COLUMNS, NEARLY_NOTHING } from './program'
import { scoreOf, TERMS, type Choice, type Problem, type Term } from './problem'
import { lowestToBegin } from './lowest-by-programs'
import { reduced } from './reduce'
import { candidatesOf, firstOf, relaxed, ROUNDING, sumBy, termsOf, weightsFrom } from './several'
import type { Smaller } from './smaller'

/** Terms are told in one number up to this, as far as rounding lets them be told apart. */
const MOST_WEIGHT = 1e9

/**
 * Go through the terms as if every one could be as low as linear programming says, and see in the end whether there is a
 * choice of that kind. It mostly is, and then nothing is better. Where there is none, it is gone on by whole numbers from where
 * a choice was last known. Null where a program would be too large.
 *
 * @param known Something to begin with: a term of which chains have no less by themselves needs no program.
 */
export function solvedHopefully(problem: Problem, known: Choice, aids: Aids): Smaller | null {
  let hope: Descent | null = descentFrom(problem, known)
  let sure = hope
  while (hope !== null && hope.settled.length < TERMS.length) {
    const alone = settledAlone(hope)
    if (alone === null && candidatesOf(hope.problem) > MOST_COLUMNS) return null
    hope = alone ?? hoped(liftedOnce(hope), aids)
    if (hope !== null && isThere(hope)) sure = hope
  }
  return (hope && foundOf(hope, aids)) ?? solvedByWholeNumbers(sure, aids)
}

/** With the next terms settled as low as linear programs say; null where they say nothing, or nothing is left for someone. */
function hoped(descent: Descent, aids: Aids): Descent | null {
  const { problem, settled, choice } = descent
  const term = nextTerm(descent)
  const several = weightsFrom(problem, settled.length, MOST_WEIGHT)
  const terms = termsOf(several)
  const said = relaxed(problem, settled, several, aids)
  if (said === null) return null
  const { priced, found } = said
  const by = (slack: number) => reduced(problem, priced.weights, priced.prices, slack)
  if (found) {
    const score = scoreOf(problem, found)
    const gap = sumBy(several, score) - priced.bound
    const values = terms.map((each) => ({ term: each, value: score[each] }))
    if (gap < 1 - ROUNDING) return ifAnythingIsLeft(settle(descent, values, by(gap + ROUNDING), found))
  }
  const first = firstOf(problem, said, several, isReached)
  if (first.values.length > 0)
    return ifAnythingIsLeft(settle(descent, first.values, by(first.slack), found ?? choice))
  const only = terms.length > 1 ? relaxed(problem, settled, { [term]: 1 }, aids) : said
  if (only === null) return null
  const value = Math.max(0, Math.ceil(only.priced.bound - NEARLY_NOTHING))
  const hasMore = choice !== null && scoreOf(problem, choice)[term] > value
  const step = reduced(problem, only.priced.weights, only.priced.prices, value - only.priced.bound)
  return ifAnythingIsLeft(settle(descent, [{ term, value }], step, only.found ?? (hasMore ? null : choice)))
}

const ifAnythingIsLeft = (descent: Descent): Descent | null =>
  descent.problem.items.every(({ addresses }) => addresses.length > 0) ? descent : null

/** With less than one more than a value there are columns: it is taken to be as low. */
const isReached = (_: Term, value: number, amount: number): boolean =>
  Math.ceil(amount - NEARLY_NOTHING) <= value

/** A choice that has what was settled; null where there is none, or it was not found. */
function foundOf(hope: Descent, aids: Aids): Smaller | null {
  if (hope.choice !== null && isThere(hope)) return { ...hope, choice: hope.choice }
  const lowest = lowestToBegin(hope.problem, hope.settled, aids)
  if (lowest === null) return null
  const ended = settle(hope, [], lowest.step, lowest.choice)
  return ended.choice !== null && isThere(ended) ? { ...ended, choice: ended.choice } : null
}
