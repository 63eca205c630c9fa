import type { Aids } from './exact'
import { lowestByPrograms } from './lowest-by-programs'
import { findPrices, type Priced, type Stage } from './prices'
import { scoreOf, TERMS } from './problem'
import { search, type Budget } from './search'
import { widenedBy, type Lowest, type Smaller } from './smaller'
import type { Solution } from './solution'

/** With one in so many of the steps that are left: where it is found at all, it is found soon. */
const SHARE = 48

/**
 * Of the choices that are as good as a given one that with the lowest addresses, if the steps allow it; else that one.
 *
 * @param prices Those of the last term that had any, to search by where there are no aids.
 */
export function lowest(
  smaller: Smaller,
  prices: Priced | null,
  budget: Budget,
  aids: Aids | null,
): Pick<Solution, 'choice' | 'score' | 'isLeast'> {
  const { problem, steps } = smaller
  const { choice, isLeast } = aids ? lowestByPrograms(smaller, aids) : lowestBySearch(smaller, prices, budget)
  return { choice: widenedBy(steps, choice), score: scoreOf(problem, choice), isLeast }
}

function lowestBySearch({ problem, choice }: Smaller, prices: Priced | null, budget: Budget): Lowest {
  const score = scoreOf(problem, choice)
  const term = TERMS.findLast((each) => (prices?.weights[each] ?? 0) > 0) ?? 'moved'
  const settled = TERMS.filter((each) => each !== term).map((each) => ({ term: each, value: score[each] }))
  const stage: Stage = { term, settled }
  const flat = prices ?? findPrices(problem, stage, score[term], { rounds: 1, enough: () => 0 })
  const ended = search(problem, stage, score[term], flat, { left: Math.floor(budget.left / SHARE) })
  return ended.end === 'found' ? { choice: ended.choice, isLeast: true } : { choice, isLeast: false }
}
