/** The messages of a .syx file, each with F0 and F7; or what is wrong with it, and at which byte (from 1). */
export type SyxRead = { ok: true; messages: number[][] } | { ok: false; byte: number; message: string }

/** The largest file that is read, in bytes. */
export const MOST_SYX_BYTES = 4_000_000

const START = 0xf0
const END = 0xf7

/** Split raw System Exclusive into its messages (MIDI 1.0 Detailed Specification, "System Exclusive Messages"). */
export function syxMessages(data: Uint8Array): SyxRead {
  if (data.length > MOST_SYX_BYTES)
    return {
      ok: false,
      byte: MOST_SYX_BYTES,
      message: `The file is larger than ${MOST_SYX_BYTES / 1e6} MB: no template is.`,
    }
  const messages: number[][] = []
  let begin: number | null = null
  for (let at = 0; at < data.length; at++) {
    const byte = data[at] ?? 0
    if (byte === START) {
      if (begin !== null)
        return {
          ok: false,
          byte: at + 1,
          message: 'A message begins before the one before it has ended: the file is cut, or damaged.',
        }
      begin = at
    } else if (byte === END) {
      if (begin === null) return { ok: false, byte: at + 1, message: 'F7 ends a message that never began.' }
      messages.push([...data.subarray(begin, at + 1)])
      begin = null
    } else if (begin === null)
      return { ok: false, byte: at + 1, message: 'This is no SysEx: a message begins with F0.' }
    else if (byte >= 0x80)
      return { ok: false, byte: at + 1, message: 'A byte of more than seven bits stands inside a message.' }
  }
  if (begin !== null)
    return { ok: false, byte: data.length, message: 'The last message is cut: it has no F7.' }
  return messages.length > 0 ? { ok: true, messages } : { ok: false, byte: 1, message: 'The file is empty.' }
}
