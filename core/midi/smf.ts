/** A message at a time, for a Standard MIDI File. */
export interface TimedMessage {
  /** ms from the beginning. */
  at: number
  bytes: readonly number[]
}

/** Ticks a quarter note, at 120 quarter notes a minute: one tick is half a ms. */
const TICKS_PER_QUARTER = 1000
const TICKS_PER_MS = 2
const TEMPO_US = 500_000

const big = (value: number, bytes: number): number[] =>
  Array.from({ length: bytes }, (_, index) => (value >>> (8 * (bytes - 1 - index))) & 0xff)

/** A number in groups of seven bits, all but the last with the eighth bit set. */
function variable(value: number): number[] {
  const groups = [value & 0x7f]
  for (let rest = value >>> 7; rest > 0; rest >>>= 7) groups.unshift((rest & 0x7f) | 0x80)
  return groups
}

const text = (word: string): number[] => [...word].map((letter) => letter.charCodeAt(0))
const chunk = (type: string, data: readonly number[]): number[] => [
  ...text(type),
  ...big(data.length, 4),
  ...data,
]

/**
 * A Standard MIDI File of format 0 with one track (Standard MIDI Files 1.0): its name in ASCII, then channel messages of two or
 * three bytes at their times, without running status. Messages are put in the order of their times.
 */
export function writeSmf(name: string, messages: readonly TimedMessage[]): Uint8Array {
  const title = [...name].map((letter) => (letter.charCodeAt(0) < 0x80 ? letter.charCodeAt(0) : 0x3f))
  const events: number[] = [
    ...[0, 0xff, 0x03, ...variable(title.length), ...title],
    ...[0, 0xff, 0x51, 3, ...big(TEMPO_US, 3)],
  ]
  let tick = 0
  for (const { at, bytes } of [...messages].sort((a, b) => a.at - b.at)) {
    const next = Math.round(at * TICKS_PER_MS)
    events.push(...variable(next - tick), ...bytes)
    tick = next
  }
  events.push(0, 0xff, 0x2f, 0)
  return Uint8Array.from([
    ...chunk('MThd', [...big(0, 2), ...big(1, 2), ...big(TICKS_PER_QUARTER, 2)]),
    ...chunk('MTrk', events),
  ])
}
