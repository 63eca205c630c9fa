const HEX_DIGITS = 16
const half = (value: number): string => (value >>> 0).toString(16).padStart(HEX_DIGITS / 2, '0')

/**
 * A checksum of a text, as sixteen hexadecimal digits, to tell whether it is the same. It is two checksums of 32 bit (the first
 * is FNV-1a, the second also counts where a letter stands), not a proof against forgery.
 */
export function checksumOf(text: string): string {
  let [a, b] = [0x811c9dc5, 0xcbf29ce4]
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at)
    a = Math.imul(a ^ code, 0x01000193)
    b = Math.imul(b ^ (code + at), 0x01000193)
  }
  return half(a) + half(b)
}
