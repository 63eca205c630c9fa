import type { Sender } from '../addresses'
import {
  channelOf,
  mappingsOf,
  rigIndex,
  type Destination,
  type Mapping,
  type Parameter,
  type Rig,
} from '../rig'
import { arrivedAs } from './arrival'
import { expectedOf, mappingParameter, meetsExpected, type Expected } from './agreement'

/** A mapping that a sender serves: its parameter listens at what is sent, or has not been taught yet. */
export interface Purpose {
  mapping: Mapping
  destination: Destination
  parameter: Parameter
  expected: Expected | null
}

/** What a sender is there for. Mappings that expect another address are not among them. */
export function purposesOf(rig: Rig, sender: Sender): Purpose[] {
  const owner = rigIndex(rig).controllers.get(sender.place.controller)
  if (!owner) return []
  return mappingsOf(rig, sender.gesture).flatMap((mapping) => {
    const target = mappingParameter(rig, mapping)
    if (!target) return []
    const expected = expectedOf(mapping, target.parameter)
    const arrived = expected ? arrivedAs(rig, owner, sender.message, mapping.destination) : []
    if (expected && !arrived.some((message) => meetsExpected(message, channelOf(message, 1), expected)))
      return []
    return [{ mapping, ...target, expected }]
  })
}
