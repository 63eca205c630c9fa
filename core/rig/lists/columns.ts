import type { TableRow } from './table'

/** What a column of a table can hold, with the headings by which it is guessed. */
export interface Field<K extends string> {
  id: K
  name: string
  /** Headings (small letters) that mean it. */
  means: readonly string[]
}

/** Which column (from 0) holds which field. */
export type Matching<K extends string> = Partial<Record<K, number>>

/** A line that cannot be read, and why. */
export interface BadLine {
  line: number
  message: string
}

/** What a table gives: what could be read, and the lines that could not. */
export interface FromTable<T> {
  items: readonly T[]
  bad: readonly BadLine[]
}

/** Is the first line one of headings, rather than of values? */
export const hasHeadings = <K extends string>(
  fields: ReadonlyArray<Field<K>>,
  [first]: readonly TableRow[],
): boolean =>
  first?.cells.some((cell) => fields.some(({ means }) => means.includes(cell.toLowerCase()))) ?? false

/** So many lines tell how many columns there are. */
const LOOKED_AT = 100

/** Columns matched by their headings, each to one field; without headings the fields in their order. */
export function guessedColumns<K extends string>(
  fields: ReadonlyArray<Field<K>>,
  rows: readonly TableRow[],
): Matching<K> {
  const matching: Matching<K> = {}
  const [first] = rows
  if (!first) return matching
  if (!hasHeadings(fields, rows)) {
    const widest = Math.max(...rows.slice(0, LOOKED_AT).map(({ cells }) => cells.length))
    fields.slice(0, widest).forEach(({ id }, index) => (matching[id] = index))
    return matching
  }
  first.cells.forEach((cell, index) => {
    const field = fields.find(
      ({ id, means }) => means.includes(cell.toLowerCase()) && matching[id] === undefined,
    )
    if (field) matching[field.id] = index
  })
  return matching
}

/** The cell of a field in a row; empty where no column holds it. */
export const cellOf = <K extends string>(row: TableRow, matching: Matching<K>, field: K): string => {
  const column = matching[field]
  return column === undefined ? '' : (row.cells[column] ?? '')
}

/** A cell may hold anything: so much of a message about it is shown. */
const MOST_SAID = 200

const shortened = (message: string): string =>
  message.length > MOST_SAID ? `${message.slice(0, MOST_SAID)}…` : message

/** Read every line but the headings; a `BadLine` message is a sentence without its place. */
export function readLines<T, K extends string>(
  fields: ReadonlyArray<Field<K>>,
  rows: readonly TableRow[],
  matching: Matching<K>,
  read: (cell: (field: K) => string) => T | string,
): FromTable<T> {
  const items: T[] = []
  const bad: BadLine[] = []
  for (const row of hasHeadings(fields, rows) ? rows.slice(1) : rows) {
    const item = read((field) => cellOf(row, matching, field))
    if (typeof item === 'string') bad.push({ line: row.line, message: shortened(item) })
    else items.push(item)
  }
  return { items, bad }
}
