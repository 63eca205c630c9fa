import { decodeWire, endWire, WIRE_FAULT_WORDS, WIRE_START } from '../../midi/bytes'

/** The messages of a .syx file, each with F0 and F7; or what is wrong with it, and at which byte (from 1). */
export type SyxRead = { ok: true; messages: number[][] } | { ok: false; byte: number; message: string }

/** The largest file that is read, in bytes. */
export const MOST_SYX_BYTES = 4_000_000

const SYSEX = 0xf0

/** Split raw System Exclusive into its messages (MIDI 1.0 Detailed Specification, "System Exclusive Messages"). Refused whole. */
export function syxMessages(data: Uint8Array): SyxRead {
  if (data.length > MOST_SYX_BYTES)
    return {
      ok: false,
      byte: MOST_SYX_BYTES,
      message: `The file is larger than ${MOST_SYX_BYTES / 1e6} MB: no template is.`,
    }
  const { state, events } = decodeWire(WIRE_START, data, 0)
  const messages: number[][] = []
  let byte = 1
  for (const event of events) {
    if (event.kind === 'fault')
      return { ok: false, byte: event.place + 1, message: `Here ${WIRE_FAULT_WORDS[event.fault]}.` }
    if (event.bytes[0] !== SYSEX)
      return {
        ok: false,
        byte,
        message: 'Something other than SysEx stands here: this is no file of templates alone.',
      }
    messages.push([...event.bytes])
    byte += event.bytes.length
  }
  const open = endWire(state, 0)
  if (open) return { ok: false, byte: open.place + 1, message: `Here ${WIRE_FAULT_WORDS[open.fault]}.` }
  return messages.length > 0 ? { ok: true, messages } : { ok: false, byte: 1, message: 'The file is empty.' }
}
