import type { Mapping } from '../rig'

export type Takeover = Mapping['takeover']

/** Where control and parameter stand, both as shares (0–1) of their ways. */
export interface TakeoverPoint {
  control: number
  parameter: number
}

/** A gradual takeover never moves the parameter more than this many times as far as the control. */
export const MOST_GAIN = 3

/** One movement of the control to `next`. */
function moved(kind: Takeover, { control, parameter }: TakeoverPoint, next: number): TakeoverPoint {
  switch (kind) {
    case 'at-once':
      return { control: next, parameter: next }
    case 'when-met': {
      const isMet = (parameter - control) * (parameter - next) <= 0
      return { control: next, parameter: isMet ? next : parameter }
    }
    case 'gradual':
      return { control: next, parameter: approached(control, parameter, next) }
  }
}

/** The way that is left to both decides how fast the parameter moves, so that they meet at the end at the latest. */
function approached(control: number, parameter: number, next: number): number {
  if (next === control) return parameter
  const isRising = next > control
  const gain = isRising ? (1 - parameter) / (1 - control) : parameter / control
  return Math.min(1, Math.max(0, parameter + Math.min(gain, MOST_GAIN) * (next - control)))
}

/**
 * How the parameter follows a control that goes through `positions` (0–1 each), from where both stood. The
 * first point is the start. Once control and parameter agree they stay together.
 */
export function followed(
  kind: Takeover,
  start: TakeoverPoint,
  positions: readonly number[],
): TakeoverPoint[] {
  const points = [start]
  let at = start
  for (const next of positions) {
    at = moved(kind, at, next)
    points.push(at)
  }
  return points
}

/** From where a control stands up to its end, then down to its other: the positions on the way, `steps` a whole way. */
export function upThenDown(from: number, steps = 64): number[] {
  const positions: number[] = []
  for (let at = from + 1 / steps; at < 1; at += 1 / steps) positions.push(at)
  positions.push(1)
  for (let index = steps - 1; index >= 0; index--) positions.push(index / steps)
  return positions
}
