import { writeSmf } from '#core/midi/smf'
import Papa from 'papaparse'
import { INERT, type Id, type Rig } from '#core/rig'
import { becameWords, bytesText } from './runs'
import { senderName, tagOf, type Tape } from './tape'

/** The messages of a tape, of one controller or of all. */
const kept = ({ messages, count }: Tape, only: Id | null) =>
  messages.slice(0, count).filter(({ controller }) => only === null || controller === only)

/** What is on the tape as a Standard MIDI File that begins with its first message. */
export function tapeAsSmf(name: string, tape: Tape, only: Id | null): Uint8Array {
  const all = kept(tape, only)
  const began = all[0]?.at ?? 0
  return writeSmf(
    name,
    all.map(({ at, bytes }) => ({ at: at - began, bytes })),
  )
}

const COLUMNS = ['ms', 'Controller', 'Control', 'Address', 'Value', 'Bytes', 'Became']

/** What is on the tape as CSV (RFC 4180), one line for each message. No cell is a formula to a spreadsheet. */
export function tapeAsCsv(rig: Rig, tape: Tape, only: Id | null): string {
  const nameOf = (id: Id): string => rig.controllers.find((each) => each.id === id)?.name ?? ''
  const rows = kept(tape, only).map((passing) => [
    passing.at.toFixed(1),
    nameOf(passing.controller),
    senderName(rig, passing),
    tagOf(passing),
    String(passing.value),
    bytesText(passing.bytes),
    becameWords(rig, passing),
  ])
  return Papa.unparse({ fields: COLUMNS, data: rows }, INERT)
}
