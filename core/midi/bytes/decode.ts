/** One whole message of a MIDI 1.0 byte stream. */
export interface WireMessage {
  kind: 'message'
  /** ms. */
  at: number
  /** Its bytes with the status written out, whatever running status left away; a SysEx from F0 to F7. */
  bytes: readonly number[]
}

/** Something that is no message, with the place of its first byte in the stream, counted from 0. */
export interface WireFault {
  kind: 'fault'
  at: number
  place: number
  fault: 'stray-data' | 'cut-short' | 'undefined-status' | 'sysex-unended' | 'sysex-too-long' | 'not-a-byte'
  bytes: readonly number[]
}

export type WireEvent = WireMessage | WireFault

/** How far a stream has been read. Plain data; the next bytes are read with it. */
export interface WireState {
  /** The place of the next byte in the stream, counted from 0. */
  place: number
  /** The status that data bytes are taken for; null after a system message, and at the start. */
  running: number | null
  /** The bytes of a message that is not whole yet, its status first; with the place of its first byte. */
  open: { bytes: readonly number[]; place: number } | null
  /** Is a SysEx being passed over that was longer than what is kept? */
  isOverlong: boolean
}

export const WIRE_START: WireState = { place: 0, running: null, open: null, isOverlong: false }

/** A SysEx may have so many bytes, F0 and F7 included; what is longer is cut off and said. */
export const SYSEX_MOST = 65_536

const SYSEX = 0xf0
const SYSEX_END = 0xf7

/**
 * Data bytes of a message by its status (MIDI 1.0 Detailed Specification, "Data Format" and "Summary of Status Bytes"); null
 * for F4 and F5, which are undefined, and for F0 and F7, which have no fixed length.
 */
function lengthOf(status: number): number | null {
  if (status < SYSEX) return (status & 0xe0) === 0xc0 ? 1 : 2
  switch (status) {
    case 0xf1:
    case 0xf3:
      return 1
    case 0xf2:
      return 2
    case 0xf6:
      return 0
    default:
      return null
  }
}

const isRealTime = (byte: number): boolean => byte >= 0xf8
const isUndefinedRealTime = (byte: number): boolean => byte === 0xf9 || byte === 0xfd

/**
 * Read bytes of a MIDI 1.0 stream that arrived at one time, in ms, from where an earlier call left off. Every whole message and
 * every fault becomes an event, in order; nothing is thrown, whatever the bytes are. Running status is written out; real-time
 * bytes are read wherever they stand, inside a SysEx too (MIDI 1.0 Detailed Specification, "Data Format", "Running Status",
 * "System Real Time Messages" and "System Exclusive Messages").
 */
export function decodeWire(
  state: WireState,
  bytes: ArrayLike<number>,
  at: number,
): { state: WireState; events: WireEvent[] } {
  const events: WireEvent[] = []
  let { place, running, isOverlong } = state
  let open: number[] | null = state.open ? [...state.open.bytes] : null
  let openedAt = state.open?.place ?? 0

  const fault = (kind: WireFault['fault'], from: number, what: readonly number[]): void => {
    events.push({ kind: 'fault', at, place: from, fault: kind, bytes: what })
  }
  /** A status byte ends what is open: a SysEx without its end, or a message cut short. */
  const breakOff = (): void => {
    if (open === null) return
    if (open[0] === SYSEX) {
      if (!isOverlong) fault('sysex-unended', openedAt, open)
    } else fault('cut-short', openedAt, open)
    open = null
    isOverlong = false
  }
  const finish = (message: readonly number[]): void => {
    events.push({ kind: 'message', at, bytes: message })
  }

  for (let index = 0; index < bytes.length; index++, place++) {
    const byte = bytes[index] ?? -1
    if (!Number.isInteger(byte) || byte < 0 || byte > 0xff) {
      fault('not-a-byte', place, [])
      continue
    }
    if (isRealTime(byte)) {
      if (isUndefinedRealTime(byte)) fault('undefined-status', place, [byte])
      else finish([byte])
      continue
    }
    if (byte < 0x80) {
      if (open?.[0] === SYSEX) {
        if (isOverlong) continue
        open.push(byte)
        if (open.length >= SYSEX_MOST) {
          fault('sysex-too-long', openedAt, open.slice(0, 16))
          open = [SYSEX]
          isOverlong = true
        }
        continue
      }
      if (open === null) {
        if (running === null) {
          fault('stray-data', place, [byte])
          continue
        }
        open = [running]
        openedAt = place
      }
      open.push(byte)
      if (open.length - 1 === lengthOf(open[0] ?? 0)) {
        finish(open)
        open = null
      }
      continue
    }
    if (byte === SYSEX_END) {
      if (open?.[0] === SYSEX) {
        if (!isOverlong) finish([...open, SYSEX_END])
        open = null
        isOverlong = false
      } else {
        breakOff()
        fault('undefined-status', place, [byte])
      }
      running = null
      continue
    }
    breakOff()
    running = byte < SYSEX ? byte : null
    const length = lengthOf(byte)
    if (byte !== SYSEX && length === null) fault('undefined-status', place, [byte])
    else if (length === 0) finish([byte])
    else {
      open = [byte]
      openedAt = place
    }
  }
  return {
    state: { place, running, open: open === null ? null : { bytes: open, place: openedAt }, isOverlong },
    events,
  }
}

/** What is left open when a stream ends, as a fault; null where nothing is. */
export function endWire({ open, isOverlong }: WireState, at: number): WireFault | null {
  if (open === null || isOverlong) return null
  const fault = open.bytes[0] === SYSEX ? 'sysex-unended' : 'cut-short'
  return { kind: 'fault', at, place: open.place, fault, bytes: open.bytes }
}
