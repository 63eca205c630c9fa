import { writeMidi, type MidiEvent } from 'midi-file'

/** A message at a time, for a Standard MIDI File. */
export interface TimedMessage {
  /** ms from the beginning. */
  at: number
  /** One whole message or several, each with its status. */
  bytes: readonly number[]
}

/** Ticks a quarter note, at 120 quarter notes a minute: one tick is half a ms. */
const TICKS_PER_QUARTER = 1000
const TICKS_PER_MS = 2
const TEMPO_US = 500_000

const PITCH_MIDDLE = 8192

/** A message as the writer of files takes it. What a file has no event for goes into it as bytes. */
function eventOf(bytes: readonly number[], deltaTime: number): MidiEvent {
  const [status = 0, first = 0, second = 0] = bytes
  const channel = status & 0x0f
  switch (status & 0xf0) {
    case 0x80:
      return { deltaTime, type: 'noteOff', channel, noteNumber: first, velocity: second }
    case 0x90:
      // Velocity 0 stays a note on, as it is meant.
      return { deltaTime, type: 'noteOn', channel, noteNumber: first, velocity: second, byte9: true }
    case 0xa0:
      return { deltaTime, type: 'noteAftertouch', channel, noteNumber: first, amount: second }
    case 0xb0:
      return { deltaTime, type: 'controller', channel, controllerType: first, value: second }
    case 0xc0:
      return { deltaTime, type: 'programChange', channel, programNumber: first }
    case 0xd0:
      return { deltaTime, type: 'channelAftertouch', channel, amount: first }
    case 0xe0:
      return { deltaTime, type: 'pitchBend', channel, value: second * 128 + first - PITCH_MIDDLE }
  }
  // A SysEx begins after its F0; all else is an escape, which holds whole messages (Standard MIDI Files 1.0, "MTrk").
  return status === 0xf0
    ? ({ deltaTime, type: 'sysEx', data: bytes.slice(1) } as unknown as MidiEvent)
    : ({ deltaTime, type: 'endSysEx', data: [...bytes] } as unknown as MidiEvent)
}

/** Bytes of several messages, taken apart: each message starts at a status byte, and a SysEx ends with F7. */
function single(bytes: readonly number[]): number[][] {
  const found: number[][] = []
  for (const byte of bytes) {
    const open = found.at(-1)
    if (byte >= 0x80 && byte !== 0xf7) found.push([byte])
    else open?.push(byte)
  }
  return found
}

/** Text that a file may hold: ASCII; anything else as a question mark. */
const ascii = (text: string): string =>
  [...text].map((letter) => (letter.charCodeAt(0) < 0x80 ? letter : '?')).join('')

/** Messages of one sender, with its name. */
export interface NamedTrack {
  name: string
  messages: readonly TimedMessage[]
}

const TEMPO: MidiEvent = { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: TEMPO_US }

/** One track: its name in ASCII, then messages at their times, without running status, in the order of their times. */
function trackOf({ name, messages }: NamedTrack, before: readonly MidiEvent[] = []): MidiEvent[] {
  let tick = 0
  const events = messages
    .flatMap(({ at, bytes }) => single(bytes).map((each) => ({ at, bytes: each })))
    .toSorted((a, b) => a.at - b.at)
    .map(({ at, bytes }) => {
      const next = Math.round(at * TICKS_PER_MS)
      const event = eventOf(bytes, next - tick)
      tick = next
      return event
    })
  return [
    { deltaTime: 0, meta: true, type: 'trackName', text: ascii(name) },
    ...before,
    ...events,
    { deltaTime: 0, meta: true, type: 'endOfTrack' },
  ]
}

const fileOf = (format: 0 | 1, tracks: MidiEvent[][]): Uint8Array =>
  Uint8Array.from(
    writeMidi(
      { header: { format, numTracks: tracks.length, ticksPerBeat: TICKS_PER_QUARTER }, tracks },
      { running: false, useByte9ForNoteOff: false },
    ),
  )

/** A Standard MIDI File of format 0 with one track (Standard MIDI Files 1.0). */
export const writeSmf = (name: string, messages: readonly TimedMessage[]): Uint8Array =>
  fileOf(0, [trackOf({ name, messages }, [TEMPO])])

/** A Standard MIDI File of format 1 (same standard): a track with the name and tempo, then one for each sender. */
export const writeSmfTracks = (name: string, tracks: readonly NamedTrack[]): Uint8Array =>
  fileOf(1, [trackOf({ name, messages: [] }, [TEMPO]), ...tracks.map((track) => trackOf(track))])
