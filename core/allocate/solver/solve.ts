import { noScore, scoreOf, TERMS, type Choice, type Problem, type Term } from './problem'
import { FEW, FULL, HASTY, QUICK, solvePart } from './part'
import type { SolveProgram } from './program'
import { componentsOf } from './components'
import { narrowed, widened, withoutForced } from './reduce'
import type { Budget } from './search'
import type { Progress, Solution } from './solution'
import { withoutTogether } from './together'

export interface SolveOptions {
  /** Search steps before the best that is known is given, with its bound; 0: what is found at once. */
  steps: number
  /** A choice that is known already: nothing worse comes out, as long as what it takes is there. */
  start?: Choice | null
  /** Is something near the best enough, as long as it says how near? */
  isRough?: boolean
  /** Does it matter only who finds a place at all? Then the rest is as it comes. */
  isHasty?: boolean
  /** Where nothing of these terms is left, is what is found soonest enough? Then the rest is as it comes. */
  enough?: readonly Term[]
  /** Is it to be said how near the best it is, even where that takes long? Else of large parts in which many are left it is not. */
  needsProof?: boolean
  /** Solves linear programs, if it is there: then bounds are as near as they can be, where the problem is not very large. */
  programs?: SolveProgram
  /** Called now and then; `true` stops the search. */
  onProgress?: (progress: Progress) => boolean
}

/**
 * The best choice for a problem, term by term in the order of `TERMS`, and of equal ones that with the lowest
 * addresses. Always the same for the same problem and steps. Run to its end it is optimal; `proven` says how far
 * it came. Parts that share nothing are solved one by one.
 */
export function solve(problem: Problem, options: SolveOptions): Solution {
  const open = withoutForced(problem)
  const start = options.start ? narrowed(open, options.start) : null
  const solution = solveParts(withoutTogether(open.problem), { ...options, start })
  return { ...solution, choice: widened(open, solution.choice) }
}

function solveParts(
  problem: Problem,
  {
    steps,
    start = null,
    isRough = false,
    isHasty = false,
    enough,
    needsProof = true,
    programs,
    onProgress,
  }: SolveOptions,
): Solution {
  const parts = componentsOf(problem)
  const choice = new Array<number>(problem.items.length).fill(0)
  let isStopped = false
  const solved = parts.map((part, index) => {
    const budget: Budget = {
      left: isStopped ? 0 : Math.ceil((steps * part.items.length) / problem.items.length),
    }
    const tell = (proven: readonly Term[]): boolean => {
      isStopped ||= onProgress?.({ done: index, of: parts.length, proven: [...proven] }) === true
      if (isStopped) budget.left = 0
      return isStopped
    }
    const solution = solvePart(
      part.problem,
      budget,
      isHasty ? HASTY : steps === 0 || isStopped ? QUICK : isRough ? FEW : FULL,
      tell,
      {
        start: start && part.items.map((item) => start[item] ?? 0),
        programs: programs ?? null,
        enough: enough ?? null,
        needsProof,
      },
    )
    part.items.forEach((item, own) => {
      choice[item] = solution.choice[own] ?? 0
    })
    return solution
  })
  const open = Math.min(
    ...solved.map(({ bound }) => (bound === null ? TERMS.length : TERMS.indexOf(bound.term))),
    TERMS.length,
  )
  const term = TERMS[open]
  const least = (solution: Solution, of: Term): number =>
    solution.bound?.term === of ? solution.bound.value : solution.score[of]
  return {
    choice,
    score: solved.length === 0 ? noScore() : scoreOf(problem, choice),
    proven: TERMS.slice(0, open),
    bound: term ? { term, value: solved.reduce((sum, solution) => sum + least(solution, term), 0) } : null,
    isLeast: solved.every(({ isLeast }) => isLeast),
  }
}
