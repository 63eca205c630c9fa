import {
  compareScores,
  costsNothing,
  scoreOf,
  type Choice,
  type Problem,
  type Shape,
  type Term,
} from './problem'

/** So many may give way one after the other. */
const LONGEST_WAY = 400
/**
 * So many at most give way to one, each to another place: one as long as that helps anyone, as that takes no more room in all;
 * then several, as a pair of numbers lies where two single ones are.
 */
const IN_THE_WAY = [1, 4]
/** So many candidates are looked at, which is far more than it mostly takes: a second or two. */
const MOST_LOOKS = 100_000_000

const NONE = new Int32Array()

/** A problem with what costs nothing of the terms that are looked at. */
interface Aim {
  items: readonly Shape[]
  resources: number
  /** The candidates of each shape that cost nothing, in the order in which they are tried. */
  free: ReadonlyMap<Shape, readonly number[]>
  /** What each item takes at least where it costs nothing. */
  size: readonly number[]
  /** Every item: those first that take least. */
  order: readonly number[]
  /** Is an item to be helped? */
  isCosting: (item: number, candidate: number) => boolean
}

function aimOf({ items, resources }: Problem, terms: readonly Term[], sake: readonly Term[]): Aim {
  const free = new Map<Shape, readonly number[]>()
  for (const shape of items) if (!free.has(shape)) free.set(shape, inTurn(shape, terms))
  const size = items.map((shape) => shape.takes[free.get(shape)?.[0] ?? -1]?.length ?? 0)
  return {
    items,
    resources,
    free,
    size,
    order: [...items.keys()].sort((a, b) => (size[a] ?? 0) - (size[b] ?? 0) || a - b),
    isCosting: (item, candidate) => {
      const shape = items[item]
      return shape !== undefined && !costsNothing(shape, candidate, sake)
    },
  }
}

/** What a place may cost that is worth another number. */
const MATTERING = ['stale', 'warnings', 'changed'] as const

/** More than a candidate costs of a term. */
const FAR = 2 ** 12

/**
 * The candidates that cost nothing of some terms, in the order in which they are tried: first such as take least, and of those that
 * take as much such as cost least.
 */
function inTurn(shape: Shape, terms: readonly Term[]): number[] {
  const { takes, costs } = shape
  const columns = MATTERING.map((term) => costs[term])
  const turns = new Map<number, number[]>()
  let last = NaN
  let alike: number[] = []
  for (let candidate = 0; candidate < takes.length; candidate++) {
    if (!costsNothing(shape, candidate, terms)) continue
    let turn = takes[candidate]?.length ?? 0
    for (const column of columns) turn = turn * FAR + (column[candidate] ?? 0)
    // Neighbours are mostly alike.
    if (turn !== last) turns.set(turn, (alike = turns.get(turn) ?? []))
    last = turn
    alike.push(candidate)
  }
  return [...turns].sort(([a], [b]) => a - b).flatMap(([, own]) => own)
}

/** A choice that is being changed, with who holds what. */
function holding({ items, resources }: Aim, start: Choice) {
  const choice = [...start]
  const holder = new Int32Array(resources).fill(-1)
  const takesAt = (item: number, candidate: number): Int32Array => items[item]?.takes[candidate] ?? NONE
  const occupy = (item: number, candidate: number): void => {
    choice[item] = candidate
    for (const resource of takesAt(item, candidate)) holder[resource] = item
  }
  const release = (item: number): void => {
    for (const resource of takesAt(item, choice[item] ?? 0)) holder[resource] = -1
  }
  const isFree = (item: number, candidate: number): boolean =>
    takesAt(item, candidate).every((resource) => (holder[resource] ?? -1) < 0)
  choice.forEach((candidate, item) => occupy(item, candidate))
  return { choice, holder, takesAt, occupy, release, isFree }
}

/**
 * A choice with fewer items that cost something of some terms: one after the other is given what others have, who then
 * take something else. If some are left, it is tried again with all left that need more than others: two may get what one had.
 * Where each takes one thing, nobody else can be helped at all.
 *
 * @param sake Only those are helped who cost something of these.
 */
export function augmented(
  problem: Problem,
  start: Choice,
  terms: readonly Term[],
  sake: readonly Term[] = terms,
): Choice {
  const isDone = (choice: Choice): boolean =>
    problem.items.every((shape, item) => costsNothing(shape, choice[item] ?? 0, sake))
  if (isDone(start)) return start
  const aim = aimOf(problem, terms, sake)
  const helpedBy = (from: Choice): Choice =>
    IN_THE_WAY.reduce((choice, most) => helped(aim, choice, most), from)
  const found = helpedBy(start)
  if (isDone(found)) return found
  const other = helpedBy(withoutLarge(aim, found))
  return compareScores(scoreOf(problem, other), scoreOf(problem, found)) < 0 ? other : found
}

/** Those who need more than others left as they are, unless someone else has what that takes. */
function withoutLarge(aim: Aim, from: Choice): Choice {
  const { choice, occupy, release, isFree } = holding(aim, from)
  const least = Math.min(...aim.size.filter((size) => size > 0))
  aim.items.forEach(({ leave }, item) => {
    if (leave < 0 || (aim.size[item] ?? 0) <= least) return
    const before = choice[item] ?? 0
    release(item)
    occupy(item, isFree(item, leave) ? leave : before)
  })
  return choice
}

/** A choice in which others have given way to those who cost something, until nobody can be helped that way. */
function helped(aim: Aim, start: Choice, mostInTheWay: number): Choice {
  const { choice, holder, takesAt, occupy, release, isFree } = holding(aim, start)
  /** Who was asked in vain since someone was last helped. */
  const tried = new Uint8Array(aim.items.length)
  let looks = 0

  /** Who has what an item would take; null where one was asked in vain, or there are too many. */
  const inTheWay = (item: number, candidate: number): number[] | null => {
    const others: number[] = []
    for (const resource of takesAt(item, candidate)) {
      const by = holder[resource] ?? -1
      if (by < 0 || others.includes(by)) continue
      if (tried[by] === 1 || others.length === mostInTheWay) return null
      others.push(by)
    }
    return others
  }

  /** Everyone who gave way to one, in order, with what it had. */
  const gone: Array<{ item: number; before: number }> = []
  /** Those who gave way since then, and have a place, have what they had again; they can be asked once more. */
  const takeBack = (length: number): void => {
    const back = gone.splice(length)
    for (const { item } of back) release(item)
    for (const { item, before } of back) {
      occupy(item, before)
      tried[item] = 0
    }
  }

  /** Give an item that holds nothing something that costs nothing. If that fails it holds nothing still, and is where it was. */
  const help = (item: number, depth: number): boolean => {
    tried[item] = 1
    const before = choice[item] ?? 0
    const shape = aim.items[item]
    if (!shape || depth > LONGEST_WAY) return false
    const free = aim.free.get(shape) ?? []
    looks += free.length
    if (looks > MOST_LOOKS) return false
    const open = free.find((candidate) => isFree(item, candidate))
    if (open !== undefined) {
      occupy(item, open)
      return true
    }
    for (const candidate of free) {
      const others = inTheWay(item, candidate)
      if (others === null) continue
      const { length } = gone
      for (const other of others) {
        gone.push({ item: other, before: choice[other] ?? 0 })
        release(other)
      }
      occupy(item, candidate)
      const stuck = others.find((other) => !help(other, depth + 1))
      if (stuck === undefined) return true
      release(item)
      choice[item] = before
      takeBack(length)
      tried[stuck] = 1
    }
    return false
  }

  for (const item of aim.order) {
    const before = choice[item] ?? 0
    if (tried[item] === 1 || !aim.isCosting(item, before)) continue
    release(item)
    if (help(item, 0)) tried.fill(0)
    else occupy(item, before)
    gone.length = 0
  }
  return choice
}
