import { isWhole, type Seven } from './ranges'

/** Which octave number middle C (note 60) carries in a rig or a destination. */
export type MiddleC = 3 | 4 | 5

const PITCHES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'] as const
const NATURALS: Readonly<Record<string, number>> = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11 }
const MIDDLE_C_NOTE = 60

/**
 * The name of note 0–127 with middle C (note 60) called C3, C4 or C5; the number of middle C is
 * MIDI 1.0 Detailed Specification, "Note Number"; the octave numbers are left to each maker there. Throws a RangeError outside 0–127.
 */
export function noteName(note: Seven, middleC: MiddleC): string {
  if (!isWhole(note, 0, 127)) throw new RangeError(`Notes are 0–127, not ${note}.`)
  const octave = Math.floor(note / 12) - MIDDLE_C_NOTE / 12 + middleC
  return `${PITCHES[note % 12]}${octave}`
}

/**
 * The note number that a name means ("C3", "f#2", "Bb-1"), or null when it is no name or lies
 * outside 0–127.
 */
export function parseNoteName(text: string, middleC: MiddleC): Seven | null {
  const match = /^\s*([a-g])([#b♯♭]?)(-?\d{1,2})\s*$/i.exec(text)
  if (!match) return null
  const [, letter = '', accidental = '', octave = ''] = match
  const natural = NATURALS[letter.toLowerCase()]
  if (natural === undefined) return null
  const shift = accidental === '' ? 0 : '#♯'.includes(accidental) ? 1 : -1
  const note = natural + shift + (Number(octave) - middleC) * 12 + MIDDLE_C_NOTE
  return isWhole(note, 0, 127) ? note : null
}

/** A note 0–127 as written: its number, or its name; null for neither. */
export function parseNote(text: string, middleC: MiddleC): Seven | null {
  if (!/^\s*\d+\s*$/.test(text)) return parseNoteName(text, middleC)
  return isWhole(Number(text), 0, 127) ? Number(text) : null
}

/** Is the note a black key? */
export const isBlackKey = (note: Seven): boolean => [1, 3, 6, 8, 10].includes(note % 12)
