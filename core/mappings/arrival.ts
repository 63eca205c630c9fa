import { busesOf, reachOf, type Reach } from '../addresses'
import { channelOf, withChannel, type Controller, type Id, type Message, type Rig } from '../rig'

const reaches = new WeakMap<Rig, Reach | null>()

/** The ways of a rig, where any cable rewrites; null where what is sent is what arrives. */
function rewritingReach(rig: Rig): Reach | null {
  const known = reaches.get(rig)
  if (known !== undefined) return known
  const rewrites = rig.cables.some(({ rules }) => rules.some(({ kind }) => kind === 'rewrite'))
  const reach = rewrites ? reachOf(rig, busesOf(rig)) : null
  reaches.set(rig, reach)
  return reach
}

/**
 * What a destination gets of a message: the message as it is sent, with its channel as a number, or what
 * the cables on the way make of it. What does not arrive at all counts as sent.
 */
export function arrivedAs(
  rig: Rig,
  { id, homeChannel }: Pick<Controller, 'id' | 'homeChannel'>,
  message: Message,
  destination: Id,
): readonly Message[] {
  const channel = channelOf(message, homeChannel)
  const sent = channel === null ? message : withChannel(message, channel)
  const arrivals =
    rewritingReach(rig)
      ?.arrivals(id, sent)
      .filter(({ bus }) => bus.destination === destination) ?? []
  return arrivals.length === 0 ? [sent] : arrivals.flatMap(({ messages }) => messages)
}
