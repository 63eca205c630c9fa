import type { Manner, Merged, Option } from './alike'
import { classesOf, poolsOf, type PlaceClass, type Pool, type Use } from './pools'
import type { Program } from './program'

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
  const classes = classesOf(merged)
  const pools = poolsOf(classes)
  const count =
    classes.reduce((sum, { places }) => sum + places.length, 0) +
    pools.reduce((sum, { uses, classes: own }) => sum + uses.length + own.length, 0)
  if (count > most) return null
  const rows = rowsOver(merged)
  const rowOfClass = classes.map(({ uses }) => (uses.length === 1 ? -1 : rows.add(0, 0)))
  const entries = [
    ...classes.flatMap((own, classed) => {
      const [only] = own.uses
      return only && own.uses.length === 1
        ? ownEntries(merged, rows, own, only)
        : placeEntries(merged, rows, own, { classed, row: rowOfClass[classed] ?? 0 })
    }),
    ...pools.flatMap((own, pool) => poolEntries(merged, rows, own, { pool, rowOfClass })),
  ]
  const held = settled.map(({ at, value }) => ({ at, row: rows.add(-Infinity, value) }))
  return { program: programOf(entries, rows, weights, held), columns: entries.map(({ column }) => column) }
}

/** The rows of a program: one for each group, and what is asked for beside. */
interface Rows {
  add: (least: number, most: number) => number
  /** Of which there is one. */
  ofResource: (resource: number) => number
  least: readonly number[]
  most: readonly number[]
}

function rowsOver({ groups }: Merged): Rows {
  const least = groups.map(({ items }) => items.length)
  const most = [...least]
  const add = (from: number, to: number): number => {
    most.push(to)
    return least.push(from) - 1
  }
  const known = new Map<number, number>()
  const ofResource = (resource: number): number => {
    const row = known.get(resource) ?? add(-Infinity, 1)
    known.set(resource, row)
    return row
  }
  return { add, ofResource, least, most }
}

const mannerOf = ({ manners }: Merged, { manner }: Use): Manner => manners[manner] ?? { also: [], costs: [] }

const sizeOf = ({ groups }: Merged, { group }: Use): number => groups[group]?.items.length ?? 0

/** How many there are of all groups that have some uses. */
const sizeOfAll = (merged: Merged, uses: readonly Use[]): number =>
  uses.reduce((sum, use) => sum + sizeOf(merged, use), 0)

/** Columns of places that only one group could have, in one manner. */
function ownEntries(merged: Merged, rows: Rows, { places }: PlaceClass, only: Use): Entry[] {
  const { also, costs } = mannerOf(merged, only)
  return places.map((place) => {
    const taken = [...(merged.places[place] ?? []), ...also].map(rows.ofResource)
    return {
      column: { kind: 'own', group: only.group, option: { place, manner: only.manner } },
      upTo: taken.length > 0 ? 1 : sizeOf(merged, only),
      rows: [only.group, ...taken],
      minus: null,
      costs,
    }
  })
}

/** Columns of places that several could have. */
const placeEntries = (
  merged: Merged,
  rows: Rows,
  { places, uses }: PlaceClass,
  { classed, row }: { classed: number; row: number },
): Entry[] =>
  places.map((place) => {
    const taken = (merged.places[place] ?? []).map(rows.ofResource)
    const upTo = taken.length > 0 ? 1 : sizeOfAll(merged, uses)
    return { column: { kind: 'place', place, classed }, upTo, rows: taken, minus: row, costs: [] }
  })

/** Columns of who goes into a pool, and to which classes from there. */
function poolEntries(
  merged: Merged,
  rows: Rows,
  { uses, classes }: Pool,
  { pool, rowOfClass }: { pool: number; rowOfClass: readonly number[] },
): Entry[] {
  const row = rows.add(0, 0)
  return [
    ...uses.map((use): Entry => {
      const { also, costs } = mannerOf(merged, use)
      return {
        column: { kind: 'share', ...use, pool },
        upTo: also.length > 0 ? 1 : sizeOf(merged, use),
        rows: [use.group, row, ...also.map(rows.ofResource)],
        minus: null,
        costs,
      }
    }),
    ...classes.map((classed): Entry => ({
      column: { kind: 'pooled', pool, classed },
      upTo: sizeOfAll(merged, uses),
      rows: [rowOfClass[classed] ?? 0],
      minus: row,
      costs: [],
    })),
  ]
}

function programOf(
  entries: readonly Entry[],
  { least, most }: Rows,
  weights: readonly number[],
  held: ReadonlyArray<{ at: number; row: number }>,
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
    most: Float64Array.from(most),
    least: Float64Array.from(least),
    upTo: Float64Array.from(entries, (entry) => entry.upTo),
  }
}
