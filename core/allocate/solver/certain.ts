import { TERMS, type Score } from './problem'
import type { Solution } from './solution'

/** What is certain of a score. */
export type Certain = Pick<Solution, 'proven' | 'bound'>

/** What is certain of a score where no choice has fewer errors than `least`, and nothing else is known. */
export function certainOfErrors(least: number, score: Score): Certain {
  if (least < score.errors) return { proven: [], bound: { term: 'errors', value: least } }
  const open = TERMS.findIndex((term) => term !== 'errors' && score[term] > 0)
  const term = TERMS[open]
  return term === undefined
    ? { proven: TERMS, bound: null }
    : { proven: TERMS.slice(0, open), bound: { term, value: 0 } }
}

/**
 * What is certain of a score, where a problem with more freedom was solved too: nothing can be better than what is proven
 * of that.
 */
export function certainBeside(freer: Pick<Solution, 'score' | 'proven' | 'bound'>, score: Score): Certain {
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
