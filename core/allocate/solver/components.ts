import type { Problem } from './problem'

/** A part of a problem that shares nothing with the rest, with the items it is made of. */
export interface Component {
  problem: Problem
  items: readonly number[]
}

/** The parts of a problem that share nothing with each other: each can be solved by itself. */
export function componentsOf(problem: Problem): Component[] {
  const { chains, items } = problem
  const root = chains.map((_, index) => index)
  const find = (index: number): number => {
    let at = index
    while (root[at] !== at) at = root[at] ?? at
    return at
  }
  const owner = new Int32Array(problem.resources).fill(-1)
  chains.forEach((chain, index) => {
    const shapes = new Set(chain.flatMap((item) => items[item] ?? []))
    for (const shape of shapes) {
      for (const takes of shape.takes) {
        for (const resource of takes) {
          const other = owner[resource] ?? -1
          if (other >= 0) root[find(other)] = find(index)
          owner[resource] = index
        }
      }
    }
  })
  const groups = new Map<number, number[]>()
  chains.forEach((_, index) => {
    const at = find(index)
    groups.set(at, [...(groups.get(at) ?? []), index])
  })
  return [...groups.values()].map((group) => {
    const own = group.flatMap((index) => chains[index] ?? []).toSorted((a, b) => a - b)
    const numberOf = new Map(own.map((item, index) => [item, index]))
    return {
      items: own,
      problem: {
        items: own.flatMap((item) => items[item] ?? []),
        chains: group.map((index) => (chains[index] ?? []).map((item) => numberOf.get(item) ?? 0)),
        resources: problem.resources,
      },
    }
  })
}
