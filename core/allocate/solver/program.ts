import type { Weights } from './chain'
import { boundAt, type Priced, type Stage } from './prices'
import {
  forTerms,
  isPossible,
  mostOf,
  NOWHERE,
  scoreOf,
  TERMS,
  type Choice,
  type Problem,
  type Shape,
  type Term,
} from './problem'
import { contestedIn } from './reduce'
import { firstTogether } from './together'

/** Of more columns no program is made: it would take longer than it is worth, and much memory. */
export const MOST_COLUMNS = 70_000

/** A linear program: columns from 0 on, each with its cost, and rows with what their sum may be. The matrix is told column by column. */
export interface Program {
  costs: Float64Array
  starts: Int32Array
  rows: Int32Array
  values: Float64Array
  /** The most each row may come to, and the least: -Infinity where there is none. */
  most: Float64Array
  least: Float64Array
  /** The most each column may be; 1 if it is not said. */
  upTo?: Float64Array
}

export interface ProgramOptions {
  /** Are columns to be whole numbers? Else anything between. */
  isWhole: boolean
  /** So many parts of a tree are looked at. */
  nodes: number
  /** Asked now and then; `true` ends it. */
  isStopped: () => boolean
}

export interface Programmed {
  /** Nothing is less than what was found; there is nothing at all; or it was ended before that was known. */
  end: 'least' | 'none' | 'open'
  /** Nothing can be less than this. */
  bound: number
  /** Of each column; null if none were found. */
  values: Float64Array | null
  /** What one more of each row would cost; nothing for whole columns. */
  duals: Float64Array | null
}

/** Solves a program: the least sum of costs. Comes from outside, as it is a large package. The same program always gives the same. */
export type SolveProgram = (program: Program, options: ProgramOptions) => Programmed

/** A stretch of a chain that runs on without a break: what the items of a column have. */
export interface Run {
  items: readonly number[]
  candidates: readonly number[]
}

/** A program with what its columns and rows stand for. */
export interface Posed {
  program: Program
  runs: readonly Run[]
  /** The row of each resource; -1 for what needs none, or is always taken with another. */
  rowOfResource: Int32Array
  rowOfTerm: ReadonlyMap<Term, number>
}

/** Candidates by their address. */
function byAddress({ addresses }: Shape): Map<number, number[]> {
  const found = new Map<number, number[]>()
  addresses.forEach((address, candidate) => {
    const alike = found.get(address)
    if (alike) alike.push(candidate)
    else found.set(address, [candidate])
  })
  return found
}

/** Every way to lay a stretch of a chain without a break; null if there are more than `most`. */
function runsOf({ chains, items }: Problem, countsBreaks: boolean, most: number): Run[] | null {
  const places = new Map<Shape, Map<number, number[]>>()
  const placesOf = (shape: Shape): Map<number, number[]> => {
    const known = places.get(shape) ?? byAddress(shape)
    places.set(shape, known)
    return known
  }
  const found: Run[] = []
  const goOn = (chain: readonly number[], index: number, address: number, before: Run): boolean => {
    const item = chain[index]
    const shape = item === undefined ? undefined : items[item]
    if (item === undefined || !shape) return true
    for (const candidate of placesOf(shape).get(address) ?? []) {
      if (found.length >= most) return false
      const run = { items: [...before.items, item], candidates: [...before.candidates, candidate] }
      found.push(run)
      if (!goOn(chain, index + 1, address + 1, run)) return false
    }
    return true
  }
  for (const chain of chains)
    for (const [index, item] of chain.entries()) {
      const { addresses } = items[item] ?? { addresses: new Int32Array() }
      for (let candidate = 0; candidate < addresses.length; candidate++) {
        const address = addresses[candidate] ?? NOWHERE
        if (found.length >= most) return null
        const run = { items: [item], candidates: [candidate] }
        found.push(run)
        if (countsBreaks && address >= 0 && !goOn(chain, index + 1, address + 1, run)) return null
      }
    }
  return found
}

/** How much of a term a run has. */
export function amountsIn({ items, chains }: Problem): (term: Term, run: Run) => number {
  const beginning = new Set(chains.flatMap(([first = -1]) => first))
  return (term, { items: own, candidates }) => {
    if (term === 'breaks') return beginning.has(own[0] ?? -1) ? 0 : 1
    let sum = 0
    for (let index = 0; index < own.length; index++)
      sum += items[own[index] ?? 0]?.costs[term][candidates[index] ?? 0] ?? 0
    return sum
  }
}

/**
 * The program of a stage: each item is in one of the runs that are chosen, nothing is taken twice, settled terms stay as
 * they are, and of the open one there is as little as can be. Null if it would have more than `most` columns.
 */
export const posed = (problem: Problem, { term, settled }: Stage, most: number): Posed | null =>
  posedFor(problem, settled, { [term]: 1 }, most)

/** As `posed`, for several terms of different weights, or for what each run costs. */
export function posedFor(
  problem: Problem,
  settled: Stage['settled'],
  cost: Partial<Weights> | ((run: Run) => number),
  most: number,
): Posed | null {
  const { items, resources } = problem
  const isHeld = (each: Term): boolean => settled.some((one) => one.term === each)
  const weighed = typeof cost === 'function' ? [] : TERMS.filter((term) => (cost[term] ?? 0) > 0)
  const countsBreaks = weighed.includes('breaks') || isHeld('breaks')
  const runs = runsOf(problem, countsBreaks, most)
  if (runs === null) return null
  const amount = amountsIn(problem)
  const rowOfResource = new Int32Array(resources).fill(-1)
  let count = items.length
  const isFirst = firstTogether(problem)
  // What only one item could take is taken once as it is.
  contestedIn(problem).forEach((isContested, resource) => {
    if (isContested === 1 && isFirst(resource)) rowOfResource[resource] = count++
  })
  const rowOfTerm = new Map<Term, number>()
  const least = new Array<number>(items.length).fill(1)
  const upTo = new Array<number>(count).fill(1)
  while (least.length < count) least.push(-Infinity)
  for (const { term, value } of settled) {
    if (mostOf(problem, term) <= value) continue
    rowOfTerm.set(term, count++)
    least.push(-Infinity)
    upTo.push(value)
  }

  const held = [...rowOfTerm].map(([term, row]) => ({ term, row }))
  const costs = new Float64Array(runs.length)
  const starts = new Int32Array(runs.length + 1)
  const mostEntries = runs.reduce((sum, run) => sum + entriesOf(items, run), runs.length * rowOfTerm.size)
  const rows = new Int32Array(mostEntries)
  const values = new Float64Array(mostEntries)
  const lastIn = new Int32Array(count).fill(-1)
  let entries = 0
  const put = (row: number, value: number): void => {
    rows[entries] = row
    values[entries++] = value
  }
  runs.forEach((run, column) => {
    costs[column] =
      typeof cost === 'function'
        ? cost(run)
        : weighed.reduce((sum, term) => sum + (cost[term] ?? 0) * amount(term, run), 0)
    run.items.forEach((item, index) => {
      put(item, 1)
      const takes = items[item]?.takes[run.candidates[index] ?? 0] ?? NOTHING
      for (let at = 0; at < takes.length; at++) {
        const row = rowOfResource[takes[at] ?? 0] ?? -1
        if (row < 0 || lastIn[row] === column) continue
        lastIn[row] = column
        put(row, 1)
      }
    })
    for (const { term, row } of held) {
      const value = amount(term, run)
      if (value > 0) put(row, value)
    }
    starts[column + 1] = entries
  })
  return {
    program: {
      costs,
      starts,
      rows: rows.slice(0, entries),
      values: values.slice(0, entries),
      most: Float64Array.from(upTo),
      least: Float64Array.from(least),
    },
    runs,
    rowOfResource,
    rowOfTerm,
  }
}

const NOTHING = new Int32Array()

/** So many entries a run has at most: of its items, and of what these take. */
const entriesOf = (items: readonly Shape[], { items: own, candidates }: Run): number =>
  own.reduce((sum, item, index) => sum + 1 + (items[item]?.takes[candidates[index] ?? 0]?.length ?? 0), 0)

/** What is lost in rounding: of a price, and of a column that is whole. */
export const NEARLY_NOTHING = 1e-6
export const NEARLY_WHOLE = 1e-5

/** The prices that the duals of a program say. Their bound is worked out anew, so that it holds whatever they are. */
export function pricesOf(
  problem: Problem,
  settled: Stage['settled'],
  { rowOfResource, rowOfTerm }: Posed,
  duals: Float64Array,
  cost: Partial<Weights>,
): Priced {
  const priceAt = (row: number): number => {
    const price = -(duals[row] ?? 0)
    return price > NEARLY_NOTHING ? price : 0
  }
  const prices = Float64Array.from(rowOfResource, (row) => (row < 0 ? 0 : priceAt(row)))
  const weights = forTerms((term) => cost[term] ?? 0)
  for (const [term, row] of rowOfTerm) weights[term] = priceAt(row)
  return { prices, weights, bound: boundAt(problem, settled, prices, weights) }
}

/** What a program costs at least, by the prices of its rows: worked out anew, so that it holds whatever these are. */
export function leastBy(
  { costs, starts, rows, values, most, least, upTo }: Program,
  duals: Float64Array,
): number {
  // What only must not be more has no price below nothing.
  const prices = duals.map((dual, row) => (least[row] === -Infinity ? Math.min(0, dual) : dual))
  let sum = prices.reduce((all, price, row) => all + price * (most[row] ?? 0), 0)
  costs.forEach((cost, column) => {
    let own = cost
    for (let at = starts[column] ?? 0; at < (starts[column + 1] ?? 0); at++)
      own -= (prices[rows[at] ?? 0] ?? 0) * (values[at] ?? 0)
    if (own < 0) sum += own * (upTo?.[column] ?? 1)
  })
  return sum
}

/** The choice that whole columns say; null where they are not whole, take something twice, or have more of a settled term. */
export function choiceOf(
  problem: Problem,
  { program, runs, rowOfTerm }: Posed,
  values: Float64Array,
): Choice | null {
  const choice = problem.items.map(() => -1)
  for (let column = 0; column < values.length; column++) {
    const value = values[column] ?? 0
    if (value < NEARLY_NOTHING) continue
    if (value < 1 - NEARLY_WHOLE) return null
    const run = runs[column]
    run?.items.forEach((item, index) => {
      choice[item] = run.candidates[index] ?? -1
    })
  }
  if (!isPossible(problem, choice)) return null
  const score = scoreOf(problem, choice)
  const isKept = [...rowOfTerm].every(([term, row]) => score[term] <= (program.most[row] ?? Infinity))
  return isKept ? choice : null
}
