import { findGesture, modelOf, parameterName, rigIndex, type Mapping, type Rig } from '../rig'
import { mappingParameter, mappingState } from './agreement'

const agrees = (rig: Rig, mapping: Mapping): boolean => mappingState(rig, mapping).agreement === 'agrees'

/** Is everything that a mapping rests on the very same in both rigs? */
function isUntouched(before: Rig, after: Rig, was: Mapping, is: Mapping): boolean {
  if (was !== is || was.gesture === null) return was === is
  const [a, b] = [findGesture(before, was.gesture), findGesture(after, was.gesture)]
  return (
    a !== null &&
    b !== null &&
    a.controller === b.controller &&
    modelOf(before, a.controller) === modelOf(after, b.controller) &&
    rigIndex(before).destinations.get(was.destination) === rigIndex(after).destinations.get(was.destination)
  )
}

/**
 * What a change makes unheard: the mappings, as they were, whose control sent what their parameter listens
 * for before and does not after, or is gone.
 */
export function unheardAfter(before: Rig, after: Rig): Mapping[] {
  const now = new Map(after.mappings.map((mapping) => [mapping.id, mapping]))
  return before.mappings.filter((was) => {
    const is = now.get(was.id)
    if (is && isUntouched(before, after, was, is)) return false
    return agrees(before, was) && (!is || !agrees(after, is))
  })
}

/** What a mapping moves, as the player knows it. */
export function mappingName(rig: Rig, mapping: Mapping): string {
  const found = mappingParameter(rig, mapping)
  return found ? `${found.destination.name} · ${parameterName(found.parameter)}` : 'a parameter that is gone'
}
