import {
  assignmentsOfGesture,
  findGesture,
  modelOf,
  parameterName,
  rigIndex,
  splitGestureRef,
  type Controller,
  type GestureKey,
  type Id,
  type Mapping,
  type Rig,
} from '../rig'
import { deliveryOf } from '../addresses'
import { mappingParameter } from './listening'
import { resolveMappings } from './resolved'
import { mappingState } from './state'
import { teachable } from './teachable'

const agrees = (rig: Rig, mapping: Mapping): boolean => mappingState(rig, mapping).agreement === 'agrees'

/** Does a controller send the very same messages by a gesture as it did? What else is written there is not sent. */
function sendsAsBefore(a: Controller, b: Controller, gesture: GestureKey): boolean {
  if (a === b) return true
  if (a.homeChannel !== b.homeChannel || a.inUse !== b.inUse) return false
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
 * What a change makes unheard: the mappings, as they were, whose control's messages arrived where their parameter
 * listens before and do not after, or whose control is gone.
 */
export function unheardAfter(before: Rig, after: Rig): Mapping[] {
  const now = new Map(after.mappings.map((mapping) => [mapping.id, mapping]))
  const isSameWay = deliveryOf(before) === deliveryOf(after)
  return before.mappings.filter((was) => {
    const is = now.get(was.id)
    if (is && isSameWay && isUntouched(before, after, was, is)) return false
    return agrees(before, was) && (!is || !agrees(after, is))
  })
}

/**
 * A rig after a change, as it is once everything that the change made unheard has been taught again: what cannot be
 * taught stays as it was. With the mappings that would have to be taught.
 */
export function onceTaught(before: Rig, after: Rig): { rig: Rig; taught: Id[] } {
  const stale = new Set(unheardAfter(before, after).map(({ id }) => id))
  if (stale.size === 0) return { rig: after, taught: [] }
  const taught: Id[] = []
  const mappings = after.mappings.map((mapping) => {
    const [resolved] = stale.has(mapping.id) ? resolveMappings(after, [mapping]) : []
    const found = resolved && resolved.listening?.by === 'learning' ? teachable(after, resolved) : null
    if (!found) return mapping
    taught.push(mapping.id)
    return { ...mapping, learnedAt: found.address }
  })
  return { rig: taught.length === 0 ? after : { ...after, mappings }, taught }
}

/** What a mapping moves, as the player knows it. */
export function mappingName(rig: Rig, mapping: Mapping): string {
  const found = mappingParameter(rig, mapping)
  return found ? `${found.destination.name} · ${parameterName(found.parameter)}` : 'a parameter that is gone'
}
