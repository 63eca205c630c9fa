import type { Sender } from '../addresses'
import { mappingsOf, type Destination, type Mapping, type Parameter, type Rig } from '../rig'
import { listeningOf, mappingParameter, type Listening } from './listening'
import { matchAt } from './resolved'

/** A mapping that a sender serves: its parameter listens at what arrives, or has not been taught yet. */
export interface Purpose {
  mapping: Mapping
  destination: Destination
  parameter: Parameter
  listening: Listening | null
}

/** What a sender is there for. Mappings that listen at another address are not among them. */
export function purposesOf(rig: Rig, sender: Sender): Purpose[] {
  return mappingsOf(rig, sender.gesture).flatMap((mapping) => {
    const target = mappingParameter(rig, mapping)
    if (!target) return []
    const listening = listeningOf(mapping, target.parameter)
    if (listening && matchAt(rig, sender, mapping.destination, listening.address, mapping.key) === null)
      return []
    return [{ mapping, ...target, listening }]
  })
}
