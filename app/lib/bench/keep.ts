import Papa from 'papaparse'
import type { Passing } from '#core/bench'
import { writeSmfTracks } from '#core/midi/smf'
import { INERT, type Id, type Rig } from '#core/rig'
import { becameWords, bytesText } from './runs'
import { senderName, tagOf, type Tape } from './tape'
import type { Passes } from './narrow'

/** The messages of a tape that are looked at. */
const kept = ({ messages, count }: Tape, isLookedAt: Passes): Passing[] =>
  messages.slice(0, count).filter(isLookedAt)

const nameOf = (rig: Rig, id: Id): string => rig.controllers.find((each) => each.id === id)?.name ?? ''

/** What is on the tape as a Standard MIDI File that begins with its first message: a track for each controller. */
export function tapeAsSmf(rig: Rig, name: string, tape: Tape, isLookedAt: Passes): Uint8Array {
  const all = kept(tape, isLookedAt)
  const began = all.reduce((first, { at }) => Math.min(first, at), Infinity)
  const owners = [...new Set(all.map(({ controller }) => controller))]
  return writeSmfTracks(
    name,
    owners.map((id) => ({
      name: nameOf(rig, id),
      messages: all.flatMap(({ at, bytes, controller }) =>
        controller === id ? [{ at: at - began, bytes }] : [],
      ),
    })),
  )
}

const COLUMNS = ['ms', 'Controller', 'Control', 'Address', 'Value', 'Bytes', 'Became']

/** What is on the tape as CSV (RFC 4180), one line for each message. No cell is a formula to a spreadsheet. */
export function tapeAsCsv(rig: Rig, tape: Tape, isLookedAt: Passes): string {
  const rows = kept(tape, isLookedAt).map((passing) => [
    passing.at.toFixed(1),
    nameOf(rig, passing.controller),
    senderName(rig, passing),
    tagOf(passing),
    String(passing.value),
    bytesText(passing.bytes),
    becameWords(rig, passing),
  ])
  return Papa.unparse({ fields: COLUMNS, data: rows }, INERT)
}
