import { lifted } from './lift'
import { aloneWeights, leastAlone, type Stage } from './prices'
import { scoreOf, TERMS, type Choice, type Problem, type Term } from './problem'
import { narrowed, reduced, type Reduced } from './reduce'
import type { Smaller } from './smaller'

/** How far the terms of a problem have been gone through, from the first on, and what is left of it. */
export interface Descent {
  problem: Problem
  /** The candidates that were kept each time, from the first to the smallest. */
  steps: Smaller['steps']
  settled: Stage['settled']
  /** Settled terms of which every chain has the least it could have if it were alone. */
  tight: readonly Term[]
  /** A choice of what is left; null for none that is known. */
  choice: Choice | null
  isLifted: boolean
}

export const descentFrom = (problem: Problem, choice: Choice): Descent => ({
  problem,
  steps: [],
  settled: [],
  tight: [],
  choice,
  isLifted: false,
})

/** The next term to be settled. */
export const nextTerm = ({ settled }: Descent): Term => TERMS[settled.length] ?? 'moved'

/** With some more terms settled and fewer candidates; `choice` is one of the problem before. */
export const settle = (
  descent: Descent,
  values: Stage['settled'],
  step: Reduced,
  choice: Choice | null = descent.choice,
): Descent => ({
  ...descent,
  problem: step.problem,
  steps: [...descent.steps, { kept: step.kept }],
  settled: [...descent.settled, ...values],
  choice: choice && narrowed(step, choice),
})

/** With the next term settled where the choice has what its chains have at least by themselves; else null. */
export function settledAlone(descent: Descent): Descent | null {
  const { problem, tight, choice } = descent
  const term = nextTerm(descent)
  const alone = aloneWeights(problem, term, tight)
  const value = choice && scoreOf(problem, choice)[term]
  if (value === null || value !== leastAlone(problem, term, alone)) return null
  return {
    ...settle(descent, [{ term, value }], reduced(problem, alone, null, 0.5)),
    tight: [...tight, term],
  }
}

/** The same with what excludes each other two by two taking one resource together. */
export const liftedOnce = (descent: Descent): Descent =>
  descent.isLifted ? descent : { ...descent, problem: lifted(descent.problem), isLifted: true }

/** Does the choice have what was settled? */
export function isThere({ problem, settled, choice }: Descent): boolean {
  if (choice === null) return false
  const score = scoreOf(problem, choice)
  return settled.every(({ term, value }) => score[term] === value)
}
