import { liftedAlike, merged, type Merged } from './alike'
import { counted, type Counted } from './counted'
import { nodesFor, type Aids } from './exact'
import { optionsIn } from './handed-out'
import { HARD_TERMS, leastErrors } from './needs'
import {
  compareScores,
  costsNothing,
  FIRST_TERMS,
  isPossible,
  mostOf,
  OWN_TERMS,
  scoreOf,
  TERMS,
  type Choice,
  type Problem,
  type Score,
  type Shape,
  type Term,
} from './problem'
import { leastBy, type Programmed } from './program'
import { ROUNDING, sumBy, weightsFrom } from './several'
import { certainBeside, certainOfErrors, type Certain } from './certain'

/** Of more columns no program is made: it would take longer than it is worth. */
const MOST_COUNTED = 40_000
/** Terms are told in one number up to this: whole numbers are found within a smaller range than broken ones. */
const MOST_WEIGHT = 1e7

/** What is certain of the terms of which most is at stake. */
export interface CountedTerms {
  /** No worse in these terms than what was known. */
  choice: Choice
  /** Those of them of which nothing has less, given those before. */
  proven: readonly Term[]
  /** The least that the first of the others can be. */
  least: number
}

/**
 * As little as can be of the terms of which most is at stake, by programs in which alike items are counted: these are so much
 * smaller that problems of thousands of items are solved to the end. Null where a program would be too large.
 *
 * Who finds no place is told first, for which fewest items have to be told apart; then what is lost.
 *
 * @param known Something to begin with.
 */
export function leastByCounting(problem: Problem, known: Choice, aids: Aids): CountedTerms | null {
  const hard = lessOf(problem, HARD_TERMS, { choice: known, proven: [], least: 0 }, aids)
  return hard && lossesOf(problem, hard, aids)
}

/** The same where it is told who finds no place. */
const lossesOf = (problem: Problem, hard: CountedTerms, aids: Aids): CountedTerms =>
  hard.proven.length < HARD_TERMS.length ? hard : (lessOf(problem, FIRST_TERMS, hard, aids) ?? hard)

/** What is certain of a score by the same, where the problem has all choices that were looked at and may have more. */
export function certainByCounting(problem: Problem, score: Score, aids: Aids): Certain {
  const left = { choice: problem.items.map(({ leave }) => leave), proven: [], least: 0 }
  const hard = lessOf(problem, HARD_TERMS, left, aids)
  if (hard === null) return certainOfErrors(leastErrors(problem), score)
  const isReached = HARD_TERMS.every((term) => scoreOf(problem, hard.choice)[term] === score[term])
  // Where not as few have to be left, nothing is told of what comes after.
  const { choice, proven, least } = isReached ? lossesOf(problem, hard, aids) : hard
  const term = TERMS[proven.length]
  const bound = term === undefined ? null : { term, value: least }
  return certainBeside({ score: scoreOf(problem, choice), proven, bound }, score)
}

/**
 * With as little of some terms as can be, from the first on that is not proven: by broken numbers, or by whole ones where those do
 * not say it, which is the package’s word. Null where a program would be too large.
 */
function lessOf(
  problem: Problem,
  terms: readonly Term[],
  from: CountedTerms,
  aids: Aids,
): CountedTerms | null {
  let { choice } = from
  let at = firstAbove(scoreOf(problem, choice), from.proven.length, terms)
  if (at === terms.length) return { choice, proven: terms, least: 0 }
  const all = liftedAlike(merged(problem, terms), problem.resources)
  const most = terms.map((term) => mostOf(problem, term))
  while (at < terms.length) {
    const score = scoreOf(problem, choice)
    const proven = terms.slice(0, at)
    const settled = proven.map((term, index) => ({ at: index, value: score[term] }))
    const byTerm = weightsFrom(problem, at, MOST_WEIGHT, terms.length)
    const weights = terms.map((term) => byTerm[term] ?? 0)
    const asked = counted(all, weights, settled, MOST_COUNTED)
    if (asked === null) return null
    let bound = -Infinity
    const isOpen = (): boolean => sumBy(byTerm, scoreOf(problem, choice)) - bound > 1 - ROUNDING
    for (const isWhole of [false, true]) {
      if (!isOpen() || aids.isStopped()) break
      const said = saidOf(asked, isWhole, aids)
      const found = said.values && choiceIn(problem, terms, all, asked, said.values)
      if (found && compareScores(scoreOf(problem, found), scoreOf(problem, choice)) < 0) choice = found
      bound = Math.max(bound, said.bound)
    }
    if (isOpen()) return { choice, proven, least: leastOfFirst(weights, most, bound) }
    at = firstAbove(scoreOf(problem, choice), weights.findLastIndex((weight) => weight > 0) + 1, terms)
  }
  return { choice, proven: terms, least: 0 }
}

/** What a program says, and how much it costs at least. */
function saidOf(
  { program }: Counted,
  isWhole: boolean,
  { programs, budget, isStopped }: Aids,
): Pick<Programmed, 'values' | 'bound'> {
  const nodes = isWhole ? nodesFor(budget, program) : 0
  const { values, bound, duals } = programs(program, { isWhole, nodes, isStopped })
  const least = isWhole ? bound : duals ? leastBy(program, duals) : -Infinity
  // Something is known, so there is something: a bound beyond all numbers says nothing.
  return { values, bound: Number.isFinite(least) ? least : -Infinity }
}

/** The first term from one on of which a score has more than nothing; nothing has less than that. */
function firstAbove(score: Score, from: number, terms: readonly Term[]): number {
  const at = terms.findIndex((term, index) => index >= from && score[term] > 0)
  return at < 0 ? terms.length : at
}

/** So much of the first weighed term there is at least, if there is as much as can be of those after it. */
function leastOfFirst(weights: readonly number[], most: readonly number[], bound: number): number {
  const first = weights.findIndex((weight) => weight > 0)
  const rest = weights.reduce((sum, weight, at) => (at > first ? sum + weight * (most[at] ?? 0) : sum), 0)
  const least = Math.ceil((bound - rest) / (weights[first] ?? 1) - ROUNDING)
  return Number.isFinite(least) ? Math.max(0, least) : 0
}

/** The choice that the columns say; null where they are not whole, or where something would be taken twice. */
function choiceIn(
  problem: Problem,
  terms: readonly Term[],
  all: Merged,
  asked: Counted,
  values: Float64Array,
): Choice | null {
  const had = optionsIn(all, asked, values)
  if (had === null) return null
  const { items } = problem
  const choice = items.map(({ leave }) => leave)
  const take = (item: number, among: readonly number[]): void => {
    const shape = items[item]
    if (shape) choice[item] = cheapestOf(shape, among)
  }
  for (const { item, option } of had) take(item, all.candidatesFor(item, option))
  for (const item of all.content) take(item, contentWith(items[item], terms))
  return isPossible(problem, choice) ? choice : null
}

/** The candidates that take nothing and cost nothing of some terms. */
const contentWith = (shape: Shape | undefined, terms: readonly Term[]): number[] =>
  shape
    ? [...shape.takes.keys()].filter(
        (candidate) => shape.takes[candidate]?.length === 0 && costsNothing(shape, candidate, terms),
      )
    : []

/** Of some candidates the one that costs least, term by term; of such as cost the same the first. */
const cheapestOf = ({ costs }: Shape, among: readonly number[]): number =>
  among.reduce((best, candidate) => {
    const term = OWN_TERMS.find((each) => costs[each][candidate] !== costs[each][best])
    return term !== undefined && (costs[term][candidate] ?? 0) < (costs[term][best] ?? 0) ? candidate : best
  }, among[0] ?? -1)
