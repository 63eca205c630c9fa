import type { Choice, Problem } from './problem'

/** What was chosen for some items, in their candidates. */
export interface Chosen {
  items: readonly number[]
  choice: Choice
}

/**
 * What was chosen for parts of a problem by themselves, as one choice. Items of no part get the first candidate that
 * takes nothing from the others, in order. Null where something would be taken twice.
 */
export function combined({ items, resources }: Problem, parts: readonly Chosen[]): Choice | null {
  const choice: number[] = items.map(({ addresses }) => (addresses.length === 1 ? 0 : -1))
  for (const { items: own, choice: chosen } of parts)
    own.forEach((item, index) => {
      choice[item] = chosen[index] ?? -1
    })
  const taken = new Uint8Array(resources)
  const take = (item: number, candidate: number): boolean => {
    const takes = items[item]?.takes[candidate] ?? []
    if (takes.some((resource) => taken[resource] === 1)) return false
    for (const resource of takes) taken[resource] = 1
    return true
  }
  const open = choice.flatMap((candidate, item) => (candidate < 0 ? [item] : []))
  if (!choice.every((candidate, item) => candidate < 0 || take(item, candidate))) return null
  for (const item of open) {
    const candidates = [...(items[item]?.addresses.keys() ?? [])]
    const found = candidates.findIndex((candidate) => take(item, candidate))
    if (found < 0) return null
    choice[item] = found
  }
  return choice
}
