import { TERMS, type Score } from './problem'
import type { Solution } from './solution'

/**
 * What is certain of a score, where a problem with more freedom was solved too: nothing can be better than what is proven
 * of that.
 */
export function certainBeside(
  freer: Pick<Solution, 'score' | 'proven' | 'bound'>,
  score: Score,
): Pick<Solution, 'proven' | 'bound'> {
  const leastOf = (index: number): number | null => {
    const term = TERMS[index]
    if (term === undefined) return null
    if (freer.proven.includes(term)) return freer.score[term]
    return freer.bound?.term === term ? freer.bound.value : null
  }
  const open = TERMS.findIndex((term, index) => leastOf(index) !== score[term])
  const term = TERMS[open]
  if (term === undefined) return { proven: TERMS, bound: null }
  return { proven: TERMS.slice(0, open), bound: { term, value: leastOf(open) ?? 0 } }
}
