import type { MessageOf } from './types'

type Bytes = MessageOf<'sysex'>['bytes']
const PLACES = ['value', 'value-high', 'value-low', 'device'] as const

/** The bytes between F0 and F7 in writing: hexadecimal, with words where value or device go. */
export const printSysex = (bytes: Bytes): string =>
  bytes
    .map((byte) => (typeof byte === 'number' ? byte.toString(16).toUpperCase().padStart(2, '0') : byte))
    .join(' ')

/** Read such writing; F0 and F7 may be given. Gives the bytes, or a sentence naming the word that is wrong. */
export function parseSysex(text: string): { ok: true; bytes: Bytes } | { ok: false; message: string } {
  const bytes: Bytes = []
  for (const word of text
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean)) {
    if (/^f[07]$/i.test(word)) continue
    const place = PLACES.find((name) => name === word.toLowerCase())
    if (place) bytes.push(place)
    else if (/^[0-7]?[0-9a-f]$/i.test(word)) bytes.push(Number.parseInt(word, 16))
    else return { ok: false, message: `“${word}” is no byte: use 00 to 7F, or ${PLACES.join(', ')}.` }
  }
  return { ok: true, bytes }
}
