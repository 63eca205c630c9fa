import { nodesFor, type Aids } from './exact'
import type { Smaller } from './lowest'
import { choiceOf, MOST_COLUMNS, posed, pricesOf } from './program'
import { aloneWeights, leastAlone, type Priced, type Stage } from './prices'
import { scoreOf, TERMS, type Choice, type Problem, type Score, type Term } from './problem'
import { lifted } from './lift'
import { narrowed, reduced, type Reduced } from './reduce'

/**
 * Go through the terms as if every one could be as low as linear programming says, and see in the end whether there is a
 * choice of that kind. It mostly is, and then nothing is better. Null where there is none, or where a program would be too
 * large.
 *
 * @param known Something to begin with: a term of which chains have no less by themselves needs no program.
 */
export function solvedHopefully(whole: Problem, known: Choice, aids: Aids): Smaller | null {
  const { programs, isStopped } = aids
  const steps: Array<Pick<Reduced, 'kept'>> = []
  const settled: Array<{ term: Term; value: number }> = []
  const tight: Term[] = []
  let problem = whole
  let prices: Priced | null = null
  /** The last choice that a program said, as long as nothing has been settled since. */
  let choice: Choice | null = known
  const shrink = (step: Reduced): void => {
    problem = step.problem
    steps.push({ kept: step.kept })
    choice = choice && narrowed(step, choice)
  }
  for (const term of TERMS) {
    const stage: Stage = { term, settled: [...settled] }
    const alone = aloneWeights(problem, term, tight)
    const least = leastAlone(problem, term, alone)
    const score: Score | null = choice && scoreOf(problem, choice)
    if (score?.[term] === least) {
      tight.push(term)
      shrink(reduced(problem, alone, null, 0.5))
      settled.push({ term, value: least })
      continue
    }
    // One column a candidate is the least.
    if (candidatesOf(problem) > MOST_COLUMNS) return null
    if (prices === null) problem = lifted(problem)
    const asked = posed(problem, stage, MOST_COLUMNS)
    if (asked === null || isStopped()) return null
    const { values, duals } = programs(asked.program, { isWhole: false, nodes: 0, isStopped })
    if (values === null || duals === null) return null
    prices = pricesOf(problem, stage, asked, duals)
    const value = Math.max(0, Math.ceil(prices.bound - 1e-6))
    const found = choiceOf(problem, asked, values)
    if (found !== null || (score?.[term] ?? value) > value) choice = found
    settled.push({ term, value })
    const step = reduced(problem, prices.weights, prices.prices, value - prices.bound)
    if (step.kept.some(({ length }) => length === 0)) return null
    shrink(step)
  }
  const isThere = (of: Choice): boolean => {
    const score = scoreOf(problem, of)
    return settled.every(({ term, value }) => score[term] === value)
  }
  if (choice === null || !isThere(choice)) choice = wholeOf(problem, settled, aids)
  return choice === null || !isThere(choice) ? null : { problem, steps, choice, prices }
}

const candidatesOf = ({ items }: Problem): number =>
  items.reduce((sum, { addresses }) => sum + addresses.length, 0)

/** A choice that keeps to all terms; null where there is none. */
function wholeOf(
  problem: Problem,
  settled: ReadonlyArray<{ term: Term; value: number }>,
  { programs, budget, isStopped }: Aids,
): Choice | null {
  const last = settled.at(-1)
  if (!last) return null
  const asked = posed(problem, { term: last.term, settled: settled.slice(0, -1) }, MOST_COLUMNS)
  if (asked === null) return null
  const { values } = programs(asked.program, {
    isWhole: true,
    nodes: nodesFor(budget, asked.program),
    isStopped,
  })
  return values && choiceOf(problem, asked, values)
}
