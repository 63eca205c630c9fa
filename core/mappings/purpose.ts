import type { Sender } from '../addresses'
import { mappingsOf, type Destination, type Mapping, type Parameter, type Rig } from '../rig'
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
  return mappingsOf(rig, sender.gesture).flatMap((mapping) => {
    const target = mappingParameter(rig, mapping)
    if (!target) return []
    const expected = expectedOf(mapping, target.parameter)
    if (expected && !meetsExpected(sender.message, sender.channel, expected)) return []
    return [{ mapping, ...target, expected }]
  })
}
