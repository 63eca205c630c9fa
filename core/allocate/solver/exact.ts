import { choiceOf, MOST_COLUMNS, posed, pricesOf, type Program, type SolveProgram } from './program'
import type { Priced, Stage } from './prices'
import type { Choice, Problem } from './problem'
import { reduced, widened } from './reduce'
import type { Budget } from './search'

/** One part of the tree of whole numbers counts as so many steps of a search, and of a large program as more. */
const STEPS_A_NODE = 100
const COLUMNS_A_STEP = 50

/** What linear programs are solved with. */
export interface Aids {
  programs: SolveProgram
  budget: Budget
  isStopped: () => boolean
}

/** How much of a tree of whole numbers may be looked at. */
export const nodesFor = ({ left }: Budget, { costs }: Program): number =>
  Math.max(1, Math.floor(left / Math.max(STEPS_A_NODE, costs.length / COLUMNS_A_STEP)))

/** What linear programming says of a stage. */
export interface Exact {
  priced: Priced
  /** No choice that keeps to the settled terms has less of the open one than this. */
  least: number
  /** Something better than what was known. */
  better: Choice | null
}

/**
 * Find the prices of a stage by linear programming, and by whole numbers whether there is anything better than `target`.
 * Null where the stage is too large for that, or it was stopped.
 */
export function solvedExactly(
  problem: Problem,
  stage: Stage,
  target: number,
  { programs, budget, isStopped }: Aids,
): Exact | null {
  const whole = posed(problem, stage, MOST_COLUMNS)
  if (whole === null) return null
  const { values, duals } = programs(whole.program, { isWhole: false, nodes: 0, isStopped })
  if (values === null || duals === null) return null
  const priced = pricesOf(problem, stage.settled, whole, duals, { [stage.term]: 1 })
  const least = Math.max(0, Math.ceil(priced.bound - 1e-6))
  if (least >= target) return { priced, least: target, better: null }
  const found = choiceOf(problem, whole, values)
  if (found !== null) return { priced, least, better: found }
  // Only what could have less than is known is looked at.
  const small = reduced(problem, priced.weights, priced.prices, target - 1 - priced.bound)
  if (small.kept.some(({ length }) => length === 0)) return { priced, least: target, better: null }
  const few = posed(small.problem, stage, MOST_COLUMNS)
  if (few === null) return { priced, least, better: null }
  const ended = programs(few.program, { isWhole: true, nodes: nodesFor(budget, few.program), isStopped })
  if (ended.end === 'none') return { priced, least: target, better: null }
  const choice = ended.values && choiceOf(small.problem, few, ended.values)
  const better = choice && widened(small, choice)
  const bound = Number.isFinite(ended.bound) ? Math.ceil(ended.bound - 1e-6) : least
  return { priced, least: Math.min(target, Math.max(least, bound)), better }
}
