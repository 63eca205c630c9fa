import { curveOf } from './curve'
import { settled, type MappedRange } from './span'

/** A position (0–1) of the control as a value of the parameter, before the parameter settles on a step. */
export function valueAt({ min, max, inverted, curve }: MappedRange, position: number): number {
  const share = curveOf(curve).at(inverted ? 1 - position : position)
  return min + share * (max - min)
}

/** The position (0–1) that gives a value between the mapping's ends. */
export function positionOf({ min, max, inverted, curve }: MappedRange, value: number): number {
  const position = curveOf(curve).back((value - min) / (max - min))
  return inverted ? 1 - position : position
}

/** What the parameter becomes when `sent` of 0–`top` arrives. */
export const valueFrom = (range: MappedRange, sent: number, top: number): number =>
  settled(range.span, valueAt(range, Math.min(1, sent / (range.rawTop ?? top))))
