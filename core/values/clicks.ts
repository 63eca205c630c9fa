import type { Destination, Parameter } from '../rig'
import { spanOf, stepSize, type MappedRange } from './span'
import type { Travel } from './travel'

/**
 * How far one click of an encoder moves a parameter, by its destination's step rule; null where the rule asks
 * for something that the parameter does not say.
 */
export function clickSize(
  rule: Destination['stepRule'],
  range: MappedRange,
  parameter: Parameter,
): number | null {
  switch (rule.kind) {
    case 'fraction':
      return rule.of * (range.max - range.min)
    case 'native':
      return stepSize(spanOf(parameter))
    case 'per-parameter':
      return parameter.nativeStep ?? stepSize(spanOf(parameter))
  }
}

/** Clicks from one end of a mapping to the other, turned slowly. */
export const clicksForSweep = ({ min, max }: MappedRange, click: number): number =>
  Math.ceil((max - min) / click - 1e-9)

/**
 * How far a control has to be turned for a full sweep, in turns: as its message says, or from its clicks. Null
 * where it is not turned, or where nothing says how many clicks a turn has.
 */
export function turnsForSweep(
  travel: Travel,
  range: MappedRange,
  click: number | null,
  clicksPerTurn: number | null,
): number | null {
  switch (travel.kind) {
    case 'sweep':
      if (travel.turns !== null) return travel.turns
      return clicksPerTurn === null ? null : (travel.count - 1) / clicksPerTurn
    case 'clicks':
      if (click === null || travel.clicksPerTurn === null) return null
      return clicksForSweep(range, click) / travel.clicksPerTurn
    default:
      return null
  }
}
