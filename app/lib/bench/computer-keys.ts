/** Semitones above a C by the place of a computer's key, whatever is printed on it: the middle row is white, the one above black. */
const SEMITONES: Readonly<Record<string, number>> = {
  KeyA: 0,
  KeyW: 1,
  KeyS: 2,
  KeyE: 3,
  KeyD: 4,
  KeyF: 5,
  KeyT: 6,
  KeyG: 7,
  KeyY: 8,
  KeyH: 9,
  KeyU: 10,
  KeyJ: 11,
  KeyK: 12,
  KeyO: 13,
  KeyL: 14,
  KeyP: 15,
  Semicolon: 16,
}
const OCTAVE_BY: Readonly<Record<string, -1 | 1>> = { KeyZ: -1, KeyX: 1 }
const OCTAVE = 12
const MIDDLE_C = 60

/** The keys that a keyboard has, as notes. */
interface Keys {
  low: number
  high: number
}

/** The key that a key of the computer plays, counted from the C that it begins at; null where there is none. */
export function playedBy(code: string, from: number, { low, high }: Keys): number | null {
  const semitones = SEMITONES[code]
  const note = semitones === undefined ? null : from + semitones
  return note !== null && note >= low && note <= high ? note : null
}

/** The C that the computer's keys begin at: an octave further, as long as the keyboard goes there. */
export function octaveBy(code: string, from: number, { low, high }: Keys): number | null {
  const by = OCTAVE_BY[code]
  if (by === undefined) return null
  const next = from + by * OCTAVE
  return next + OCTAVE > low && next <= high ? next : from
}

/** The C to begin at: the middle one, or the nearest that the keyboard has. */
export function firstC({ low, high }: Keys): number {
  const lowest = Math.ceil(low / OCTAVE) * OCTAVE
  const highest = Math.floor(high / OCTAVE) * OCTAVE
  return lowest > highest ? low : Math.min(highest, Math.max(lowest, MIDDLE_C))
}
