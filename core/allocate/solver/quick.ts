import { layAll } from './construct'
import { coverOf, HARD_TERMS } from './needs'
import { aloneWeights, findPrices, leastAlone, mixedWeights, type Priced, type Stage } from './prices'
import { comparePlaced, FIRST_TERMS, scoreOf, TERMS, type Choice, type Problem, type Term } from './problem'
import { closed, type Solution } from './solution'

/**
 * What is found at once: a choice that is known, or what is laid by prices that were looked for once, with the least that can be
 * said of it.
 *
 * @param order In which order chains are laid.
 */
export function quickly(problem: Problem, known: Choice, order: readonly number[]): Solution {
  let best = known
  let score = scoreOf(problem, best)
  const offer = (choice: Choice | null): void => {
    if (choice === null || comparePlaced(problem, choice, best) >= 0) return
    best = choice
    score = scoreOf(problem, choice)
  }
  const settled: Array<{ term: Term; value: number }> = []
  const proven: Term[] = []
  const tight: Term[] = []
  let prices: Priced | null = null
  let open: Solution['bound'] = null
  // For the others there is little time.
  for (const term of FIRST_TERMS) {
    const stage: Stage = { term, settled: [...settled] }
    if (leastAlone(problem, term, aloneWeights(problem, term, tight)) === score[term]) tight.push(term)
    else {
      prices = findPrices(problem, stage, score[term], {
        rounds: 1,
        enough: () => score[term],
        start: prices ?? (HARD_TERMS.includes(term) ? coverOf(problem, term) : null),
        onRound: (now, at) => {
          offer(layAll(problem, order, mixedWeights(at, term), now))
        },
      })
      const least = Math.max(0, Math.ceil(prices.bound - 1e-6))
      if (least < score[term]) open ??= { term, value: least }
    }
    settled.push({ term, value: score[term] })
    if (open === null) proven.push(term)
  }
  const rest = TERMS.slice(FIRST_TERMS.length)
  const next = rest.find((term) => score[term] > 0)
  if (open === null) proven.push(...rest.slice(0, next === undefined ? rest.length : rest.indexOf(next)))
  const bound = open ?? (next === undefined ? null : { term: next, value: 0 })
  return { choice: best, score, proven, bound: closed(bound, score, proven), isLeast: false }
}
