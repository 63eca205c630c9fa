import type { Merged, Option } from './alike'
import type { Counted } from './counted'
import { NEARLY_WHOLE } from './program'

/**
 * What each item of a group has where columns have some values: those that are first have the first places, and what costs least.
 * Null where the values are not whole, or do not come out.
 */
export function optionsIn(
  { groups, manners }: Merged,
  { columns }: Counted,
  values: Float64Array,
): Array<{ item: number; option: Option }> | null {
  const counts = Array.from(columns, (_, index) => Math.round(values[index] ?? 0))
  if (counts.some((count, index) => Math.abs(count - (values[index] ?? 0)) > NEARLY_WHOLE)) return null
  const had: Option[][] = groups.map(() => [])
  const taken = new Map<number, number[]>()
  const pooled = new Map<number, number[]>()
  const listed = (lists: Map<number, number[]>, key: number): number[] => {
    const list = lists.get(key) ?? []
    lists.set(key, list)
    return list
  }
  // Places go to their class, from there to pools, and from these to groups.
  columns.forEach((column, index) => {
    const times = Array.from({ length: counts[index] ?? 0 })
    if (column.kind === 'own') had[column.group]?.push(...times.map(() => column.option))
    if (column.kind === 'place') listed(taken, column.classed).push(...times.map(() => column.place))
  })
  columns.forEach((column, index) => {
    if (column.kind !== 'pooled') return
    listed(pooled, column.pool).push(...listed(taken, column.classed).splice(0, counts[index] ?? 0))
  })
  for (const places of pooled.values()) places.sort((a, b) => a - b)
  columns.forEach((column, index) => {
    if (column.kind !== 'share') return
    const { group, manner, pool } = column
    const places = listed(pooled, pool).splice(0, counts[index] ?? 0)
    had[group]?.push(...places.map((place) => ({ place, manner })))
  })
  const costs = (option: Option): readonly number[] => manners[option.manner]?.costs ?? []
  const byCosts = (a: Option, b: Option): number => {
    const at = costs(a).findIndex((cost, index) => cost !== costs(b)[index])
    return at < 0 ? a.place - b.place : (costs(a)[at] ?? 0) - (costs(b)[at] ?? 0)
  }
  const found: Array<{ item: number; option: Option }> = []
  for (const [group, { items }] of groups.entries()) {
    const own = had[group]?.toSorted(byCosts) ?? []
    if (own.length !== items.length) return null
    items.forEach((item, index) => {
      const option = own[index]
      if (option) found.push({ item, option })
    })
  }
  return found
}
