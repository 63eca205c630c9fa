import { unzlibSync } from 'fflate'

const HEAD = 44
const ENTRY = 20
const SFNT_HEAD = 12
const SFNT_ENTRY = 16

/**
 * A font in WOFF as the font that is packed in it (WOFF File Format 1.0, section 4 and 5), which PDF can embed. Throws a
 * RangeError for what is no WOFF.
 */
export function unpackWoff(woff: Uint8Array): Uint8Array {
  const from = new DataView(woff.buffer, woff.byteOffset, woff.byteLength)
  if (woff.length < HEAD || from.getUint32(0) !== 0x774f4646) throw new RangeError('This is no font in WOFF.')
  const count = from.getUint16(12)
  const tables = Array.from({ length: count }, (_, index) => {
    const at = HEAD + index * ENTRY
    const [offset, packed, length] = [from.getUint32(at + 4), from.getUint32(at + 8), from.getUint32(at + 12)]
    const raw = woff.subarray(offset, offset + packed)
    return {
      tag: from.getUint32(at),
      checksum: from.getUint32(at + 16),
      data: packed < length ? unzlibSync(raw) : raw,
    }
  })
  const padded = (length: number): number => (length + 3) & ~3
  const start = SFNT_HEAD + count * SFNT_ENTRY
  const font = new Uint8Array(tables.reduce((size, { data }) => size + padded(data.length), start))
  const to = new DataView(font.buffer)
  const power = Math.floor(Math.log2(count))
  to.setUint32(0, from.getUint32(4))
  to.setUint16(4, count)
  to.setUint16(6, 2 ** power * 16)
  to.setUint16(8, power)
  to.setUint16(10, count * 16 - 2 ** power * 16)
  let offset = start
  tables.forEach(({ tag, checksum, data }, index) => {
    const at = SFNT_HEAD + index * SFNT_ENTRY
    to.setUint32(at, tag)
    to.setUint32(at + 4, checksum)
    to.setUint32(at + 8, offset)
    to.setUint32(at + 12, data.length)
    font.set(data, offset)
    offset += padded(data.length)
  })
  return font
}
