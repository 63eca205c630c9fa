import { mappingsOf, placeKey, placeRef, type Mapping, type Place, type Rig } from '../rig'
import { resolveMappings } from './resolved'

/** Is a mapping served by what another layer of its control sends, and not by what is sent at this place? */
export function isServedElsewhere(rig: Rig, mapping: Mapping, place: Place): boolean {
  const meeting = resolveMappings(rig, [mapping])[0]?.meeting ?? []
  const here = placeKey(place)
  return meeting.length > 0 && !meeting.some((sender) => placeKey(sender.place) === here)
}

/** What a control moves, or is to move, by what it sends at a place. */
export const movedAt = (rig: Rig, place: Place): readonly Mapping[] =>
  mappingsOf(rig, placeRef(place)).filter((mapping) => !isServedElsewhere(rig, mapping, place))
