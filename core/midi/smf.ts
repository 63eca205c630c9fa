import { writeMidi, type MidiEvent } from 'midi-file'

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

/** A note or controller message, as the writer of files takes it. Throws a RangeError for any other. */
function eventOf([status = 0, first = 0, second = 0]: readonly number[], deltaTime: number): MidiEvent {
  const channel = status & 0x0f
  switch (status & 0xf0) {
    case 0x80:
      return { deltaTime, type: 'noteOff', channel, noteNumber: first, velocity: second }
    case 0x90:
      // Velocity 0 stays a note on, as it is meant.
      return { deltaTime, type: 'noteOn', channel, noteNumber: first, velocity: second, byte9: true }
    case 0xb0:
      return { deltaTime, type: 'controller', channel, controllerType: first, value: second }
    default:
      throw new RangeError(`A file of messages holds notes and controllers, not status ${status}.`)
  }
}

/** Text that a file may hold: ASCII; anything else as a question mark. */
const ascii = (text: string): string =>
  [...text].map((letter) => (letter.charCodeAt(0) < 0x80 ? letter : '?')).join('')

/**
 * A Standard MIDI File of format 0 with one track (Standard MIDI Files 1.0): its name in ASCII, then notes and controllers
 * at their times, without running status, in the order of their times. Throws a RangeError for other messages.
 */
export function writeSmf(name: string, messages: readonly TimedMessage[]): Uint8Array {
  let tick = 0
  const events = messages
    .toSorted((a, b) => a.at - b.at)
    .map(({ at, bytes }) => {
      const next = Math.round(at * TICKS_PER_MS)
      const event = eventOf(bytes, next - tick)
      tick = next
      return event
    })
  const track: MidiEvent[] = [
    { deltaTime: 0, meta: true, type: 'trackName', text: ascii(name) },
    { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: TEMPO_US },
    ...events,
    { deltaTime: 0, meta: true, type: 'endOfTrack' },
  ]
  return Uint8Array.from(
    writeMidi(
      { header: { format: 0, numTracks: 1, ticksPerBeat: TICKS_PER_QUARTER }, tracks: [track] },
      { running: false, useByte9ForNoteOff: false },
    ),
  )
}
