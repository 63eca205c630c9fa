import type { Control, Destination, Mapping, Message, Parameter } from '../rig'
import {
  clickSize,
  clicksForSweep,
  coverageOf,
  mappedRange,
  travelOf,
  turnsForSweep,
  type Coverage,
  type MappedRange,
  type Travel,
} from '../values'

/** How a control moves a parameter: what arrives, what it makes of it, and how finely. */
export interface MappingFacts {
  range: MappedRange
  travel: Travel
  /** What of the parameter is reached; null for clicks, notes and what has no value. */
  coverage: Coverage | null
  /** How far one click moves it; null where nothing is clicked, or nothing says how far. */
  click: number | null
  clicks: number | null
  turns: number | null
  /** What one step of the control is of the mapped range; null where that does not depend on the range. */
  share: number | null
}

function shareOf(travel: Travel, range: MappedRange, { stepRule }: Destination): number | null {
  if (range.curve !== 'linear') return null
  switch (travel.kind) {
    case 'sweep':
      return travel.count < 2 ? null : Math.abs(travel.at(1) - travel.at(0)) / (range.rawTop ?? travel.top)
    case 'clicks':
      return stepRule.kind === 'fraction' ? stepRule.of : null
    default:
      return null
  }
}

/** What a message of a control does to a parameter by a mapping. */
export function mappingFacts(
  mapping: Mapping,
  parameter: Parameter,
  destination: Destination,
  message: Message,
  control: Pick<Control, 'detentsPerTurn'>,
): MappingFacts {
  const range = mappedRange(mapping, parameter)
  const travel = travelOf(message, control)
  const click = travel.kind === 'clicks' ? clickSize(destination.stepRule, range, parameter) : null
  return {
    range,
    travel,
    coverage: travel.kind === 'sweep' || travel.kind === 'points' ? coverageOf(travel, range) : null,
    click,
    clicks: click === null ? null : clicksForSweep(range, click),
    turns: turnsForSweep(travel, range, click, control.detentsPerTurn),
    share: shareOf(travel, range, destination),
  }
}
