import {
  channelOf,
  mappingsOf,
  placeRef,
  programmedAt,
  rigIndex,
  type Mapping,
  type Place,
  type Rig,
} from '../rig'
import { expectedOf, mappingParameter, mappingState, meetsExpected } from './agreement'
import { arrivedAs } from './arrival'

/** Is a mapping served by what another layer of its control sends, and not by what is sent at this place? */
export function isServedElsewhere(rig: Rig, mapping: Mapping, place: Place): boolean {
  if (mappingState(rig, mapping).agreement !== 'agrees') return false
  const owner = rigIndex(rig).controllers.get(place.controller)
  const expected = expectedOf(mapping, mappingParameter(rig, mapping)?.parameter ?? null)
  const messages = programmedAt(rig, place)?.assignment.messages ?? []
  return !messages.some(
    (message) =>
      owner !== undefined &&
      expected !== null &&
      arrivedAs(rig, owner, message, mapping.destination).some((arrived) =>
        meetsExpected(arrived, channelOf(arrived, owner.homeChannel), expected),
      ),
  )
}

/** What a control moves, or is to move, by what it sends at a place. */
export const movedAt = (rig: Rig, place: Place): readonly Mapping[] =>
  mappingsOf(rig, placeRef(place)).filter((mapping) => !isServedElsewhere(rig, mapping, place))
