import type { NamedTrack, TimedMessage } from './smf'

/** What a file holds, or why it is refused, with the place. */
export type SmfRead =
  { ok: true; name: string; tracks: readonly NamedTrack[] } | { ok: false; message: string }

export const SMF_LIMITS = { bytes: 16_000_000, messages: 500_000 } as const

/** A quarter note lasts so long until a tempo is set, in µs: 120 a minute. */
const FIRST_TEMPO_US = 500_000

/** Something that is wrong with a file, where it is found. */
class Fault extends Error {}

interface Cursor {
  data: Uint8Array
  at: number
  end: number
  /** Of what the reader is within, for its messages. */
  within: string
}

const refuse = ({ within }: Pick<Cursor, 'within'>, at: number, what: string): never => {
  throw new Fault(`${within} at byte ${at}: ${what}`)
}

function byte(cursor: Cursor): number {
  const value = cursor.at < cursor.end ? cursor.data[cursor.at] : undefined
  if (value === undefined) return refuse(cursor, cursor.at, 'it ends in the middle of something.')
  cursor.at++
  return value
}
const word = (cursor: Cursor): number => byte(cursor) * 256 + byte(cursor)
const long = (cursor: Cursor): number => word(cursor) * 65_536 + word(cursor)

/** A number of one to four bytes, seven bits each ("Variable-Length Quantity"). */
function quantity(cursor: Cursor): number {
  const from = cursor.at
  let value = 0
  for (let count = 0; count < 4; count++) {
    const next = byte(cursor)
    value = value * 128 + (next & 127)
    if (next < 128) return value
  }
  return refuse(cursor, from, 'a length or time has more than four bytes.')
}

function bytes(cursor: Cursor, count: number): Uint8Array {
  if (cursor.at + count > cursor.end)
    return refuse(cursor, cursor.at, 'it says that more bytes follow than there are.')
  cursor.at += count
  return cursor.data.subarray(cursor.at - count, cursor.at)
}

const latin = (text: Uint8Array): string => [...text].map((code) => String.fromCharCode(code)).join('')

/** At a tick: bytes to be sent, or a new tempo. */
type Event = { tick: number; bytes: readonly number[] } | { tick: number; tempoUs: number }

interface Track {
  name: string
  events: Event[]
}

const [SYSEX, ESCAPE, META] = [0xf0, 0xf7, 0xff]
const [META_NAME, META_END, META_TEMPO] = [0x03, 0x2f, 0x51]

function readTrack(cursor: Cursor, room: { messages: number }): Track {
  const track: Track = { name: '', events: [] }
  let tick = 0
  let running: number | null = null
  for (;;) {
    tick += quantity(cursor)
    const from = cursor.at
    if (room.messages-- <= 0)
      refuse(cursor, from, `there are more than ${SMF_LIMITS.messages} events; keep it in parts.`)
    const first = byte(cursor)
    if (first === META) {
      running = null
      const type = byte(cursor)
      const data = bytes(cursor, quantity(cursor))
      if (type === META_END) return track
      if (type === META_NAME && track.name === '') track.name = latin(data).trim()
      if (type === META_TEMPO) {
        const [a = 0, b = 0, c = 0] = data
        const tempoUs = a * 65_536 + b * 256 + c
        if (data.length !== 3 || tempoUs === 0) refuse(cursor, from, 'a tempo must be three bytes and not 0.')
        track.events.push({ tick, tempoUs })
      }
    } else if (first === SYSEX || first === ESCAPE) {
      running = null
      const data = bytes(cursor, quantity(cursor))
      track.events.push({ tick, bytes: first === SYSEX ? [SYSEX, ...data] : [...data] })
    } else if (first >= 0xf0) refuse(cursor, from, `a file has no events that begin with ${hex(first)}.`)
    else {
      const status: number =
        first >= 0x80 ? first : (running ?? refuse(cursor, from, 'a status byte is missing.'))
      const a = first >= 0x80 ? byte(cursor) : first
      const isShort = (status & 0xe0) === 0xc0
      const data = isShort ? [a] : [a, byte(cursor)]
      if (data.some((each) => each > 127)) refuse(cursor, from, 'a data byte is larger than 127.')
      running = status
      track.events.push({ tick, bytes: [status, ...data] })
    }
  }
}

const hex = (value: number): string => value.toString(16).toUpperCase().padStart(2, '0')

function readChunks(data: Uint8Array): { ticksPerQuarter: number; tracks: Track[] } {
  const cursor: Cursor = { data, at: 0, end: data.length, within: 'This file' }
  const chunk = (): { id: string; from: number; inside: Cursor } => {
    const from = cursor.at
    const id = latin(bytes(cursor, 4))
    const length = long(cursor)
    if (cursor.at + length > cursor.end)
      refuse(cursor, from, 'it is cut short: it says that more bytes follow than there are.')
    const inside = { ...cursor, end: cursor.at + length }
    cursor.at += length
    return { id, from, inside }
  }
  if (latin(data.subarray(0, 4)) !== 'MThd')
    refuse(cursor, 0, 'it is no Standard MIDI File, which begins with MThd.')
  const { inside: header } = chunk()
  const [format, count, division] = [word(header), word(header), word(header)]
  if (format > 1)
    refuse(cursor, 8, `it is of format ${format}; keep it as format 0 or 1, in which tracks play together.`)
  if (division >= 0x8000)
    refuse(cursor, 12, 'it counts time in frames of film; keep it with ticks of a quarter note.')
  if (division === 0) refuse(cursor, 12, 'a quarter note cannot have 0 ticks.')
  const tracks: Track[] = []
  const room = { messages: SMF_LIMITS.messages }
  while (cursor.at < cursor.end && tracks.length < count) {
    const { id, inside } = chunk()
    if (id === 'MTrk') tracks.push(readTrack({ ...inside, within: `Track ${tracks.length + 1}` }, room))
  }
  if (tracks.length < count)
    refuse(cursor, cursor.at, `it has ${tracks.length} tracks, but says that there are ${count}.`)
  if (tracks.length === 0) refuse(cursor, 10, 'it has no track.')
  return { ticksPerQuarter: division, tracks }
}

/** The ms of each event: ticks last as long as the tempo says that is set at the time, in whatever track. */
function timed(tracks: readonly Track[], ticksPerQuarter: number): NamedTrack[] {
  const tempos = tracks
    .flatMap(({ events }) => events.flatMap((event) => ('tempoUs' in event ? [event] : [])))
    .sort((a, b) => a.tick - b.tick)
  return tracks.map(({ name, events }) => {
    let next = 0
    let [tick, ms, tempoUs] = [0, 0, FIRST_TEMPO_US]
    const goTo = (until: number): void => {
      ms += ((until - tick) * tempoUs) / ticksPerQuarter / 1000
      tick = until
    }
    const messages = events.flatMap((event): TimedMessage[] => {
      if (!('bytes' in event)) return []
      for (let tempo = tempos[next]; tempo && tempo.tick <= event.tick; tempo = tempos[++next]) {
        goTo(tempo.tick)
        tempoUs = tempo.tempoUs
      }
      goTo(event.tick)
      return [{ at: ms, bytes: event.bytes }]
    })
    return { name, messages }
  })
}

/**
 * A Standard MIDI File of format 0 or 1 (Standard MIDI Files 1.0): the bytes of every message of every track, with its time in
 * ms from the beginning. Refused whole, with the track and the byte, where it is broken, too large, of another format, counts
 * time in frames, or holds nothing that is sent.
 */
export function readSmf(data: Uint8Array): SmfRead {
  if (data.length > SMF_LIMITS.bytes)
    return {
      ok: false,
      message: `This file is larger than ${SMF_LIMITS.bytes / 1_000_000} MB: keep it in parts.`,
    }
  try {
    const { ticksPerQuarter, tracks } = readChunks(data)
    const read = timed(tracks, ticksPerQuarter)
    const count = read.reduce((sum, { messages }) => sum + messages.length, 0)
    if (count === 0)
      return { ok: false, message: 'This file holds no message that is sent: there is nothing to play.' }
    return { ok: true, name: read[0]?.name ?? '', tracks: read.filter(({ messages }) => messages.length > 0) }
  } catch (error) {
    if (error instanceof Fault) return { ok: false, message: error.message }
    throw error
  }
}
