import {
  assignmentsOfGesture,
  findGesture,
  modelOf,
  parameterName,
  rigIndex,
  splitGestureRef,
  type Controller,
  type GestureKey,
  type Mapping,
  type Rig,
} from '../rig'
import { mappingParameter, mappingState } from './agreement'

const agrees = (rig: Rig, mapping: Mapping): boolean => mappingState(rig, mapping).agreement === 'agrees'

/** Does a controller send the very same messages by a gesture as it did? What else is written there is not sent. */
function sendsAsBefore(a: Controller, b: Controller, gesture: GestureKey): boolean {
  if (a === b) return true
  if (a.homeChannel !== b.homeChannel) return false
  const is = assignmentsOfGesture(b, gesture)
  for (const { messages } of assignmentsOfGesture(a, gesture)) {
    const next = is.next()
    if (next.done || next.value.messages !== messages) return false
  }
  return is.next().done === true
}

/** Is everything that a mapping rests on the very same in both rigs, but for the cables? */
function isUntouched(before: Rig, after: Rig, was: Mapping, is: Mapping): boolean {
  if (was !== is || was.gesture === null) return was === is
  const owner = splitGestureRef(was.gesture).controller
  const isAsBefore =
    before.models === after.models &&
    before.destinations === after.destinations &&
    rigIndex(before).controllers.get(owner) === rigIndex(after).controllers.get(owner)
  if (isAsBefore) return true
  const [a, b] = [findGesture(before, was.gesture), findGesture(after, was.gesture)]
  return (
    a !== null &&
    b !== null &&
    sendsAsBefore(a.controller, b.controller, a.key) &&
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
  const isSameWay = before.cables === after.cables && before.boxes === after.boxes
  return before.mappings.filter((was) => {
    const is = now.get(was.id)
    if (is && isSameWay && isUntouched(before, after, was, is)) return false
    return agrees(before, was) && (!is || !agrees(after, is))
  })
}

/** What a mapping moves, as the player knows it. */
export function mappingName(rig: Rig, mapping: Mapping): string {
  const found = mappingParameter(rig, mapping)
  return found ? `${found.destination.name} · ${parameterName(found.parameter)}` : 'a parameter that is gone'
}
