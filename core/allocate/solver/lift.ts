import { withItems, withTakes, type Problem, type Shape } from './problem'

/** Resources that more candidates take are left as they are: they are wide already. */
const MOST_USERS = 24

/** So many candidates are looked at: the rest of a very large problem stays as it is. */
const MOST_LOOKS = 200_000

/** A candidate of all items of a shape, with its place among all candidates. */
interface User {
  id: number
  shape: Shape
  takes: Int32Array
  /** The first and the last candidate of the only item of the shape, which exclude each other; null for more items. */
  alone: readonly [from: number, to: number] | null
}

/**
 * The same problem, in which candidates also take what they could not have beside any of those who take it: of three of
 * whom each two exclude each other only one can be had, where three pairs alone would let relaxed prices have one and a half.
 * No choice is lost that was possible.
 */
export function lifted(problem: Problem): Problem {
  const counts = new Map<Shape, number>()
  for (const shape of problem.items) counts.set(shape, (counts.get(shape) ?? 0) + 1)
  const all: User[] = []
  const users: User[][] = Array.from({ length: problem.resources }, () => [])
  for (const [shape, count] of counts) {
    const from = all.length
    const alone = count === 1 ? ([from, from + shape.takes.length] as const) : null
    shape.takes.forEach((takes, candidate) => {
      const user = { id: from + candidate, shape, takes, alone }
      all.push(user)
      for (const resource of new Set(takes)) users[resource]?.push(user)
    })
  }
  /** Of each candidate, of how many in turn it is known that they exclude it, and by which of them it was seen last. */
  const excludedBy = new Int32Array(all.length)
  const seenBy = new Int32Array(all.length).fill(-1)
  const excluded = (user: User, visit: (other: User) => void): void => {
    for (const resource of user.takes) for (const other of users[resource] ?? []) visit(other)
    if (user.alone) for (const other of all.slice(...user.alone)) visit(other)
  }
  const excludes = (a: User, b: User): boolean =>
    (a.shape === b.shape && a.alone !== null) || a.takes.some((resource) => b.takes.includes(resource))

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
  if (added.size === 0) return problem
  const changed = new Set([...added.keys()].map(({ shape }) => shape))
  const shapes = new Map<Shape, Shape>()
  let at = 0
  for (const shape of counts.keys()) {
    const from = at
    at += shape.takes.length
    if (!changed.has(shape)) continue
    const takes = shape.takes.map((each, candidate) => {
      const user = all[from + candidate]
      const also = user && added.get(user)
      return also ? Int32Array.from([...each, ...also]) : each
    })
    shapes.set(shape, withTakes(shape, takes))
  }
  return withItems(
    problem,
    problem.items.map((shape) => shapes.get(shape) ?? shape),
  )
}
