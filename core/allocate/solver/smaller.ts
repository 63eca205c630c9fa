import type { Choice, Problem } from './problem'
import { widened, type Reduced } from './reduce'

/** A problem that grew smaller while it was solved, with a choice of it of which no term is to be more. */
export interface Smaller {
  problem: Problem
  /** The candidates that were kept each time, from the first to the smallest. */
  steps: ReadonlyArray<Pick<Reduced, 'kept'>>
  choice: Choice
}

/** A choice of the smallest problem as one of the first. */
export const widenedBy = (steps: Smaller['steps'], choice: Choice): Choice =>
  steps.reduceRight<Choice>((now, step) => widened(step, now), choice)

/** A choice, and whether it is the one with the lowest addresses of all that are as good. */
export interface Lowest {
  choice: Choice
  isLeast: boolean
}
