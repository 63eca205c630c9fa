import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, everyChoice, problemOf, shapeTaking } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { lowestByPrograms } from './lowest-by-programs'
import { scoreOf, TERMS, type Choice, type Problem } from './problem'
import type { SolveProgram } from './program'

const lowestFrom = (problem: Problem, choice: Choice, solves: SolveProgram = programs) =>
  lowestByPrograms(
    { problem, steps: [], choice },
    { programs: solves, budget: { left: 1e6 }, isStopped: () => false },
  )

const isNoWorse = (problem: Problem, choice: Choice, than: Choice): boolean => {
  const [own, other] = [scoreOf(problem, choice), scoreOf(problem, than)]
  return TERMS.every((term) => own[term] <= other[term])
}

/** Candidates stand in the order of their addresses. */
const isLower = (choice: Choice, than: Choice): boolean => {
  const at = choice.findIndex((candidate, item) => candidate !== than[item])
  return at >= 0 && (choice[at] ?? 0) < (than[at] ?? 0)
}

it('gives the lowest addresses of all that are no worse in any term', () => {
  fc.assert(
    fc.property(anyCrowd, fc.nat(), (drawn, pick) => {
      const problem = problemOf(drawn, 3)
      const all = [...everyChoice(problem)]
      const known = all[pick % all.length] ?? []
      const found = lowestFrom(problem, known)
      const best = all
        .filter((choice) => isNoWorse(problem, choice, known))
        .reduce((least, choice) => (isLower(choice, least) ? choice : least), known)
      expect(found).toEqual({ choice: best, isLeast: true })
    }),
    { numRuns: 200 },
  )
})

const twelve = Array.from({ length: 12 }, (_, item) => item)
const alike = shapeTaking(twelve.map((number) => [number]))
const row: Problem = { items: twelve.map(() => alike), chains: twelve.map((item) => [item]), resources: 12 }

it('goes on from some items to the next, where not all can be told in one number', () => {
  expect(lowestFrom(row, twelve.toReversed())).toEqual({ choice: twelve, isLeast: true })
})

it.each<{ says: Choice; isWhole: boolean }>([
  // It stays where it is, though it could be lower.
  { says: [2, 1], isWhole: false },
  // It would go higher.
  { says: [2, 3], isWhole: true },
  // It would lose what was learned.
  { says: [0, 1], isWhole: true },
])('takes nothing for the lowest because a program says so', ({ says, isWhole }) => {
  const shape = shapeTaking([[0], [1], [2], [3]], [1, 0, 0, 0])
  const problem: Problem = { items: [shape, shape], chains: [[0], [1]], resources: 4 }
  const known = [2, 1]
  /** Says that choice as columns, and that nothing is less; if it has duals they do not show it. */
  const lying: SolveProgram = ({ costs, starts, rows, most }, how) => {
    const values = costs.map(() => 0)
    const seen = new Map<number, number>()
    for (let column = 0; column < costs.length; column++) {
      const item = rows[starts[column] ?? 0] ?? 0
      const candidate = seen.get(item) ?? 0
      seen.set(item, candidate + 1)
      if (says[item] === candidate) values[column] = 1
    }
    const isTold = how.isWhole === isWhole
    return {
      end: 'least',
      bound: 0,
      values: isTold ? values : null,
      duals: how.isWhole ? null : most.map(() => 0),
    }
  }
  expect(lowestFrom(problem, known, lying)).toEqual({ choice: known, isLeast: false })
})
