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

/** A candidate, with its place among all. */
interface User {
  id: number
  takes: Int32Array
  /** The first candidate that it excludes whatever it takes, and the one after the last; null for none. */
  rivals: readonly [from: number, to: number] | null
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
  const all: User[] = []
  const users: User[][] = Array.from({ length: resources }, () => [])
  for (const { takes: list, isExclusive } of lists) {
    const from = all.length
    const rivals = isExclusive ? ([from, from + list.length] as const) : null
    list.forEach((takes, candidate) => {
      const user = { id: from + candidate, takes, rivals }
      all.push(user)
      for (const resource of new Set(takes)) users[resource]?.push(user)
    })
  }
  /** Of each candidate, of how many in turn it is known that they exclude it, and by which of them it was seen last. */
  const excludedBy = new Int32Array(all.length)
  const seenBy = new Int32Array(all.length).fill(-1)
  const excluded = (user: User, visit: (other: User) => void): void => {
    for (const resource of user.takes) for (const other of users[resource] ?? []) visit(other)
    if (user.rivals) for (const other of all.slice(...user.rivals)) visit(other)
  }
  const excludes = (a: User, b: User): boolean =>
    (a.rivals !== null && a.rivals === b.rivals) || a.takes.some((resource) => b.takes.includes(resource))

  let turn = 0
  let looks = 0
  const added = new Map<User, number[]>()
  users.forEach((own, resource) => {
    const isPlain = own.every(({ takes }) => takes.length === 1)
    if (own.length < 2 || own.length > MOST_USERS || isPlain || looks > MOST_LOOKS) return
    const near: User[] = []
    for (const user of own) {
      turn++
      excluded(user, (other) => {
        looks++
        if (seenBy[other.id] === turn) return
        seenBy[other.id] = turn
        if (user === own[0]) {
          excludedBy[other.id] = 0
          near.push(other)
        }
        excludedBy[other.id] = (excludedBy[other.id] ?? 0) + 1
      })
    }
    const more: User[] = []
    for (const user of near) {
      if (excludedBy[user.id] !== own.length || user.takes.length === 0 || own.includes(user)) continue
      if (more.every((each) => excludes(each, user))) more.push(user)
    }
    for (const user of more) added.set(user, [...(added.get(user) ?? []), resource])
  })
  if (added.size === 0) return lists
  let from = 0
  return lists.map((list) => {
    const own = all.slice(from, from + list.takes.length)
    from += list.takes.length
    if (!own.some((user) => added.has(user))) return list
    const takes = own.map((user) => {
      const also = added.get(user)
      return also ? Int32Array.from([...user.takes, ...also]) : user.takes
    })
    return { ...list, takes }
  })
}
