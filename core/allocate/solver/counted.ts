import type { Merged, Option } from './alike'
import { NEARLY_WHOLE, type Program } from './program'

/** What a column of a program counts. */
type Column =
  /** Whether one of a group has a place that nobody else could have in any other way. */
  | { kind: 'own'; group: number; option: Option }
  /** How many of a group have one of the places of a pool, in some manner. */
  | { kind: 'share'; group: number; manner: number; pool: number }
  /** How many of a pool have a place of a class. */
  | { kind: 'pooled'; pool: number; classed: number }
  /** Whether someone has a place of a class. */
  | { kind: 'place'; place: number; classed: number }

/** A program that says how many of what is alike are where, with what its columns are. */
export interface Counted {
  program: Program
  columns: readonly Column[]
}

/** A group that could have something in some manner. */
interface Use {
  group: number
  manner: number
}

/** Places that the same groups could have in the same manners. */
interface PlaceClass {
  places: number[]
  uses: readonly Use[]
}

/** Uses of the same classes. */
interface Pool {
  uses: Use[]
  classes: readonly number[]
}

/** Places by who could have them. */
function classesOf({ groups, places }: Merged): PlaceClass[] {
  /** Each class is one before, and a use more. */
  const nodes: Array<{ before: number; use: Use | null }> = [{ before: 0, use: null }]
  const next = new Map<number, number>()
  const classOf = new Int32Array(places.length)
  let uses = 0
  groups.forEach(({ options }, group) => {
    const numbers = new Map<number, number>()
    for (const { place, manner } of options) {
      const number = numbers.get(manner) ?? uses++
      numbers.set(manner, number)
      const before = classOf[place] ?? 0
      const key = number * 2 ** 26 + before
      const known = next.get(key) ?? nodes.push({ before, use: { group, manner } }) - 1
      next.set(key, known)
      classOf[place] = known
    }
  })
  const usesOf = (node: number): Use[] => {
    const found: Use[] = []
    for (let at = nodes[node]; at?.use; at = nodes[at.before]) found.push(at.use)
    return found.reverse()
  }
  const classes = new Map<number, PlaceClass>()
  classOf.forEach((node, place) => {
    const own = classes.get(node)
    if (own) own.places.push(place)
    else classes.set(node, { places: [place], uses: usesOf(node) })
  })
  return [...classes.values()].filter((own) => own.uses.length > 0)
}

/** Uses by the classes that they are of: of classes that more than one could have. */
function poolsOf(classes: readonly PlaceClass[]): Pool[] {
  const ofUse = new Map<string, { use: Use; classes: number[] }>()
  classes.forEach(({ uses }, classed) => {
    if (uses.length === 1) return
    for (const use of uses) {
      const key = `${use.group} ${use.manner}`
      const own = ofUse.get(key)
      if (own) own.classes.push(classed)
      else ofUse.set(key, { use, classes: [classed] })
    }
  })
  const pools = new Map<string, Pool>()
  for (const { use, classes: own } of ofUse.values()) {
    const key = own.join()
    const pool = pools.get(key)
    if (pool) pool.uses.push(use)
    else pools.set(key, { uses: [use], classes: own })
  }
  return [...pools.values()]
}

/** What goes into a program of a column. */
interface Entry {
  column: Column
  upTo: number
  /** Rows in which it is 1, and the one in which it is -1, if there is one. */
  rows: readonly number[]
  minus: number | null
  costs: readonly number[]
}

/**
 * The program of a merged problem: each of a group has an option, nothing is taken twice, settled terms stay as they are.
 *
 * @param weights What one of each term costs.
 * @param settled How much of some terms there may be, by their places among the terms.
 * @param most Null comes out if there would be more columns.
 */
export function counted(
  merged: Merged,
  weights: readonly number[],
  settled: ReadonlyArray<{ at: number; value: number }>,
  most: number,
): Counted | null {
  const { groups, places, manners } = merged
  const classes = classesOf(merged)
  const pools = poolsOf(classes)
  const count =
    classes.reduce((sum, { places: own }) => sum + own.length, 0) +
    pools.reduce((sum, { uses, classes: own }) => sum + uses.length + own.length, 0)
  if (count > most) return null
  const size = (group: number): number => groups[group]?.items.length ?? 0
  const all = groups.reduce((sum, { items }) => sum + items.length, 0)
  const least = groups.map(({ items }) => items.length)
  const upTo = [...least]
  const addRow = (from: number, to: number): number => {
    upTo.push(to)
    return least.push(from) - 1
  }
  const rowOfResource = new Map<number, number>()
  const rowOf = (resource: number): number => {
    const known = rowOfResource.get(resource)
    if (known !== undefined) return known
    const row = addRow(-Infinity, 1)
    rowOfResource.set(resource, row)
    return row
  }
  const nothing = weights.map(() => 0)
  const mannerOf = ({ manner }: Use) => manners[manner] ?? { also: [], costs: nothing }
  const rowOfClass = classes.map(({ uses }) => (uses.length === 1 ? -1 : addRow(0, 0)))
  const entries: Entry[] = []
  classes.forEach(({ places: own, uses }, classed) => {
    const [only] = uses
    const { also, costs } = only && uses.length === 1 ? mannerOf(only) : { also: [], costs: nothing }
    for (const place of own) {
      const rows = [...(places[place] ?? []), ...also].map(rowOf)
      entries.push(
        only && uses.length === 1
          ? {
              column: { kind: 'own', group: only.group, option: { place, manner: only.manner } },
              upTo: rows.length > 0 ? 1 : size(only.group),
              rows: [only.group, ...rows],
              minus: null,
              costs,
            }
          : {
              column: { kind: 'place', place, classed },
              upTo: rows.length > 0 ? 1 : all,
              rows,
              minus: rowOfClass[classed] ?? null,
              costs,
            },
      )
    }
  })
  pools.forEach(({ uses, classes: own }, pool) => {
    const row = addRow(0, 0)
    for (const use of uses) {
      const { also, costs } = mannerOf(use)
      entries.push({
        column: { kind: 'share', ...use, pool },
        upTo: also.length > 0 ? 1 : size(use.group),
        rows: [use.group, row, ...also.map(rowOf)],
        minus: null,
        costs,
      })
    }
    for (const classed of own)
      entries.push({
        column: { kind: 'pooled', pool, classed },
        upTo: all,
        rows: [rowOfClass[classed] ?? 0],
        minus: row,
        costs: nothing,
      })
  })
  const held = settled.map(({ at, value }) => ({ at, row: addRow(-Infinity, value) }))
  return {
    program: programOf(entries, { weights, held, least, upTo }),
    columns: entries.map(({ column }) => column),
  }
}

function programOf(
  entries: readonly Entry[],
  {
    weights,
    held,
    least,
    upTo,
  }: {
    weights: readonly number[]
    held: ReadonlyArray<{ at: number; row: number }>
    least: readonly number[]
    upTo: readonly number[]
  },
): Program {
  const starts = new Int32Array(entries.length + 1)
  const rows: number[] = []
  const values: number[] = []
  const put = (row: number, value: number): void => {
    rows.push(row)
    values.push(value)
  }
  entries.forEach(({ rows: own, minus, costs }, column) => {
    for (const row of own) put(row, 1)
    if (minus !== null) put(minus, -1)
    for (const { at, row } of held) if ((costs[at] ?? 0) > 0) put(row, costs[at] ?? 0)
    starts[column + 1] = rows.length
  })
  return {
    costs: Float64Array.from(entries, ({ costs }) =>
      costs.reduce((sum, cost, at) => sum + cost * (weights[at] ?? 0), 0),
    ),
    starts,
    rows: Int32Array.from(rows),
    values: Float64Array.from(values),
    most: Float64Array.from(upTo),
    least: Float64Array.from(least),
    upTo: Float64Array.from(entries, (entry) => entry.upTo),
  }
}

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
