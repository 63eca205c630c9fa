import { memoOf } from '../../rig'
import { withItems, withTakes, type Problem, type Shape } from './problem'

/**
 * The same problem, in which of resources that are always taken together only the first is left: who has one has all of them.
 */
export function withoutTogether(problem: Problem): Problem {
  const { items } = problem
  const isFirst = firstTogether(problem)
  const kept = new Map<Shape, Shape>()
  // Many shapes have the very same lists, and go on having the same.
  const firstOf = memoOf((own: Int32Array) => (own.every(isFirst) ? own : own.filter(isFirst)))
  for (const shape of new Set(items)) {
    const takes = shape.takes.map(firstOf)
    if (takes.some((own, candidate) => own !== shape.takes[candidate]))
      kept.set(shape, withTakes(shape, takes))
  }
  if (kept.size === 0) return problem
  return withItems(
    problem,
    items.map((shape) => kept.get(shape) ?? shape),
  )
}

/** Is a resource the first of those that the very same candidates take? */
export function firstTogether({ items, resources }: Problem): (resource: number) => boolean {
  const classOf = new Int32Array(resources)
  // No class is ever empty, so there are no more of them than resources.
  const sizes = new Int32Array(resources + 1)
  sizes[0] = resources
  let classes = 1
  /** Of each class, how much of it a candidate takes, and the class that this becomes. */
  const taken = new Int32Array(resources + 1)
  const becomes = Int32Array.from({ length: resources + 1 }, (_, own) => own)
  const seenBy = new Int32Array(resources).fill(-1)
  const own: number[] = []
  const before: number[] = []
  let turn = 0
  const split = (takes: Int32Array): void => {
    own.length = before.length = 0
    for (let at = 0; at < takes.length; at++) {
      const resource = takes[at] ?? 0
      if (seenBy[resource] === turn) continue
      seenBy[resource] = turn
      const each = classOf[resource] ?? 0
      own.push(resource)
      before.push(each)
      taken[each] = (taken[each] ?? 0) + 1
    }
    turn++
    for (const each of before) {
      const count = taken[each] ?? 0
      const size = sizes[each] ?? 0
      taken[each] = 0
      // What it takes of a class, but not all of it, is a class by itself from now on.
      if (count === 0 || count === size) continue
      sizes[each] = size - count
      sizes[classes] = count
      becomes[each] = classes++
    }
    own.forEach((resource, at) => {
      classOf[resource] = becomes[before[at] ?? 0] ?? 0
    })
    for (const each of before) becomes[each] = each
  }
  // The very same list a second time splits nothing.
  const isSplit = new Set<Int32Array>()
  for (const { takes } of new Set(items))
    for (const own of takes) {
      if (isSplit.has(own)) continue
      isSplit.add(own)
      split(own)
    }

  const isFirst = new Uint8Array(resources)
  const isSeen = new Uint8Array(classes)
  classOf.forEach((own, resource) => {
    isFirst[resource] = 1 - (isSeen[own] ?? 0)
    isSeen[own] = 1
  })
  return (resource) => isFirst[resource] === 1
}
