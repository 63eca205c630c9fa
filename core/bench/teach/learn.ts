import { deliveryOf, landedAt } from '../../addresses'
import { rigIndex, type Id, type LearnedAddress, type Rig } from '../../rig'
import type { Passing } from '../running'

/**
 * What a destination that was told to learn takes from a message: where it lands there, if the destination can learn such an
 * address. Null where nothing of it arrives, or nothing that can be learned.
 */
export function learnedFrom(
  rig: Rig,
  destinationId: Id,
  { controller, message }: Pick<Passing, 'controller' | 'message'>,
): LearnedAddress | null {
  const destination = rigIndex(rig).destinations.get(destinationId)
  if (!destination || !message) return null
  for (const { bus, messages } of deliveryOf(rig).arrivals(controller, message)) {
    if (bus.destination !== destinationId) continue
    for (const address of messages.flatMap(landedAt)) {
      if (address.scope === 'system') return { scope: 'system', target: address.target }
      const { channel, target } = address
      const isOne = !('low' in target) || target.low === target.high
      const canLearn =
        destination.learns.length === 0 || destination.learns.some((kind) => kind === target.kind)
      if (typeof channel === 'number' && isOne && canLearn) return { scope: 'channel', channel, target }
    }
  }
  return null
}
