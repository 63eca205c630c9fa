import type { Choice, Score, Term } from './problem'

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
