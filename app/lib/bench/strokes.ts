import type { LanePoint } from './tape'

/** What draws lines: a canvas, or a test. */
export interface Pen {
  moveTo: (x: number, y: number) => void
  lineTo: (x: number, y: number) => void
}

/** A pause this long lifts the pen, in ms. */
export const PAUSE_MS = 250
/** A dot is a line so long, in px. */
const DOT_PX = 0.01
/** The lowest blow is drawn so high, as a share. */
const LEAST_BLOW = 0.15

/**
 * Draw the points of a lane: movements as strokes, blows as lines from the bottom. `x` of a time and `y` of a level are in px.
 * Of the points that fall on one px across, only the highest, the lowest and the last are drawn.
 */
export function traceStroke(
  points: readonly LanePoint[],
  x: (at: number) => number,
  y: (level: number) => number,
  pen: Pen,
): void {
  let column = NaN
  let [low, high, last, lastAt] = [0, 0, 0, -Infinity]
  const flush = (): void => {
    if (Number.isNaN(column)) return
    if (high !== last && high !== low) pen.lineTo(column, y(high))
    if (low !== last) pen.lineTo(column, y(low))
    pen.lineTo(column, y(last))
  }
  for (const point of points) {
    if (point.isBlow) {
      if (point.value === 0) continue
      flush()
      column = NaN
      pen.moveTo(x(point.at), y(0))
      pen.lineTo(x(point.at), y(Math.max(LEAST_BLOW, point.level)))
      continue
    }
    const at = Math.round(x(point.at))
    if (Number.isNaN(column) || point.at - lastAt > PAUSE_MS) {
      flush()
      pen.moveTo(at - DOT_PX, y(point.level))
      ;[column, low, high] = [at, point.level, point.level]
    } else if (at !== column) {
      flush()
      ;[column, low, high] = [at, point.level, point.level]
    } else {
      low = Math.min(low, point.level)
      high = Math.max(high, point.level)
    }
    last = point.level
    lastAt = point.at
  }
  flush()
}

/** Notes that are held, as bars from blow to end. */
export function barsOf(points: readonly LanePoint[]): Array<{ from: number; to: number }> {
  const bars: Array<{ from: number; to: number }> = []
  let began: number | null = null
  for (const { isBlow, value, at } of points) {
    if (!isBlow) continue
    if (value > 0) began = at
    else if (began !== null) {
      bars.push({ from: began, to: at })
      began = null
    }
  }
  return bars
}

/** The lowest and highest value of a movement; null where it is none. */
export function reachOf(points: readonly LanePoint[]): { low: number; high: number } | null {
  let [low, high] = [Infinity, -Infinity]
  for (const { isBlow, value } of points) {
    if (isBlow) return null
    low = Math.min(low, value)
    high = Math.max(high, value)
  }
  return high > low ? { low, high } : null
}
