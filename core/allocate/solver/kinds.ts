import type { Problem, Shape } from './problem'

const shapeIds = new WeakMap<Shape, number>()
let shapeCount = 0
const kinds = new WeakMap<readonly number[], { problem: Problem; kind: string }>()

/** The same for chains of the same shapes, which at the same prices go the same way. */
export function kindOf(problem: Problem, chain: readonly number[]): string {
  const known = kinds.get(chain)
  if (known?.problem === problem) return known.kind
  const ids = chain.map((item) => {
    const shape = problem.items[item]
    if (!shape) return -1
    const id = shapeIds.get(shape) ?? shapeCount++
    shapeIds.set(shape, id)
    return id
  })
  const kind = ids.join()
  kinds.set(chain, { problem, kind })
  return kind
}

/**
 * For each chain the one of the same kind that stands last before it, or -1. Two such can change places: of all
 * that come out the same, the one in which the first of both lies lower has the lower addresses.
 */
export function twinsBefore(problem: Problem): number[] {
  const last = new Map<string, number>()
  return problem.chains.map((chain, index) => {
    const [first = -1] = chain
    if (chain.some((item) => item < first)) return -1
    const kind = kindOf(problem, chain)
    const twin = last.get(kind) ?? -1
    last.set(kind, index)
    return twin
  })
}

/** How many items and candidates there are in chains that go different ways, and how much these take: the rest cost no time to price. */
export function unlike(problem: Problem): { items: number; candidates: number; takes: number } {
  const kinds = new Map(problem.chains.map((chain) => [kindOf(problem, chain), chain]))
  const all = [...kinds.values()].flat()
  const takesOf = new Map<Shape, number>()
  let candidates = 0
  let takes = 0
  for (const item of all) {
    const shape = problem.items[item]
    if (!shape) continue
    const own = takesOf.get(shape) ?? shape.takes.reduce((sum, { length }) => sum + Math.max(1, length), 0)
    takesOf.set(shape, own)
    candidates += shape.takes.length
    takes += own
  }
  return { items: all.length, candidates, takes }
}
