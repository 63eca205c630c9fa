import { componentsOf } from './components'
import { addressOf, FARTHEST_ON_ONE, FIRST_TERMS, type Choice, type Problem } from './problem'
import { keepOnly, narrowed, widened } from './reduce'

/**
 * A choice in which everyone stays on its channel and costs as much as before of the terms of which most is at stake, and goes
 * where `solveOne` puts it beside that: that is a far smaller problem, mostly of several parts that share nothing.
 *
 * @param solveOne Solves one of these parts, from a choice of it.
 */
export function laidAtSameStakes(
  problem: Problem,
  choice: Choice,
  solveOne: (part: Problem, start: Choice) => Choice,
): Choice {
  const step = keepOnly(problem, atSameStakes(problem, choice))
  const start = narrowed(step, choice)
  if (start === null) return choice
  const found = [...start]
  for (const { problem: part, items } of componentsOf(step.problem)) {
    const own = solveOne(
      part,
      items.map((item) => start[item] ?? 0),
    )
    items.forEach((item, index) => {
      found[item] = own[index] ?? 0
    })
  }
  return widened(step, found)
}

/** The candidates of each item on the channel of the one that it has that cost as much of these terms. */
const atSameStakes = (problem: Problem, choice: Choice): Int32Array[] =>
  problem.items.map(({ addresses, costs }, item) => {
    const now = choice[item] ?? 0
    const address = addressOf(problem, item, choice)
    const isKept = (_: number, candidate: number): boolean =>
      Math.abs((addresses[candidate] ?? 0) - address) <= FARTHEST_ON_ONE &&
      FIRST_TERMS.every((term) => costs[term][candidate] === costs[term][now])
    return Int32Array.from(addresses.keys()).filter(isKept)
  })
