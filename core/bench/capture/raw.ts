import { PAIR_DISTANCE } from '../../midi'
import { decodeWire, endWire, WIRE_FAULT_WORDS, WIRE_START } from '../../midi/bytes'
import type { TimedMessage } from '../../midi/smf'
import { CAPTURE_LIMITS } from './limits'
import type { CaptureRead } from './read'

/** Bytes have no times: messages are taken to be so far apart, in ms, that nothing is read out of their rhythm. */
export const RAW_APART_MS = 60
const CONTROL_CHANGE = 0xb0
const REAL_TIME = 0xf8
/** What chooses a parameter or a bank, or is a half of a value, comes together with the next message. */
const CARRIERS: ReadonlySet<number> = new Set([0, 32, 6, 38, 98, 99, 100, 101])

/** Do two messages belong together, so that no time lies between them? */
function isTogether(
  before: readonly number[] | undefined,
  [status = 0, number = 0]: readonly number[],
): boolean {
  if (status >= REAL_TIME) return true
  if (!before || (status & 0xf0) !== CONTROL_CHANGE || before[0] !== status) return false
  const last = before[1] ?? 0
  const isPair = Math.min(last, number) < PAIR_DISTANCE && Math.abs(last - number) === PAIR_DISTANCE
  return isPair || (CARRIERS.has(last) && CARRIERS.has(number))
}

/** The bytes of a stream as they were sent, one message after the other. Refused whole with the place of the first fault. */
export function readRaw(data: Uint8Array): CaptureRead {
  const { state, events } = decodeWire(WIRE_START, data, 0)
  const fault = events.find((event) => event.kind === 'fault') ?? endWire(state, 0)
  if (fault)
    return {
      ok: false,
      message: `At byte ${fault.place}, ${WIRE_FAULT_WORDS[fault.fault]}: these are not the bytes of a MIDI stream, or part of it is missing.`,
    }
  if (events.length > CAPTURE_LIMITS.messages)
    return {
      ok: false,
      message: `It holds ${events.length.toLocaleString('en')} messages; a capture has ${CAPTURE_LIMITS.messages.toLocaleString('en')} at most.`,
    }
  let at = 0
  let before: readonly number[] | undefined
  const messages = events.map(({ bytes }): TimedMessage => {
    if (before && !isTogether(before, bytes)) at += RAW_APART_MS
    before = bytes
    return { at, bytes: [...bytes] }
  })
  return { ok: true, tracks: [{ name: '', messages }], isTimed: false }
}
