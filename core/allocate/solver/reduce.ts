import { completions, forwards, leastOf, priced, weighed, type Costs, type Weights } from './chain'
import { kindOf } from './kinds'
import { memoOf } from '../../rig'
import { forOwnTerms, withItems, type Choice, type Problem, type Shape } from './problem'

/** A smaller problem that has the same best choice, and what its candidates were. */
export interface Reduced {
  problem: Problem
  /** For each item the candidates that are left, by their number before. */
  kept: ReadonlyArray<Int32Array>
}

const EPSILON = 1e-6

/** Some values of a column. */
function picked<T extends Uint16Array | Uint8Array | Int32Array>(values: T, kept: Int32Array, into: T): T {
  for (let index = 0; index < kept.length; index++) into[index] = values[kept[index] ?? 0] ?? 0
  return into
}

/** A shape with some of its candidates, and of what they take only what is left; itself if that is all. */
function withOnly(shape: Shape, kept: Int32Array, leftOf: (takes: Int32Array) => Int32Array): Shape {
  const { length } = kept
  let isSame = length === shape.addresses.length
  const takes = new Array<Int32Array>(length)
  for (let index = 0; index < length; index++) {
    const before = shape.takes[kept[index] ?? 0] ?? NOTHING
    const left = leftOf(before)
    takes[index] = left
    if (left !== before) isSame = false
  }
  if (isSame) return shape
  return {
    addresses: picked(shape.addresses, kept, new Int32Array(length)),
    takes,
    costs: forOwnTerms((term) => picked(shape.costs[term], kept, new Uint16Array(length))),
    leave: kept.indexOf(shape.leave),
    fieldless: shape.fieldless && picked(shape.fieldless, kept, new Uint8Array(length)),
  }
}

const NOTHING = new Int32Array()

/** What is contested of what candidates take. Many have the very same list, and go on having the same. */
function contestedBy(contested: Uint8Array): (takes: Int32Array) => Int32Array {
  const filtered = memoOf((takes: Int32Array) => takes.filter((resource) => contested[resource] === 1))
  return (takes) => {
    for (let at = 0; at < takes.length; at++) if (contested[takes[at] ?? 0] !== 1) return filtered(takes)
    return takes
  }
}

/** What more than one item could take, of the candidates that are kept (null: of all): 1 for each such resource. */
export function contestedIn(
  { items, resources }: Problem,
  kept: readonly Int32Array[] | null = null,
): Uint8Array {
  const contested = new Uint8Array(resources)
  const seenBy = new Int32Array(resources).fill(-1)
  const seen = new Map<Shape, Map<Int32Array, number>>()
  let turn = 0
  const see = (takes: Int32Array): void => {
    for (let at = 0; at < takes.length; at++) {
      const resource = takes[at] ?? 0
      const before = seenBy[resource] ?? -1
      if (before >= 0 && before !== turn) contested[resource] = 1
      seenBy[resource] = turn
    }
  }
  items.forEach((shape, item) => {
    const own = kept?.[item] ?? NOTHING
    const ofShape = seen.get(shape) ?? new Map<Int32Array, number>()
    seen.set(shape, ofShape)
    const times = ofShape.get(own) ?? 0
    ofShape.set(own, times + 1)
    // Of items that are the very same two are as good as many.
    if (times > 1) return
    if (kept === null) shape.takes.forEach(see)
    else for (let index = 0; index < own.length; index++) see(shape.takes[own[index] ?? 0] ?? NOTHING)
    turn++
  })
  return contested
}

/**
 * Leave out every candidate through which its chain would cost more than `slack` above the least it can, at
 * these weights and prices; and forget what only one item could take.
 */
export const reduced = (
  problem: Problem,
  weights: Weights,
  prices: Float64Array | null,
  slack: number,
): Reduced => keepOnly(problem, keptWithin(problem, weights, prices, slack))

/** The candidates of each item through which its chain costs no more than `slack` above the least it can. */
export function keptWithin(
  problem: Problem,
  weights: Weights,
  prices: Float64Array | null,
  slack: number,
): Int32Array[] {
  const costs = priced(weighed(weights), prices, null)
  if (weights.breaks === 0) return keptAlone(problem, costs, slack)
  const keeps = new Array<Int32Array>(problem.items.length)
  const known = new Map<string, readonly Int32Array[]>()
  for (const chain of problem.chains) {
    const kind = kindOf(problem, chain)
    const kept = known.get(kind) ?? keptOf(chain)
    known.set(kind, kept)
    chain.forEach((item, index) => {
      keeps[item] = kept[index] ?? new Int32Array()
    })
  }
  return keeps

  function keptOf(chain: readonly number[]): Int32Array[] {
    const before = forwards(problem, chain, costs, weights.breaks)
    const after = completions(problem, chain, costs, weights.breaks)
    const least = (after[0] ?? new Float64Array()).reduce((a, b) => Math.min(a, b), Infinity)
    return chain.map((item, index) => {
      const shape = problem.items[item]
      const own = shape ? costs(shape) : new Float64Array()
      const left: number[] = []
      for (let candidate = 0; candidate < own.length; candidate++) {
        const through =
          (before[index]?.[candidate] ?? 0) + (after[index]?.[candidate] ?? 0) - (own[candidate] ?? 0)
        if (through - least <= slack + EPSILON) left.push(candidate)
      }
      return Int32Array.from(left)
    })
  }
}

/** The same where breaks cost nothing: what a chain costs is what its items do. */
function keptAlone({ items }: Problem, costs: Costs, slack: number): Int32Array[] {
  const known = new Map<Shape, Int32Array>()
  return items.map((shape) => {
    const before = known.get(shape)
    if (before) return before
    const own = costs(shape)
    const most = (own[leastOf(own)] ?? 0) + slack + EPSILON
    const left: number[] = []
    for (let candidate = 0; candidate < own.length; candidate++)
      if ((own[candidate] ?? 0) <= most) left.push(candidate)
    const kept = Int32Array.from(left)
    known.set(shape, kept)
    return kept
  })
}

/** Leave out every candidate that takes what is taken. */
export function onlyFree(problem: Problem, taken: Uint8Array): Reduced {
  const free = new Map<Shape, Int32Array>()
  const freeOf = (shape: Shape): Int32Array => {
    const known = free.get(shape)
    if (known) return known
    const found = Int32Array.from(
      shape.takes.flatMap((takes, candidate) =>
        takes.every((resource) => taken[resource] === 0) ? [candidate] : [],
      ),
    )
    free.set(shape, found)
    return found
  }
  return keepOnly(problem, problem.items.map(freeOf))
}

/** What some candidates of a shape take, whichever of them it is. */
function takenAnyway({ takes }: Shape, kept: Int32Array): Int32Array {
  let common = takes[kept.at(-1) ?? 0] ?? NOTHING
  for (let index = 0; index < kept.length && common.length > 0; index++) {
    const own = takes[kept[index] ?? 0] ?? NOTHING
    const isIn = (resource: number): boolean => own.includes(resource)
    if (!common.every(isIn)) common = common.filter(isIn)
  }
  return common
}

/** Leave out every candidate that takes what another item takes whatever its candidate. */
export function withoutForced(problem: Problem): Reduced {
  const all = everythingOf(problem)
  const kept = keptUnforced(problem, all)
  const isWhole = kept.every((own, item) => own === all[item])
  return isWhole ? { problem, kept } : keepOnly(problem, kept)
}

/**
 * Of some candidates of each item those that take nothing that another item takes whatever its candidate, looked at until that
 * leaves nothing more out.
 */
export function keptUnforced(problem: Problem, among: readonly Int32Array[]): readonly Int32Array[] {
  const holder = new Int32Array(problem.resources).fill(-1)
  const kept = [...among]
  /** The candidates of each item of which it is known what all of them take. */
  const known = new Array<Int32Array | null>(kept.length).fill(null)
  const isHolding = new Uint8Array(kept.length)
  const isFree = (takes: Int32Array, item: number): boolean => {
    for (let at = 0; at < takes.length; at++) {
      const other = holder[takes[at] ?? 0] ?? -1
      if (other >= 0 && other !== item) return false
    }
    return true
  }
  const freeOf = (own: Int32Array, { takes }: Shape, item: number): Int32Array => {
    const left = own.filter((candidate) => isFree(takes[candidate] ?? NOTHING, item))
    return left.length < own.length ? left : own
  }
  for (let isOpen = true; isOpen;) {
    isOpen = false
    /** The same for all who hold nothing and have the same candidates left. */
    const freeOfAll = new Map<Int32Array, { shape: Shape; left: Int32Array }>()
    problem.items.forEach((shape, item) => {
      const own = kept[item] ?? NOTHING
      if (known[item] === own || own.length === 0) return
      known[item] = own
      for (const resource of takenAnyway(shape, own)) {
        if (holder[resource] === item) continue
        holder[resource] = item
        isHolding[item] = 1
        isOpen = true
      }
    })
    if (!isOpen) break
    kept.forEach((own, item) => {
      const shape = problem.items[item]
      if (own.length === 1 || !shape) return
      const known = freeOfAll.get(own)
      if (isHolding[item] === 1 || known?.shape !== shape) kept[item] = freeOf(own, shape, item)
      else kept[item] = known.left
      if (isHolding[item] === 0 && !known) freeOfAll.set(own, { shape, left: kept[item] ?? own })
    })
  }
  return kept
}

/** All candidates of each item. */
function everythingOf({ items }: Problem): Int32Array[] {
  return items.map(memoOf(({ takes }) => upTo(takes.length)))
}

/** The numbers from 0 on. */
function upTo(count: number): Int32Array {
  const numbers = new Int32Array(count)
  for (let number = 0; number < count; number++) numbers[number] = number
  return numbers
}

/** A problem with only some of the candidates of each item; what only one item could take then is forgotten. */
export const keepOnly = (problem: Problem, kept: readonly Int32Array[]): Reduced =>
  withKept(problem, kept, contestedIn(problem, kept))

/** As `keepOnly`, but nothing is forgotten: for problems that are looked at, not solved. */
export const pickOnly = (problem: Problem, kept: readonly Int32Array[]): Reduced =>
  withKept(problem, kept, null)

/** The same problem; what only one item could take is forgotten. */
export const contestedOnly = (problem: Problem): Problem => keepOnly(problem, everythingOf(problem)).problem

function withKept(problem: Problem, kept: readonly Int32Array[], contested: Uint8Array | null): Reduced {
  const known = new Map<Shape, Map<string, Shape>>()
  const keys = new Map<Int32Array, string>()
  const leftOf = contested ? contestedBy(contested) : (takes: Int32Array) => takes
  const items = problem.items.map((shape, item) => {
    const own = kept[item] ?? NOTHING
    const ofShape = known.get(shape) ?? new Map<string, Shape>()
    known.set(shape, ofShape)
    const key = keys.get(own) ?? (own.length === shape.addresses.length ? 'all' : own.join())
    keys.set(own, key)
    const found = ofShape.get(key) ?? withOnly(shape, own, leftOf)
    ofShape.set(key, found)
    return found
  })
  return { problem: withItems(problem, items), kept }
}

/** A choice of the smaller problem, in the candidates of the one before. */
export const widened = ({ kept }: Pick<Reduced, 'kept'>, choice: Choice): number[] =>
  choice.map((candidate, item) => kept[item]?.[candidate] ?? 0)

/** A choice of the one before, in the candidates of the smaller; null if one of its candidates was left out. */
export function narrowed({ kept }: Reduced, choice: Choice): number[] | null {
  const found = choice.map((candidate, item) => kept[item]?.indexOf(candidate) ?? -1)
  return found.includes(-1) ? null : found
}
