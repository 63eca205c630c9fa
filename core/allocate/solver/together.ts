import type { Problem, Shape } from './problem'

/**
 * The same problem, in which of resources that are always taken together only the first is left: who has one has all of them.
 */
export function withoutTogether(problem: Problem): Problem {
  const { items, resources } = problem
  const shapes = [...new Set(items)]
  const isFirst = firstTogether(
    shapes.flatMap(({ takes }) => takes),
    resources,
  )
  const kept = new Map<Shape, Shape>()
  for (const shape of shapes) {
    const takes = shape.takes.map((own) => (own.every(isFirst) ? own : own.filter(isFirst)))
    if (takes.some((own, candidate) => own !== shape.takes[candidate])) kept.set(shape, { ...shape, takes })
  }
  if (kept.size === 0) return problem
  return { ...problem, items: items.map((shape) => kept.get(shape) ?? shape) }
}

/**
 * Is a resource the first of those that are in the very same lists?
 *
 * @param lists Resources by their numbers below `resources`.
 */
export function firstTogether(
  lists: ReadonlyArray<Iterable<number>>,
  resources: number,
): (resource: number) => boolean {
  const classes = new Int32Array(resources)
  const sizes = [resources]
  for (const list of lists) {
    // What a list has of a class, but not all of it, is a class by itself from now on.
    const parts = new Map<number, number[]>()
    for (const resource of new Set(list)) {
      const at = classes[resource] ?? 0
      const part = parts.get(at)
      if (part) part.push(resource)
      else parts.set(at, [resource])
    }
    for (const [at, part] of parts) {
      const size = sizes[at] ?? 0
      if (part.length === size) continue
      sizes[at] = size - part.length
      for (const resource of part) classes[resource] = sizes.length
      sizes.push(part.length)
    }
  }
  const isFirst = new Uint8Array(resources)
  const seen = new Uint8Array(sizes.length)
  classes.forEach((own, resource) => {
    isFirst[resource] = 1 - (seen[own] ?? 0)
    seen[own] = 1
  })
  return (resource) => isFirst[resource] === 1
}
