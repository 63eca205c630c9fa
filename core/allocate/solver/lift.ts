import { withItems, withTakes, type Problem, type Shape } from './problem'

/** Resources that more candidates take are left as they are: they are wide already. */
const MOST_USERS = 24

/** So many candidates are looked at: the rest of a very large problem stays as it is. */
const MOST_LOOKS = 200_000

/** What some candidates take; `isExclusive` where they exclude each other, as they are of one item. */
export interface Taking {
  takes: readonly Int32Array[]
  isExclusive: boolean
}

/**
 * The same problem, in which candidates also take what they could not have beside any of those who take it: of three of
 * whom each two exclude each other only one can be had, where three pairs alone would let relaxed prices have one and a half.
 * No choice is lost that was possible.
 */
export function lifted(problem: Problem): Problem {
  const counts = new Map<Shape, number>()
  for (const shape of problem.items) counts.set(shape, (counts.get(shape) ?? 0) + 1)
  const all = [...counts].map(([{ takes }, count]) => ({ takes, isExclusive: count === 1 }))
  const more = liftedTakes(all, problem.resources)
  if (more === all) return problem
  const shapes = new Map<Shape, Shape>()
  for (const [index, shape] of [...counts.keys()].entries()) {
    const takes = more[index]?.takes ?? shape.takes
    if (takes !== shape.takes) shapes.set(shape, withTakes(shape, takes))
  }
  return withItems(
    problem,
    problem.items.map((shape) => shapes.get(shape) ?? shape),
  )
}

/** As `lifted`, of what candidates take: the very same list where nothing is added. */
export function liftedTakes(lists: readonly Taking[], resources: number): readonly Taking[] {
  /** What each candidate takes, by its place among all; and who takes each resource, from the first on. */
  const takesOf: Int32Array[] = []
  const users: number[][] = Array.from({ length: resources }, () => [])
  /** The first candidate that it excludes whatever it takes, and the one after the last; the same for none. */
  const rivalsFrom: number[] = []
  const rivalsTo: number[] = []
  for (const { takes: list, isExclusive } of lists) {
    const from = takesOf.length
    for (const takes of list) {
      const id = takesOf.push(takes) - 1
      rivalsFrom.push(from)
      rivalsTo.push(isExclusive ? from + list.length : from)
      for (const resource of takes) if (users[resource]?.at(-1) !== id) users[resource]?.push(id)
    }
  }
  const excludes = (a: number, b: number): boolean => {
    if (rivalsFrom[a] === rivalsFrom[b] && rivalsFrom[a] !== rivalsTo[a]) return true
    const [own, other] = [takesOf[a] ?? NOTHING, takesOf[b] ?? NOTHING]
    return own.some((resource) => other.includes(resource))
  }

  /** Of each candidate, of how many users of a resource it is known that they exclude it, and of which resource. */
  const excludedBy = new Int32Array(takesOf.length)
  const seenAt = new Int32Array(takesOf.length).fill(-1)
  let looks = 0
  /** Who is excluded by each user of a resource and takes something else. */
  const excludedByAll = (own: readonly number[], resource: number): readonly number[] => {
    for (const user of own) {
      seenAt[user] = resource
      excludedBy[user] = NEVER
    }
    const near: number[] = []
    let left = 0
    const see = (other: number, turn: number): void => {
      looks++
      if (turn === 0 && seenAt[other] !== resource) {
        seenAt[other] = resource
        near.push(other)
      } else if (seenAt[other] !== resource || excludedBy[other] !== turn) return
      excludedBy[other] = turn + 1
      left++
    }
    for (let turn = 0; turn < own.length; turn++) {
      const user = own[turn] ?? 0
      left = 0
      for (const each of takesOf[user] ?? NOTHING) for (const other of users[each] ?? []) see(other, turn)
      for (let other = rivalsFrom[user] ?? 0; other < (rivalsTo[user] ?? 0); other++) see(other, turn)
      if (left === 0) return []
    }
    return near.filter((other) => excludedBy[other] === own.length && (takesOf[other] ?? NOTHING).length > 0)
  }

  const added = new Map<number, number[]>()
  users.forEach((own, resource) => {
    const isPlain = own.every((user) => takesOf[user]?.length === 1)
    if (own.length < 2 || own.length > MOST_USERS || isPlain || looks > MOST_LOOKS) return
    const more: number[] = []
    for (const user of excludedByAll(own, resource))
      if (more.every((each) => excludes(each, user))) more.push(user)
    for (const user of more) added.set(user, [...(added.get(user) ?? []), resource])
  })
  if (added.size === 0) return lists
  let next = 0
  return lists.map((list) => {
    const from = next
    next += list.takes.length
    const isSame = list.takes.every((_, candidate) => !added.has(from + candidate))
    if (isSame) return list
    const takes = list.takes.map((own, candidate) => {
      const also = added.get(from + candidate)
      return also ? Int32Array.from([...own, ...also]) : own
    })
    return { ...list, takes }
  })
}

const NOTHING = new Int32Array()
/** Who takes the resource itself is not counted. */
const NEVER = -1
