import { FOURTEEN_MAX, SEVEN_MAX } from './ranges'
import type { Behaviour, RelativeEncoding } from './kinds/types'

/** What a control sends over its whole movement. Values are 0–`top`. */
export type Travel =
  /** Values passed through one after the other, from one end of the movement to the other. */
  | { kind: 'sweep'; count: number; at: (index: number) => number; top: number; turns: number | null }
  /** A few values, each sent by a press or release. */
  | { kind: 'points'; values: readonly number[]; top: number; isKept: boolean }
  /** So much more or less at each click. */
  | {
      kind: 'clicks'
      encoding: RelativeEncoding | 'increments'
      acceleration: 'none' | 'gentle' | 'strong'
      clicksPerTurn: number | null
    }
  /** A note, struck harder or softer. */
  | { kind: 'strike'; low: number; high: number }
  /** Something that happens, without a value. */
  | { kind: 'signal' }
  | { kind: 'nothing' }

/** Does what a control sends depend on what it sent last: one value now, another at the next press? */
export const keepsState = (travel: Travel): boolean =>
  travel.kind === 'points' && travel.isKept && new Set(travel.values).size > 1

/** The ends of a range; low above high is the other way round. */
export interface Ends {
  low: number
  high: number
}

/** Every value from one end to the other; `turns` of the control for all of it, where its message says so. */
export function sweep({ low, high }: Ends, top: number, turns: number | null = null): Travel {
  const direction = Math.sign(high - low)
  return {
    kind: 'sweep',
    count: Math.abs(high - low) + 1,
    at: (index) => low + direction * index,
    top,
    turns,
  }
}

/** Of a 14-bit range only every 128th value leaves, because the LSB is not sent. */
export function coarseSweep({ low, high }: Ends, turns: number | null = null): Travel {
  const [first, last] = [low >> 7, high >> 7]
  const direction = Math.sign(last - first)
  return {
    kind: 'sweep',
    count: Math.abs(last - first) + 1,
    at: (index) => (first + direction * index) << 7,
    top: FOURTEEN_MAX - SEVEN_MAX,
    turns,
  }
}

/** A 7-bit range in `count` even steps. */
export function steppedSweep({ low, high }: Ends, count: number, turns: number | null): Travel {
  const at = (index: number): number => Math.round(low + ((high - low) * index) / (count - 1))
  return { kind: 'sweep', count, at, top: SEVEN_MAX, turns }
}

/** How far a control is turned for the whole range, as its behaviour says; null where it says nothing. */
export const turnsOf = (behaviour: Behaviour): number | null =>
  behaviour.kind === 'absolute' ? behaviour.turns : null

/** What a behaviour makes of a range, or null where the control sweeps through it. */
export function behavedTravel(
  behaviour: Behaviour,
  range: Ends,
  top: number,
  release: number,
  clicksPerTurn: number | null,
): Travel | null {
  switch (behaviour.kind) {
    case 'absolute':
    case 'latch':
      return null
    case 'relative':
      return {
        kind: 'clicks',
        encoding: behaviour.encoding,
        acceleration: behaviour.acceleration,
        clicksPerTurn,
      }
    case 'momentary':
      return { kind: 'points', values: [release, range.high], top, isKept: false }
    case 'toggle':
      return { kind: 'points', values: [range.low, range.high], top, isKept: true }
    case 'trigger':
      return { kind: 'points', values: [range.high], top, isKept: false }
    case 'list':
      return { kind: 'points', values: behaviour.values, top, isKept: true }
  }
}

/** Every value of a sweep, in order. */
export const valuesOf = ({ count, at }: Extract<Travel, { kind: 'sweep' }>): number[] =>
  Array.from({ length: count }, (_, index) => at(index))
