const WIDE_BITS = 32

/**
 * A value of so many bits as one of 32, by which property exchange says values: the lowest stays the lowest, the middle the middle, the
 * highest the highest (MIDI 2.0 Bit Scaling and Resolution, min-center-max).
 */
export function widened(value: number, bits: number): number {
  const shift = WIDE_BITS - bits
  const shifted = value * 2 ** shift
  const centre = 2 ** (bits - 1)
  if (value <= centre) return shifted
  const repeatBits = bits - 1
  let repeat = BigInt(value) & ((1n << BigInt(repeatBits)) - 1n)
  repeat = shift > repeatBits ? repeat << BigInt(shift - repeatBits) : repeat >> BigInt(repeatBits - shift)
  let wide = BigInt(shifted)
  while (repeat !== 0n) {
    wide |= repeat
    repeat >>= BigInt(repeatBits)
  }
  return Number(wide)
}

/** A value of 32 bits as one of so many: what is below is cut off (the same, downwards). */
export const narrowed = (value: number, bits: number): number => Math.floor(value / 2 ** (WIDE_BITS - bits))
