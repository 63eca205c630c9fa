/** A MIDI channel as people count it: 1–16. Only byte encoding uses 0–15. */
export type Channel = number

/** A seven-bit number or value: 0–127. */
export type Seven = number

/** A fourteen-bit number or value: 0–16383. */
export type Fourteen = number

/** Every channel, 1–16. */
export const CHANNELS: readonly Channel[] = Array.from({ length: 16 }, (_, index) => index + 1)

export const SEVEN_MAX = 127
export const FOURTEEN_MAX = 16383

/** Is `value` a whole number in `low`–`high`, both included? */
export const isWhole = (value: number, low: number, high: number): boolean =>
  Number.isInteger(value) && value >= low && value <= high
