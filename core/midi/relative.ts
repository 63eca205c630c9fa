import type { RelativeEncoding } from './kinds/types'

/** The most clicks that one message can carry. */
export const MOST_CLICKS = 63

/**
 * The 7-bit value that says so many clicks (−63…63, positive upwards) in an encoding: two's complement, offset
 * binary (64 rests), or sign and magnitude (bit 6 is the sign). More clicks are sent as 63.
 */
export function encodeClicks(encoding: RelativeEncoding, clicks: number): number {
  const steps = Math.max(-MOST_CLICKS, Math.min(MOST_CLICKS, clicks))
  switch (encoding) {
    case 'twos-complement':
      return steps & 0x7f
    case 'offset-binary':
      return 64 + steps
    case 'sign-magnitude':
      return steps < 0 ? 0x40 | -steps : steps
  }
}

/** The clicks that a 7-bit value says. Inverse of `encodeClicks`. */
export function decodeClicks(encoding: RelativeEncoding, value: number): number {
  switch (encoding) {
    case 'twos-complement':
      return value < 64 ? value : value - 128
    case 'offset-binary':
      return value - 64
    case 'sign-magnitude':
      return value & 0x40 ? -(value & 0x3f) : value
  }
}
