import { programKey } from '#core/midi'
import {
  fromNames,
  fromProperties,
  guessedColumns,
  hasHeadings,
  NOTE_FIELDS,
  notesFrom,
  PARAMETER_FIELDS,
  parametersFrom,
  PROGRAM_FIELDS,
  programsFrom,
  readTable,
  type BadLine,
  type Destination,
  type Field,
  type Matching,
  type NamedProgram,
  type NoteName,
  type Parameter,
  type RigEdit,
  type TableRow,
} from '#core/rig'

export type ListKind = 'parameters' | 'sounds' | 'presets'

/** Does a text begin as XML does? */
export const isXml = (text: string): boolean => /^\ufeff?\s*</.test(text)
/** Does a text begin as JSON does, and no table? */
export const isJson = (text: string): boolean => /^\ufeff?\s*[[{]/.test(text)

/** What a text that was given turned out to be. */
export type Given =
  | { kind: 'table'; rows: readonly TableRow[] }
  | { kind: 'names'; what: string; parts: ReturnType<typeof fromNames>; left: readonly string[] }
  | { kind: 'refused'; message: string }

/** Read a text: a MIDI Name Document where it begins as XML does, lists of MIDI-CI property exchange where as JSON, else a table. */
export async function readGiven(text: string, destination: Destination): Promise<Given> {
  const taken = new Set(destination.parameters.map(({ id }) => id))
  if (isJson(text)) {
    const { readProperties } = await import('#core/midi/properties')
    const read = readProperties(text)
    if (!read.ok) return { kind: 'refused', message: read.message }
    const parts = fromProperties(read.properties, taken)
    return {
      kind: 'names',
      what: 'Lists by MIDI-CI property exchange',
      parts,
      left: [...read.left, ...parts.left],
    }
  }
  if (!isXml(text)) {
    const table = readTable(text)
    return table.ok ? { kind: 'table', rows: table.rows } : { kind: 'refused', message: table.message }
  }
  const { readNames } = await import('#core/midi/names')
  const read = readNames(text)
  if (!read.ok) return { kind: 'refused', message: read.message }
  const parts = fromNames(read.names, taken)
  return { kind: 'names', what: 'A MIDI Name Document', parts, left: [...read.left, ...parts.left] }
}

export const FIELDS: Readonly<Record<ListKind, ReadonlyArray<Field<string>>>> = {
  parameters: PARAMETER_FIELDS,
  sounds: NOTE_FIELDS,
  presets: PROGRAM_FIELDS,
}

/** Which column is likely to be which field. */
export const guessed = (kind: ListKind, rows: readonly TableRow[]): Matching<string> =>
  guessedColumns(FIELDS[kind], rows)
/** Is the first line of a table its headings? */
export const isHeaded = (kind: ListKind, rows: readonly TableRow[]): boolean =>
  hasHeadings(FIELDS[kind], rows)

/** What of a table can be added to a destination, and the lines that cannot be read. */
export interface Readable {
  count: number
  bad: readonly BadLine[]
  edits: readonly RigEdit[]
}

const addParameters = (destination: Destination, parameters: readonly Parameter[]): RigEdit[] =>
  parameters.length === 0 ? [] : [{ type: 'parameters-add', destination: destination.id, parameters }]

/** Names take the place of those that a note has; others stay. */
const setNotes = (destination: Destination, notes: readonly NoteName[]): RigEdit[] =>
  notes.length === 0
    ? []
    : [
        {
          type: 'destination-set',
          destination: destination.id,
          set: {
            noteNames: [
              ...new Map([...destination.noteNames, ...notes].map((note) => [note.number, note])).values(),
            ],
          },
        },
      ]

const setPrograms = (destination: Destination, programs: readonly NamedProgram[]): RigEdit[] =>
  programs.length === 0
    ? []
    : [
        {
          type: 'destination-set',
          destination: destination.id,
          set: {
            programs: [
              ...new Map(
                [...destination.programs, ...programs].map((program) => [programKey(program), program]),
              ).values(),
            ],
          },
        },
      ]

/** What a table gives with its columns matched like this. */
export function readable(
  kind: ListKind,
  rows: readonly TableRow[],
  matching: Matching<string>,
  destination: Destination,
): Readable {
  switch (kind) {
    case 'parameters': {
      const taken = new Set(destination.parameters.map(({ id }) => id))
      const { items, bad } = parametersFrom(rows, matching, taken)
      return { count: items.length, bad, edits: addParameters(destination, items) }
    }
    case 'sounds': {
      const { items, bad } = notesFrom(rows, matching, destination.middleC)
      return { count: items.length, bad, edits: setNotes(destination, items) }
    }
    case 'presets': {
      const { items, bad } = programsFrom(rows, matching, destination.countsFrom)
      return { count: items.length, bad, edits: setPrograms(destination, items) }
    }
  }
}

/** The edits that take over what a MIDI Name Document says. */
export const namesEdits = (destination: Destination, parts: ReturnType<typeof fromNames>): RigEdit[] => [
  ...addParameters(destination, parts.parameters),
  ...setNotes(destination, parts.noteNames),
  ...setPrograms(destination, parts.programs),
]
