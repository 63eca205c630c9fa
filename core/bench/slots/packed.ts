/** Seven bytes travel as eight, the first of which holds their highest bits, lowest bit first. */
const GROUP = 7

/** Eight-bit bytes as bytes of seven bits, as SysEx carries them. */
export function packed(bytes: Uint8Array): number[] {
  const out: number[] = []
  for (let at = 0; at < bytes.length; at += GROUP) {
    const group = [...bytes.subarray(at, at + GROUP)]
    out.push(group.reduce((high, byte, index) => high | ((byte >> 7) << index), 0))
    out.push(...group.map((byte) => byte & 0x7f))
  }
  return out
}

/** The inverse of `packed`. A lone byte of highest bits at the end stands for nothing. */
export function unpacked(bytes: readonly number[]): Uint8Array {
  const out: number[] = []
  for (let at = 0; at < bytes.length; at += GROUP + 1) {
    const [high = 0, ...group] = bytes.slice(at, at + GROUP + 1)
    group.forEach((byte, index) => out.push(byte | (((high >> index) & 1) << 7)))
  }
  return new Uint8Array(out)
}

/** The checksum of data bytes: with it their sum is a multiple of 128. */
export const sumToZero = (bytes: readonly number[]): number =>
  (128 - (bytes.reduce((sum, byte) => sum + byte, 0) & 127)) & 127
