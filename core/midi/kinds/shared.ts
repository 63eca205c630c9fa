import { ANY_VALUE, type Cell, type Interval } from '../cells'
import { isWhole, SEVEN_MAX, type Channel } from '../ranges'
import type { FreshFor, Landing, ReadTarget } from './kind'
import type { Behaviour, Keys, Target, TargetOf } from './types'

/** The status byte of a channel message: its high half, and the channel counted from 0. */
export const status = (high: number, channel: Channel): number => high | (channel - 1)

/** The high seven bits of a 14-bit value (MIDI 1.0 Detailed Specification, "Data Types"). */
export const msb = (value: number): number => (value >> 7) & 0x7f
/** The low seven bits of a 14-bit value. */
export const lsb = (value: number): number => value & 0x7f

/** A Control Change (MIDI 1.0 Detailed Specification, "Control Change"). */
export const controlChange = (channel: Channel, number: number, value: number): number[] => [
  status(0xb0, channel),
  number,
  value,
]

/** How many values there are between two ends, both included. */
export const widthOf = ({ low, high }: Interval): number => Math.abs(high - low) + 1

/** Two ends as people write them. */
export const spanWords = (low: number, high: number): string => (low === high ? `${low}` : `${low}–${high}`)

/** How many messages a behaviour sends while its control goes from end to end, where it does not sweep. */
export function behavedCount(behaviour: Behaviour, values: number, most: number): number {
  switch (behaviour.kind) {
    case 'absolute':
    case 'latch':
      return Math.min(values, most)
    case 'relative':
      return most
    case 'momentary':
    case 'toggle':
      return 2
    case 'trigger':
      return 1
    case 'list':
      return behaviour.values.length
  }
}

/** What a new message does: press and release for what is pressed, positions for the rest. */
export const freshBehaviour = ({ isPressed }: FreshFor): Behaviour =>
  isPressed ? { kind: 'momentary' } : { kind: 'absolute', turns: null }

/** What is refused of a number outside its bounds. */
export const outOf = (what: string, low: number, high: number, got: number) => ({
  ok: false as const,
  message: `${what} ${got} is out of range: use ${low} to ${high}.`,
})

/** The one number of messages that carry it in `number`. */
export const plainNumber = ({ number }: { number: number | 'wanted' }): number | null =>
  number === 'wanted' ? null : number

/** Read a target that is a word with one number after it. */
export function readNumbered<T extends Target>(
  body: string,
  word: string,
  label: string,
  bounds: { low: number; high: number },
  make: (number: number) => T,
): ReadTarget<T> | null {
  const digits = body.startsWith(word) ? body.slice(word.length) : ''
  if (!/^\d+$/.test(digits)) return null
  const number = Number(digits)
  return isWhole(number, bounds.low, bounds.high)
    ? { ok: true, target: make(number) }
    : outOf(label, bounds.low, bounds.high, number)
}

/** Read a word that stands for itself. */
export const readWord = <T extends Target>(body: string, word: string, target: T): ReadTarget<T> | null =>
  body === word ? { ok: true, target } : null

const clip = (note: number): number => Math.max(0, Math.min(SEVEN_MAX, note))
const numbers = ({ low, high }: Interval): number[] =>
  Array.from({ length: Math.max(0, high - low + 1) }, (_, index) => low + index)

/** Keys that two hands hold down at once. */
const FINGERS = 10

/** What messages share that play one note, a span of keys or a zone. */
export const keys = {
  fresh: ({ isKeyboard }: FreshFor): Keys =>
    isKeyboard
      ? { kind: 'span', low: 36, high: 84, transpose: 0, octaveReach: 0 }
      : { kind: 'one', number: 'wanted' },
  numberOf: (held: Keys): number | null =>
    held.kind === 'one' && held.number !== 'wanted' ? held.number : null,
  /** As they are written: the keys that are struck. */
  written: (held: Keys): Interval | null => {
    if (held.kind !== 'one') return { low: held.low, high: held.high }
    return held.number === 'wanted' ? null : { low: held.number, high: held.number }
  },
  /** The lowest and highest note that they can play: transposed, octave buttons included. */
  range: (held: Keys): Interval | null => {
    const written = keys.written(held)
    if (held.kind === 'one' || written === null) return written
    const reach = held.octaveReach * 12
    return {
      low: clip(held.low + held.transpose - reach),
      high: clip(held.high + held.transpose + reach),
    }
  },
  /** What is played without the octave buttons, as a target. */
  sent: <K extends 'note' | 'polyPressure'>(held: Keys, kind: K) => {
    const range = keys.range(held.kind === 'one' ? held : { ...held, octaveReach: 0 })
    return range && { kind, ...range }
  },
  /** The keys of one member of a zone, as a plain span. */
  asSpan: ({ low, high, transpose, octaveReach }: Extract<Keys, { kind: 'zone' }>): Keys => ({
    kind: 'span',
    low,
    high,
    transpose,
    octaveReach,
  }),
  /** One of its keys alone, octave buttons at rest; null for a key that it does not have. */
  only: (held: Keys, key: number): Keys | null => {
    const written = keys.written(held)
    if (written === null || key < written.low || key > written.high) return null
    return held.kind === 'one' ? held : { ...held, low: key, high: key, octaveReach: 0 }
  },
  with: (held: Keys, { low, high }: Interval): Keys =>
    low === high
      ? { kind: 'one', number: low }
      : held.kind === 'one'
        ? { kind: 'span', low, high, transpose: 0, octaveReach: 0 }
        : { ...held, low, high },
  /** The note that a struck key plays. */
  played: (held: Keys, key: number): number =>
    held.kind === 'one' ? (held.number === 'wanted' ? key : held.number) : clip(key + held.transpose),
  /** How many sound at once. */
  atOnce: (held: Keys): number => (held.kind === 'one' ? 1 : FINGERS),
  channels: (held: Keys, channel: Channel): Channel[] =>
    held.kind === 'zone' ? memberChannels(held) : [channel],
  cells: (held: Keys, channel: Channel, kind: 'note' | 'polyPressure'): Cell[] => {
    const range = keys.range(held)
    if (range === null) return []
    return keys.channels(held, channel).flatMap((on) =>
      numbers(range).map((number) => ({
        kind,
        channel: on,
        number,
        role: 'main',
        part: 'whole',
        sent: ANY_VALUE,
      })),
    )
  },
  landings: (held: Keys, channel: Channel, kind: 'note' | 'polyPressure'): Landing[] => {
    const range = keys.range(held)
    if (range === null) return []
    return keys.channels(held, channel).map((on) => ({ channel: on, target: { kind, ...range } }))
  },
  print: (word: string, { low, high }: Interval): string =>
    `${word}${low === high ? `${low}` : `${low}-${high}`}`,
  read: <K extends 'note' | 'polyPressure'>(
    body: string,
    word: string,
    kind: K,
  ): ReadTarget<TargetOf<K>> | null => {
    const match = new RegExp(`^${word}(\\d+)(?:-(\\d+))?$`).exec(body)
    if (!match) return null
    const low = Number(match[1])
    const high = match[2] === undefined ? low : Number(match[2])
    for (const note of [low, high]) {
      if (!isWhole(note, 0, SEVEN_MAX)) return outOf('Note', 0, SEVEN_MAX, note)
    }
    if (low > high) return { ok: false, message: `A span runs upwards: write ${word}${high}-${low}.` }
    return { ok: true, target: { kind, low, high } as TargetOf<K> }
  },
}

/** Member channels of a per-note zone (MIDI Polyphonic Expression 1.0, section 2: next to its manager). */
export const memberChannels = ({ manager, members }: Extract<Keys, { kind: 'zone' }>): Channel[] =>
  Array.from({ length: members }, (_, index) => (manager === 1 ? 2 + index : 15 - index))
