import { parseBank, parseNote, programKey, type MiddleC } from '../../midi'
import { ProgramName } from '../schema'
import type { Destination } from '../types'
import { readLines, type Field, type FromTable, type Matching } from './columns'
import type { TableRow } from './table'

export type NoteName = Destination['noteNames'][number]
export type NamedProgram = Destination['programs'][number]

/** The columns of a table of sounds or articulations. */
export const NOTE_FIELDS = [
  { id: 'note', name: 'Note', means: ['note', 'number', 'key', 'note number'] },
  { id: 'name', name: 'Name', means: ['name', 'sound', 'articulation', 'drum'] },
] as const satisfies ReadonlyArray<Field<string>>
export type NoteField = (typeof NOTE_FIELDS)[number]['id']

/** The columns of a table of presets. */
export const PROGRAM_FIELDS = [
  { id: 'number', name: 'Number', means: ['number', 'program', 'preset', 'program change', 'no', 'no.'] },
  { id: 'name', name: 'Name', means: ['name', 'preset name', 'sound', 'patch'] },
  { id: 'bank', name: 'Bank', means: ['bank', 'bank msb.lsb'] },
] as const satisfies ReadonlyArray<Field<string>>
export type ProgramField = (typeof PROGRAM_FIELDS)[number]['id']

const MOST_NAME = 120

/** Names of notes out of a table; notes as numbers, or as names in the destination's own octaves. */
export function notesFrom(
  rows: readonly TableRow[],
  matching: Matching<NoteField>,
  middleC: MiddleC,
): FromTable<NoteName> {
  const seen = new Set<number>()
  return readLines(NOTE_FIELDS, rows, matching, (cell) => {
    const [written, name] = [cell('note'), cell('name')]
    const number = parseNote(written, middleC)
    if (number === null) return `“${written}” is no note: write 0 to 127, or a name such as C3.`
    if (name === '') return `note ${written} has no name.`
    if (seen.has(number)) return `note ${written} stands here for the second time.`
    seen.add(number)
    return { number, name: name.slice(0, MOST_NAME) }
  })
}

/** Presets out of a table, numbered as the destination counts them. */
export function programsFrom(
  rows: readonly TableRow[],
  matching: Matching<ProgramField>,
  countsFrom: 0 | 1,
): FromTable<NamedProgram> {
  const seen = new Set<string>()
  return readLines(PROGRAM_FIELDS, rows, matching, (cell) => {
    const [written, name, bank] = [cell('number'), cell('name'), parseBank(cell('bank'))]
    if (typeof bank === 'string') return bank
    if (!/^\d+$/.test(written)) return `“${written}” is no program number.`
    const parsed = ProgramName.safeParse({ number: Number(written) - countsFrom, bank, name })
    if (name === '') return `program ${written} has no name.`
    if (!parsed.success)
      return `there is no program ${written}: they run from ${countsFrom} to ${127 + countsFrom}.`
    const key = programKey(parsed.data)
    if (seen.has(key)) return `program ${written} stands here for the second time.`
    seen.add(key)
    return parsed.data
  })
}
