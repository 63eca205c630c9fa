import { nodesFor, type Aids } from './exact'
import type { Stage } from './prices'
import { scoreOf, TERMS, type Choice, type Problem } from './problem'
import { choiceOf, leastBy, MOST_COLUMNS, posedFor } from './program'
import { keepOnly, narrowed, withoutForced, type Reduced } from './reduce'
import { widenedBy, type Lowest, type Smaller } from './smaller'

/** The candidates of several items are told in one number up to this: far below what is lost in rounding. */
const MOST_RANK = 10_000_000
/** What is lost in rounding of such a number. */
const ROUNDING = 1e-3
/** So many columns are looked at in all linear programs, and in one of whole numbers: more takes longer than it is worth. */
const MOST_COLUMNS_IN_ALL = 10_000
const MOST_WHOLE_COLUMNS = 1000

/**
 * Of the choices that are as good as a given one that with the lowest addresses: some items at a time, in the order of their
 * chains, by linear programs, and by whole numbers where those do not do. Where that takes too long, what is as low as was found.
 */
export function lowestByPrograms({ problem: whole, choice: known }: Smaller, aids: Aids): Lowest {
  const steps: Reduced[] = []
  let problem = whole
  let choice = known
  let columnsLeft = MOST_COLUMNS_IN_ALL
  const shrink = (step: Reduced): void => {
    choice = narrowed(step, choice) ?? choice
    problem = step.problem
    steps.push(step)
  }
  const ended = (isLeast: boolean): Lowest => ({ choice: widenedBy(steps, choice), isLeast })
  for (;;) {
    const order = problem.chains.flat()
    const isLowest = (item: number): boolean => choice[item] === 0
    const at = order.findIndex((item) => !isLowest(item))
    if (at < 0) return ended(true)
    const first = order[at] ?? 0
    // Those before it keep what they have, which is their lowest, and it goes no higher than it is.
    const most = new Map(order.slice(0, at + 1).map((item) => [item, choice[item] ?? 0]))
    shrink(keptBetween(problem, (item, last) => [0, most.get(item) ?? last]))
    shrink(withoutForced(problem))
    if (isLowest(first)) continue
    const group = groupFrom(problem, order.slice(at))
    const score = scoreOf(problem, choice)
    const settled = TERMS.map((term) => ({ term, value: score[term] }))
    const next = lowered(problem, settled, group, { columns: columnsLeft, whole: MOST_WHOLE_COLUMNS }, aids)
    if (next === null || compareIn(group, next.choice, choice) > 0) return ended(false)
    choice = next.choice
    columnsLeft -= next.columns
    shrink(fixedAs(problem, group, next.choice))
  }
}

/**
 * A choice that keeps to settled terms, of which nothing is known yet, with its first items as low as they can be; and the
 * problem in which these stay so. Null where there is none, or where columns are broken: then there hardly ever is one.
 */
export function lowestToBegin(
  problem: Problem,
  settled: Stage['settled'],
  aids: Aids,
): { choice: Choice; step: Reduced } | null {
  const group = groupFrom(problem, problem.chains.flat())
  const found = lowered(problem, settled, group, { columns: MOST_COLUMNS_IN_ALL, whole: 0 }, aids)
  return found && { choice: found.choice, step: fixedAs(problem, group, found.choice) }
}

/** The problem in which some items have what a choice gives them. */
function fixedAs(problem: Problem, group: readonly number[], choice: Choice): Reduced {
  const fixed = new Set(group)
  return keptBetween(problem, (item, last) => {
    const own = choice[item] ?? 0
    return fixed.has(item) ? [own, own] : [0, last]
  })
}

/** Below zero if some items lie lower in one of two choices: the first of them that lies elsewhere. */
function compareIn(group: readonly number[], a: Choice, b: Choice): number {
  const differs = group.find((item) => a[item] !== b[item])
  return differs === undefined ? 0 : (a[differs] ?? 0) - (b[differs] ?? 0)
}

/** Only some of the candidates of each item, which lie side by side. */
const keptBetween = (
  problem: Problem,
  boundsOf: (item: number, last: number) => readonly [from: number, to: number],
): Reduced =>
  keepOnly(
    problem,
    problem.items.map(({ addresses }, item) => {
      const [from, to] = boundsOf(item, addresses.length - 1)
      return Int32Array.from({ length: to - from + 1 }, (_, index) => from + index)
    }),
  )

/** The first of some items whose candidates can all be told in one number. */
function groupFrom({ items }: Problem, order: readonly number[]): number[] {
  const group: number[] = []
  let most = 1
  for (const item of order) {
    const count = items[item]?.addresses.length ?? 0
    if (count === 1) continue
    if (group.length > 0 && most * count > MOST_RANK) break
    most *= count
    group.push(item)
  }
  return group
}

/** A number for the candidates of some items: the lower the first of them lies, then the second, and so on. */
function rankOf({ items }: Problem, group: readonly number[]): (item: number, candidate: number) => number {
  const weights = new Map<number, number>()
  let weight = 1
  for (const item of group.toReversed()) {
    weights.set(item, weight)
    weight *= items[item]?.addresses.length ?? 1
  }
  return (item, candidate) => (weights.get(item) ?? 0) * candidate
}

/**
 * A choice that keeps to settled terms, in which some items lie as low as they can; null where none is found.
 *
 * @param most Of programs with more columns none is made, nor solved by whole numbers.
 */
function lowered(
  problem: Problem,
  settled: Stage['settled'],
  group: readonly number[],
  most: { columns: number; whole: number },
  { programs, budget, isStopped }: Aids,
): { choice: Choice; columns: number } | null {
  const rank = rankOf(problem, group)
  const asked = posedFor(
    problem,
    settled,
    ({ items, candidates }) => items.reduce((sum, item, at) => sum + rank(item, candidates[at] ?? 0), 0),
    Math.min(most.columns, MOST_COLUMNS),
  )
  if (asked === null || isStopped()) return null
  const columns = asked.program.costs.length
  const sum = (of: Choice): number => group.reduce((all, item) => all + rank(item, of[item] ?? 0), 0)
  const solved = (isWhole: boolean): Choice | null => {
    const nodes = isWhole ? nodesFor(budget, asked.program) : 0
    const { end, values, duals } = programs(asked.program, { isWhole, nodes, isStopped })
    const found = end === 'least' && values ? choiceOf(problem, asked, values) : null
    const isLeast = found !== null && (!duals || sum(found) - leastBy(asked.program, duals) < 1 - ROUNDING)
    return isLeast ? found : null
  }
  const choice = solved(false) ?? (columns <= most.whole ? solved(true) : null)
  return choice && { choice, columns }
}
