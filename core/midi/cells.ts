import type { Channel, Fourteen } from './ranges'

/** Kinds of cells. `nrpn` and `rpn` are numbered 0–16383, the rest 0–127 (pitch bend and channel pressure always 0). */
export const CELL_KINDS = [
  'cc',
  'note',
  'polyPressure',
  'program',
  'pitchBend',
  'channelPressure',
  'nrpn',
  'rpn',
] as const
export type CellKind = (typeof CELL_KINDS)[number]

/** One spot of the lattice as it goes over the wire. */
export interface CellAddress {
  kind: CellKind
  channel: Channel
  number: Fourteen
}

/**
 * What a message does in a cell: `main` is the spot that it means, a `carrier` helps it there (NRPN, RPN, bank
 * select), `channel-wide` acts on the whole channel, `repeatable` is harmless to have twice.
 */
export type Role = 'main' | 'carrier' | 'channel-wide' | 'repeatable'

/** Values from low to high, both included. */
export interface Interval {
  low: number
  high: number
}

export interface Cell extends CellAddress {
  role: Role
  /** Whether it is the whole of the value, or the MSB or LSB of a 14-bit pair. */
  part: 'whole' | 'msb' | 'lsb'
  /** The values that the gesture itself sends there; what letting go sends is not counted. */
  sent: readonly Interval[]
}

const KIND_INDEX = Object.fromEntries(CELL_KINDS.map((kind, index) => [kind, index])) as Readonly<
  Record<CellKind, number>
>
const CHANNEL_STRIDE = 16_384
const KIND_STRIDE = CHANNEL_STRIDE * 16

/** One number for a cell, unique over all kinds, channels and numbers. */
export const cellKey = ({ kind, channel, number }: CellAddress): number =>
  KIND_INDEX[kind] * KIND_STRIDE + (channel - 1) * CHANNEL_STRIDE + number

/** The cell that a key stands for. Inverse of `cellKey`; throws a RangeError for a number that is no key. */
export function cellOfKey(key: number): CellAddress {
  const kind = CELL_KINDS[Math.floor(key / KIND_STRIDE)]
  if (kind === undefined) throw new RangeError(`${key} is no cell.`)
  const within = key % KIND_STRIDE
  return { kind, channel: Math.floor(within / CHANNEL_STRIDE) + 1, number: within % CHANNEL_STRIDE }
}

/** Every value that a 7-bit message can send. */
export const ANY_VALUE: readonly Interval[] = [{ low: 0, high: 127 }]

/** A cell that takes any value. */
export const plainCell = (kind: CellKind, channel: Channel, number: number, role: Role): Cell => ({
  kind,
  channel,
  number,
  role,
  part: 'whole',
  sent: ANY_VALUE,
})

/** Controllers of a channel that help a message to where it means. */
export const carrierCells = (channel: Channel, numbers: readonly number[]): Cell[] =>
  numbers.map((number) => plainCell('cc', channel, number, 'carrier'))

const meet = (a: Interval, b: Interval): boolean => a.low <= b.high && b.low <= a.high

/** Do two messages send a value in common, by the gestures themselves (not by letting go)? */
export const valuesOverlap = (a: readonly Interval[], b: readonly Interval[]): boolean =>
  a.some((one) => b.some((other) => meet(one, other)))
