import { unlike } from './kinds'
import { findPrices } from './prices'
import { TERMS, type Problem, type Score } from './problem'
import { withoutForced } from './reduce'
import { withoutTogether } from './together'

/** Rounds in which prices are found; with fewer than the least nothing comes of it. */
const MOST_ROUNDS = 64
const LEAST_ROUNDS = 16
/** So much that candidates take, and so many resources, are looked at in all rounds: about two seconds. */
const MOST_LOOKED_AT = 60_000_000

const BEFORE = TERMS.slice(0, TERMS.indexOf('breaks'))

/**
 * So many breaks there are at least where all terms before are as in a score, by prices; 0 where a problem is too large.
 *
 * @param isStopped Asked each round; `true` ends it with what is known by then.
 */
export function leastBreaks(whole: Problem, score: Score, isStopped: () => boolean): number {
  const problem = withoutTogether(withoutForced(whole).problem)
  const size = unlike(problem).takes + problem.resources
  const rounds = Math.min(MOST_ROUNDS, Math.floor(MOST_LOOKED_AT / size))
  if (rounds < LEAST_ROUNDS) return 0
  const settled = BEFORE.map((term) => ({ term, value: score[term] }))
  const { bound } = findPrices(problem, { term: 'breaks', settled }, score.breaks, {
    rounds,
    enough: () => (isStopped() ? -Infinity : score.breaks),
  })
  return Math.max(0, Math.ceil(bound - 1e-6))
}
