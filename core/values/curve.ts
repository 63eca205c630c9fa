import type { Mapping } from '../rig'

export type CurveKind = Mapping['curve']

/** A way from a position (0–1) to a share of a range (0–1): rising throughout, 0 to 0 and 1 to 1. */
export interface Curve {
  at: (position: number) => number
  /** The position that gives a share. */
  back: (share: number) => number
}

/** How much steeper an exponential curve is at its end than at its start. */
const STEEPNESS = 16

const grow = (position: number): number => (STEEPNESS ** position - 1) / (STEEPNESS - 1)
const shrink = (share: number): number => Math.log(1 + share * (STEEPNESS - 1)) / Math.log(STEEPNESS)

const CURVES: Readonly<Record<CurveKind, Curve>> = {
  linear: { at: (position) => position, back: (share) => share },
  exponential: { at: grow, back: shrink },
  logarithmic: { at: shrink, back: grow },
  s: {
    at: (position) => position * position * (3 - 2 * position),
    back: (share) => 0.5 - Math.sin(Math.asin(1 - 2 * share) / 3),
  },
}

/** The curve of a kind. Exponential is fine at the low end, logarithmic at the high end, s at both. */
export const curveOf = (kind: CurveKind): Curve => CURVES[kind]
