import { cheapest, priced, weighed, type Weights } from './chain'
import { kindOf } from './kinds'
import { FIRST_TERMS, noScore, scoreOf, TERMS, type Problem, type Score, type Term } from './problem'
import { keptUnforced, keptWithin, pickOnly } from './reduce'

/** Above it sums of whole numbers are no longer exact. */
const MOST_WEIGHT = 2 ** 50

/** Weights by which one chain is compared term by term; of a chain too long for that, the last terms not at all. */
function chainWeights({ items }: Problem, chain: readonly number[]): { weights: Weights; last: number } {
  const shapes = chain.flatMap((item) => items[item] ?? [])
  const most = TERMS.map((term) =>
    term === 'breaks'
      ? chain.length - 1
      : shapes.reduce((sum, { costs }) => sum + costs[term].reduce((a, b) => Math.max(a, b), 0), 0),
  )
  const weights: Record<Term, number> = noScore()
  let last = TERMS.length
  let weight = 1
  const spread = (from: number): number =>
    TERMS.slice(0, from).reduce((product, _, index) => product * ((most[index] ?? 0) + 1), 1)
  while (spread(last) > MOST_WEIGHT) last--
  for (let index = last - 1; index >= 0; index--) {
    const term = TERMS[index]
    if (term) weights[term] = weight
    weight *= (most[index] ?? 0) + 1
  }
  return { weights, last }
}

/**
 * As `scoreOfChains`, and nearer: with as little of a term as there can be, some things are taken whatever is chosen, and
 * those nobody has to himself.
 */
export function scoreAlone(problem: Problem): Score {
  let left = problem
  for (const term of FIRST_TERMS) {
    if (left.items.every(({ costs }) => costs[term].every((cost) => cost === 0))) continue
    const within = keptWithin(left, { ...noScore(), [term]: 1 }, null, 0.5)
    const step = pickOnly(left, keptUnforced(left, within))
    // So little of it is not to be had by all together.
    if (step.kept.some(({ length }) => length === 0)) {
      const score = scoreOfChains(left)
      const before = FIRST_TERMS.slice(0, FIRST_TERMS.indexOf(term))
      return { ...noScore(), ...pick(score, before), [term]: score[term] + 1 }
    }
    left = step.problem
  }
  return scoreOfChains(left)
}

const pick = (score: Score, terms: readonly Term[]): Partial<Score> =>
  Object.fromEntries(terms.map((term) => [term, score[term]]))

/** What a problem would score, term by term, if every chain had everything to itself: no choice scores less. */
export function scoreOfChains(problem: Problem): Score {
  const total: Record<Term, number> = noScore()
  const known = new Map<string, Score>()
  for (const chain of problem.chains) {
    const kind = kindOf(problem, chain)
    const score = known.get(kind) ?? chainAlone(problem, chain)
    known.set(kind, score)
    for (const term of TERMS) total[term] += score[term]
  }
  return total
}

function chainAlone(problem: Problem, chain: readonly number[]): Score {
  const { weights, last } = chainWeights(problem, chain)
  const { path } = cheapest(problem, chain, priced(weighed(weights), null, null), weights.breaks)
  const choice: number[] = []
  chain.forEach((item, index) => {
    choice[item] = path[index] ?? 0
  })
  const score = { ...scoreOf(problem, choice, [chain]) }
  for (const term of TERMS.slice(last)) score[term] = 0
  return score
}
