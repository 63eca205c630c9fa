import { isChannelMessage, landingsOf, type Channel, type SentMessage } from '../midi'
import {
  rigIndex,
  type Cable,
  type Claim,
  type Controller,
  type Destination,
  type Id,
  type Rig,
} from '../rig'
import { claimCovers, hostChain } from './buses'
import { deliveryOf, isHeard } from './delivery'
import { waysTo, type FlowState } from './flow'
import { cellsOf } from './cells'

/** Where a message is lost on its way to a destination. */
export type Loss =
  /** No cable leads there. */
  | { kind: 'no-cable' }
  /** A cable's rule stops it. */
  | { kind: 'stopped'; cable: Cable }
  /** Another program holds the port of the computer. */
  | { kind: 'port-held'; computer: Id; port: Id; by: Id }
  /** It arrives, but the destination, or a host around it, does not hear its channel. */
  | { kind: 'not-heard'; channel: Channel; by: Destination }
  /** It arrives, but a host keeps it for itself. */
  | { kind: 'kept'; by: Destination; claim: Claim }

/** The buses of a destination that cables would lead to if no rule stopped anything. */
const leadsTo = (rig: Rig, controller: Id, destination: Id): boolean =>
  deliveryOf(rig)
    .busesFrom(controller)
    .some((bus) => bus.destination === destination)

/** A port of a computer that a destination would be reached by, if another program did not hold it. */
function heldPort(rig: Rig, controller: Id, destination: Destination): Loss | null {
  const { graph, cablesFrom } = deliveryOf(rig)
  const owner = hostChain(rig, destination).at(-1)
  for (const cable of cablesFrom(controller))
    for (const { at, port, by } of graph.heldAt(cable.to))
      if (port.owner === owner?.id) return { kind: 'port-held', computer: at.owner, port: at.port, by }
  return null
}

/** Why a destination does not hear what arrives at its ports. */
function unheardThere(rig: Rig, destination: Destination, message: SentMessage): Loss | null {
  if (!isChannelMessage(message) || typeof message.channel !== 'number') return null
  const { channel } = message
  const chain = hostChain(rig, destination)
  for (const link of chain.toReversed()) {
    const { channels } = link.hears.playing
    if (channels.kind === 'only' && !channels.channels.includes(channel))
      return { kind: 'not-heard', channel, by: link }
    const claim =
      link === destination
        ? undefined
        : link.claims.find((each) => cellsOf(message, channel).some((cell) => claimCovers(each, cell)))
    if (claim) return { kind: 'kept', by: link, claim }
  }
  return null
}

/**
 * Where a message of a controller, its channel a number, is lost before a destination hears it; null where it is
 * heard, as whatever it arrives.
 */
export function lossOf(
  rig: Rig,
  { id }: Pick<Controller, 'id'>,
  message: SentMessage,
  destinationId: Id,
): Loss | null {
  const delivery = deliveryOf(rig)
  const isHeardWhole = delivery.open.get(id)?.some((bus) => bus.destination === destinationId && bus.hearsAll)
  if (isHeardWhole === true) return null
  const destination = rigIndex(rig).destinations.get(destinationId)
  if (!destination) return { kind: 'no-cable' }
  const arrived = delivery.arrivals(id, message).filter(({ bus }) => bus.destination === destinationId)
  const messages = arrived.flatMap(({ bus, messages: there }) => there.map((each) => ({ bus, each })))
  const isAnyHeard = messages.some(
    ({ bus, each }) =>
      !isChannelMessage(each) ||
      (typeof each.channel === 'number' &&
        landingsOf(each, each.channel).some((landing) => isHeard(bus, landing))),
  )
  if (isAnyHeard) return null
  const [first] = messages
  if (first) return unheardThere(rig, destination, first.each) ?? { kind: 'no-cable' }
  if (!leadsTo(rig, id, destinationId)) return heldPort(rig, id, destination) ?? { kind: 'no-cable' }
  const [stop] = delivery.flows(id, message).flatMap(({ stopped }) => stopped)
  return stop ? { kind: 'stopped', cable: stop.cable } : { kind: 'no-cable' }
}

/** The first cable that changes a message of a controller on its way to a destination; null where none does. */
export function changedBy(
  rig: Rig,
  { id }: Pick<Controller, 'id'>,
  message: SentMessage,
  destination: Id,
): Cable | null {
  const delivery = deliveryOf(rig)
  if (delivery.open.has(id)) return null
  const isThere = ({ port }: FlowState): boolean =>
    delivery.busesAt(port).some((bus) => bus.destination === destination)
  for (const flow of delivery.flows(id, message)) {
    const [way] = waysTo(flow.starts, isThere, destination)
    let now = flow.message
    for (const { cable, to } of way ?? []) {
      if (cable && to.message !== now) return cable
      now = to.message
    }
  }
  return null
}
