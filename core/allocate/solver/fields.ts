import { scoreAlone, scoreOfChains } from './alone'
import { combined } from './combined'
import { fieldsBySize, fieldsFor } from './give-fields'
import {
  compareScores,
  forTerms,
  NOWHERE,
  scoreOf,
  TERMS,
  type Choice,
  type Problem,
  type Score,
  type Shape,
  type Term,
} from './problem'
import { likeness } from './likeness'
import type { Component } from './components'
import { contestedOnly, keepOnly, pickOnly, widened, type Reduced } from './reduce'
import type { Solution } from './solution'
import { solve, type SolveOptions } from './solve'

/** Which items are to go to one field together, each group to another field than the rest. */
export interface Fields {
  /**
   * The group of each item, from 0; `STAYING` for those that stay where they are, `LOOSE` for those that may go to any
   * field. Items beyond the list stay.
   */
  groups: readonly number[]
  count: number
  /** The field of an address, from 0, and where it lies in it. */
  fieldOf: (address: number) => number
  within: (address: number) => number
}

export const STAYING = -1
export const LOOSE = -2

const isStaying = (group: number | undefined): boolean => group === undefined || group === STAYING
const isGroup = (group: number | undefined): group is number => group !== undefined && group >= 0

/**
 * The items of a group (or the loose ones) with those next to them that stay, chains cut between any two that are not
 * of the group.
 */
function partOf({ items, chains, resources }: Problem, groups: readonly number[], group: number): Component {
  const isOwn = (item: number | undefined): boolean => item !== undefined && groups[item] === group
  const runs: number[][] = []
  for (const chain of chains) {
    let run: number[] = []
    chain.forEach((item, index) => {
      const [before, after] = [chain[index - 1], chain[index + 1]]
      const isNear = isOwn(item) || (isStaying(groups[item]) && (isOwn(before) || isOwn(after)))
      if (!isNear) run = []
      else if (run.length > 0 && (isOwn(item) || isOwn(before))) run.push(item)
      else runs.push((run = [item]))
    })
  }
  const own = runs.flat().toSorted((a, b) => a - b)
  const numberOf = new Map(own.map((item, index) => [item, index]))
  return {
    items: own,
    problem: {
      items: own.flatMap((item) => items[item] ?? []),
      chains: runs.map((run) => run.map((item) => numberOf.get(item) ?? 0)),
      resources,
    },
  }
}

/** Breaks between neighbours of which none, or each of two groups, is free: they are there whatever is chosen. */
function certainBreaks({ chains, items }: Problem, { groups, count }: Fields, fields: number): number {
  let breaks = 0
  const fixedAt = (item: number): number => items[item]?.addresses[0] ?? NOWHERE
  for (const chain of chains) {
    chain.forEach((item, index) => {
      const before = chain[index - 1]
      if (before === undefined) return
      const [a, b] = [groups[before], groups[item]]
      if (isStaying(a) && isStaying(b)) {
        const from = fixedAt(before)
        if (from === NOWHERE || fixedAt(item) !== from + 1) breaks++
      } else if (isGroup(a) && isGroup(b) && a !== b && count <= fields) {
        const couldRunOn = [before, item].every((each) => items[each]?.fieldless !== null)
        if (!couldRunOn) breaks++
      }
    })
  }
  return breaks
}

/** The candidates of an item that lie in each field, with those that keep to none. */
function byField({ addresses, fieldless }: Shape, { fieldOf }: Fields, fields: number): Int32Array[] {
  const found = Array.from({ length: fields }, (): number[] => [])
  addresses.forEach((address, candidate) => {
    if (address !== NOWHERE && fieldless?.[candidate] !== 1) found[fieldOf(address)]?.push(candidate)
    else for (const field of found) field.push(candidate)
  })
  return found.map((candidates) => Int32Array.from(candidates))
}

/** What can be said for certain of the score of a solution: what is proven, and the least of what comes next. */
function leastScore({ score, proven, bound }: Solution): Score {
  const isProven = (term: Term): boolean => proven.includes(term)
  return forTerms((term) => (isProven(term) ? score[term] : bound?.term === term ? bound.value : 0))
}

const sumOf = (scores: readonly Score[]): Record<Term, number> =>
  forTerms((term) => scores.reduce((sum, score) => sum + score[term], 0))

/** How many items each group has, and how much of what there is once they could take in each field. */
function sizesIn({ items }: Problem, among: Fields, fields: number): [sizes: number[], room: number[]] {
  const sizes = new Array<number>(among.count).fill(0)
  const room = Array.from({ length: fields }, () => new Set<number>())
  items.forEach(({ addresses, takes }, item) => {
    const group = among.groups[item]
    if (!isGroup(group) || addresses.every((address) => address === NOWHERE)) return
    sizes[group] = (sizes[group] ?? 0) + 1
    addresses.forEach((address, candidate) => {
      if (address === NOWHERE) return
      const field = room[among.fieldOf(address)]
      for (const resource of takes[candidate] ?? []) field?.add(resource)
    })
  })
  return [sizes, room.map(({ size }) => size)]
}

/** A choice for the whole; `isLeast` if it has the lowest addresses of those that score the same in these fields. */
interface Joint {
  choice: Choice
  score: Score
  isLeast: boolean
}

/** How a group in a field is looked at, from what takes no time to what takes the most. */
const LOOKS = ['alone', 'rough', 'full'] as const
type Look = (typeof LOOKS)[number]

/** A group in a field by itself: what it scores there at least, and what was found if it was looked for. */
interface Tried {
  own: Reduced
  least: Score
  solution: Solution | null
  /** How it is to be looked at next; null if it was, as well as can be. */
  next: Look | null
}

/** The least of what a group scores in any field. */
const leastIn = (row: readonly Tried[]): Tried[] =>
  row.length === 0 ? [] : [row.reduce((a, b) => (compareScores(b.least, a.least) < 0 ? b : a))]

/** What is known of groups in fields, from one problem to another that is mostly the same. */
export type FieldMemory = Map<string, Solution>

/** The share of all steps for one rough look. */
const ROUGH_SHARE = 0.005

/**
 * The best choice where each group has a field to itself (where there are more groups than fields, as few as can
 * be share one). Which field each gets is an assignment at the least sum of what the groups score by themselves;
 * only those that come into it are looked at closely and solved, the others are known to score no less than chains that
 * have everything to themselves. Then the whole is solved with the fields so given. As long as groups do not get in each other's
 * way across fields, that is the best there is; where they do, the sum is the bound.
 */
export function solveInFields(
  problem: Problem,
  among: Fields,
  fields: number,
  { steps, isHasty = false, programs, onProgress }: SolveOptions,
  known: FieldMemory = new Map(),
): Solution {
  let done = 0
  const options = (share: number): SolveOptions => ({
    steps: Math.ceil(steps * share),
    isHasty,
    ...(programs ? { programs } : {}),
    ...(onProgress ? { onProgress: ({ proven }) => onProgress({ done, of: among.count + 1, proven }) } : {}),
  })
  const parts = Array.from({ length: among.count }, (_, group) => partOf(problem, among.groups, group))
  const shapes = new Map(
    [...new Set(problem.items)].map((shape) => [
      shape,
      { everything: Int32Array.from(shape.addresses.keys()), inField: byField(shape, among, fields) },
    ]),
  )
  const candidatesOf = (shape: Shape, group: number | undefined, field: number): Int32Array => {
    const of = shapes.get(shape)
    return (isGroup(group) ? of?.inField[field] : of?.everything) ?? new Int32Array()
  }
  const inOne = ({ items, problem: own }: Component, field: number): Reduced =>
    pickOnly(
      own,
      own.items.map((shape, index) => candidatesOf(shape, among.groups[items[index] ?? 0], field)),
    )
  const solved = (own: Problem, field: number, isRough: boolean): Solution => {
    const open = contestedOnly(own)
    const key = `${isRough ? 'rough' : 'full'} ${likeness(open, field, among)}`
    const solution =
      known.get(key) ?? solve(open, { ...options(isRough ? ROUGH_SHARE : 1 / among.count), isRough })
    known.set(key, solution)
    return solution
  }
  const tried = parts.map((part) =>
    Array.from({ length: fields }, (_, field): Tried => {
      const own = inOne(part, field)
      return { own, least: scoreOfChains(own.problem), solution: null, next: 'alone' }
    }),
  )
  /** Look at a group in its field as it is to be looked at next, and say how it could be looked at after that. */
  const lookAt = (now: Tried, look: Look, field: number): void => {
    const solution = look === 'alone' ? null : solved(now.own.problem, field, look === 'rough')
    const least = solution === null ? scoreAlone(now.own.problem) : leastScore(solution)
    if (compareScores(least, now.least) > 0) now.least = least
    now.solution = solution
    if (look === 'alone') now.next = isHasty || steps === 0 ? null : 'rough'
    // Where its score is proven, a closer look could only show that its addresses are the lowest.
    else now.next = look === 'rough' && solution?.bound !== null ? 'full' : null
  }
  // Where fields are shared, what is known for certain is the least in any field.
  if (among.count > fields) for (const row of tried) row.forEach((now, field) => lookAt(now, 'alone', field))
  const loose = partOf(problem, among.groups, LOOSE)
  const looseSolution = loose.items.length === 0 ? null : solve(loose.problem, options(1 / among.count))
  const leasts = (): Score[][] => tried.map((row) => row.map(({ least }) => least))
  for (;;) {
    const open = fieldsFor(leasts(), fields).flatMap((field, group) => {
      const now = tried[group]?.[field]
      return now && now.next !== null ? [{ now, next: now.next, field }] : []
    })
    // What is cheap to look at first: it may be enough to see that the field is not the one.
    const look = LOOKS.find((each) => open.some(({ next }) => next === each))
    if (look === undefined) break
    done = among.count - open.length
    for (const { now, field, next } of open) if (next === look) lookAt(now, look, field)
  }
  const given = fieldsFor(leasts(), fields)
  const looks = given.flatMap((field, group) => tried[group]?.[field] ?? [])
  // Where fields are shared, any group could have any of them.
  const least = among.count > fields ? tried.flatMap(leastIn) : looks
  const certain = sumOf([
    ...(looseSolution ? [leastScore(looseSolution)] : []),
    ...least.map((one) => one.least),
  ])
  certain.breaks += certainBreaks(problem, among, fields)
  /** What each chose by itself, if they do not get in each other's way: then nothing has to be solved together. */
  const apart = (): Joint | null => {
    const chosen = looks.flatMap(({ solution, own }, group) => {
      const { items = [] } = parts[group] ?? {}
      return solution === null ? [] : [{ items, choice: widened(own, solution.choice) }]
    })
    if (chosen.length < among.count) return null
    const choice = combined(problem, [
      ...chosen,
      ...(looseSolution ? [{ items: loose.items, choice: looseSolution.choice }] : []),
    ])
    return choice && { choice, score: scoreOf(problem, choice), isLeast: true }
  }
  const jointly = (into: readonly number[]): Joint => {
    const whole = keepOnly(
      problem,
      problem.items.map((shape, item) => {
        const group = among.groups[item]
        return candidatesOf(shape, group, isGroup(group) ? (into[group] ?? 0) : 0)
      }),
    )
    const joint = solve(whole.problem, options(1))
    const choice: Choice = widened(whole, joint.choice)
    return { choice, score: scoreOf(problem, choice), isLeast: joint.isLeast }
  }
  const each = apart()
  const byScore = each && compareScores(each.score, certain) === 0 ? each : jointly(given)
  // Groups that share a field get in each other's way: then it may be better to look at how much room they need.
  const isCrowded = among.count > fields && byScore.score.errors + byScore.score.unmet > 0
  const bySize = isCrowded ? jointly(fieldsBySize(...sizesIn(problem, among, fields))) : byScore
  const { choice, score, isLeast } = [bySize, ...(each ? [each] : [])].reduce(
    (best, one) => (compareScores(one.score, best.score) < 0 ? one : best),
    byScore,
  )
  const open = TERMS.findIndex((term) => certain[term] < score[term])
  const term = open < 0 ? undefined : TERMS[open]
  return {
    choice,
    score,
    proven: open < 0 ? TERMS : TERMS.slice(0, open),
    bound: term === undefined ? null : { term, value: certain[term] },
    // What is left out has no field, so of equal plans another could begin lower; and so where fields are shared.
    isLeast:
      term === undefined &&
      score.errors + score.unmet === 0 &&
      loose.items.length === 0 &&
      among.count <= fields &&
      isLeast &&
      looks.every(({ solution }) => solution?.isLeast === true),
  }
}
