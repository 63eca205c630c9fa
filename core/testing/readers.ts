import { readNames } from '../midi/names'
import { readProperties } from '../midi/properties'
import {
  fromNames,
  fromProperties,
  guessedColumns,
  NOTE_FIELDS,
  notesFrom,
  paletteFrom,
  PARAMETER_FIELDS,
  parametersFrom,
  PROGRAM_FIELDS,
  programsFrom,
  propertyRows,
  readTable,
} from '../rig'
import { readPart } from '../rig/part'
import { readRig } from '../rig/parse'

/** What a reader says of a text: that it is read, or why not, in sentences. */
export type Reading = { ok: true } | { ok: false; says: readonly string[] }

const good: Reading = { ok: true }

/** Every reader of a text that comes from outside, as the application uses it. */
export const READERS: Readonly<
  Record<'rig' | 'part' | 'table' | 'names' | 'properties', (text: string) => Reading>
> = {
  rig: (text) => {
    const read = readRig(text)
    return read.ok
      ? good
      : { ok: false, says: read.problems.map(({ path, message }) => `${path} ${message}`) }
  },
  part: (text) => {
    const read = readPart(text)
    return read.ok
      ? good
      : { ok: false, says: read.problems.map(({ path, message }) => `${path} ${message}`) }
  },
  table: (text) => {
    const read = readTable(text)
    if (!read.ok) return { ok: false, says: [read.message] }
    const { rows } = read
    const lists = [
      parametersFrom(rows, guessedColumns(PARAMETER_FIELDS, rows), new Set()),
      notesFrom(rows, guessedColumns(NOTE_FIELDS, rows), 4),
      programsFrom(rows, guessedColumns(PROGRAM_FIELDS, rows), 0),
      paletteFrom(rows),
    ]
    const bad = lists.flatMap((list) => list.bad.slice(0, 1))
    return bad.length === 0 ? good : { ok: false, says: bad.map(({ message }) => message) }
  },
  names: (text) => {
    const read = readNames(text)
    if (!read.ok) return { ok: false, says: [read.message] }
    fromNames(read.names, new Set())
    return good
  },
  properties: (text) => {
    const read = readProperties(text)
    if (!read.ok) return { ok: false, says: [read.message] }
    fromProperties(read.properties, new Set())
    propertyRows(read.properties)
    return good
  },
}
