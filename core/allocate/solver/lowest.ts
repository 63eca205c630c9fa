import { findPrices, type Priced, type Stage } from './prices'
import { scoreOf, TERMS, type Choice, type Problem } from './problem'
import { widened, type Reduced } from './reduce'
import { search, type Budget } from './search'
import type { Solution } from './solution'

/** A problem that grew smaller while it was solved, with a choice of it of which no term is to be more. */
export interface Smaller {
  problem: Problem
  /** The candidates that were kept each time, from the first to the smallest. */
  steps: ReadonlyArray<Pick<Reduced, 'kept'>>
  choice: Choice
  /** Prices of the last term that had any. */
  prices: Priced | null
}

/** With one in so many of the steps that are left: where it is found at all, it is found soon. */
const SHARE = 48

/** A choice of the smallest problem as one of the first. */
export const widenedBy = (steps: Smaller['steps'], choice: Choice): Choice =>
  steps.reduceRight<Choice>((now, step) => widened(step, now), choice)

/** Of the choices that are as good as a given one that with the lowest addresses, if the steps allow it; else that one. */
export function lowest(
  { problem, steps, choice, prices }: Smaller,
  budget: Budget,
): Pick<Solution, 'choice' | 'score' | 'isLeast'> {
  const score = scoreOf(problem, choice)
  const term = TERMS.findLast((each) => (prices?.weights[each] ?? 0) > 0) ?? 'moved'
  const settled = TERMS.filter((each) => each !== term).map((each) => ({ term: each, value: score[each] }))
  const stage: Stage = { term, settled }
  const flat = prices ?? findPrices(problem, stage, score[term], { rounds: 1, enough: () => 0 })
  const ended = search(problem, stage, score[term], flat, { left: Math.floor(budget.left / SHARE) })
  const isLeast = ended.end === 'found'
  return { choice: widenedBy(steps, isLeast ? ended.choice : choice), score, isLeast }
}
