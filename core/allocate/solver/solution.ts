import { TERMS, type Choice, type Score, type Term } from './problem'

export interface Progress {
  /** Parts of the problem that are done, and all of them. */
  done: number
  of: number
  /** The terms that are proven in the part at hand. */
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

/** A choice of which nothing is certain but that no term is less than nothing. */
export function withoutProof({ choice, score }: Pick<Solution, 'choice' | 'score'>): Solution {
  const open = TERMS.findIndex((term) => score[term] > 0)
  const term = TERMS[open]
  return {
    choice,
    score,
    proven: open < 0 ? TERMS : TERMS.slice(0, open),
    bound: term === undefined ? null : { term, value: 0 },
    isLeast: false,
  }
}

/** What is open in the end: a later look may have come down to the bound of a term. Then that is proven too. */
export function closed(open: Solution['bound'], score: Score, proven: Term[]): Solution['bound'] {
  if (open === null || open.value < score[open.term]) return open
  proven.push(open.term)
  const next = TERMS[TERMS.indexOf(open.term) + 1]
  return next === undefined ? null : { term: next, value: 0 }
}
