/** One value that was heard of a sender. */
export interface Point {
  /** ms. */
  at: number
  /** 0–`top` of its sender; of a note its velocity, 0 when it ends. */
  value: number
  /** What tells one act from another: of a note whether it begins (1) or ends (0), else the value. */
  mark: number
}

/**
 * What was heard of one sender, oldest first. `points` is only ever added to: `from` and `to` say which of them count, so that
 * a trail before goes on seeing what it saw.
 */
export interface Trail {
  points: readonly Point[]
  from: number
  to: number
  /** How many were heard in all, also those that are too old to count. */
  heard: number
}

/** So many points count: more tell nothing new of what a sender is. */
export const MOST_POINTS = 1024
const SPARE = 1024

export const EMPTY_TRAIL: Trail = { points: [], from: 0, to: 0, heard: 0 }

/** The trail with one more point. */
export function withPoint(trail: Trail, point: Point): Trail {
  const isWhole = trail.points.length === trail.to && trail.to > 0
  let { from, to } = trail
  let points = isWhole ? (trail.points as Point[]) : trail.points.slice(from, to)
  if (!isWhole) [from, to] = [0, points.length]
  points.push(point)
  to++
  if (to - from > MOST_POINTS) from = to - MOST_POINTS
  if (from > SPARE) {
    points = points.slice(from)
    to -= from
    from = 0
  }
  return { points, from, to, heard: trail.heard + 1 }
}

/** The trail without the point that came last, which is said more exactly. */
export const withoutLast = (trail: Trail): Trail =>
  trail.to > trail.from ? { ...trail, to: trail.to - 1, heard: trail.heard - 1 } : trail

/** The points that count. */
export const pointsOf = ({ points, from, to }: Trail): readonly Point[] => points.slice(from, to)

/** The share of points that have one of others within so many ms; both are in the order of their times. */
export function shareTogether(points: readonly Point[], others: readonly Point[], ms: number): number {
  let next = 0
  let together = 0
  for (const { at } of points) {
    while ((others[next]?.at ?? Infinity) < at - ms) next++
    if ((others[next]?.at ?? Infinity) <= at + ms) together++
  }
  return points.length === 0 ? 0 : together / points.length
}
