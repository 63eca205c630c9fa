import type { Sender } from '../../addresses'
import type { Id } from '../../rig'
import type { CheckContext } from '../context'
import type { Rule } from '../rule'
import { destinationWords, senderWords } from '../words'

/** Does a sender rely on the number that went before, which another controller may have changed? */
const isShort = ({ message }: Sender): boolean =>
  (message.kind === 'nrpn' || message.kind === 'rpn') &&
  (message.omitNumber || message.steps === 'increments')

interface Found {
  channel: number
  senders: Map<string, Sender>
  destinations: Set<Id>
}

function collect({ occupancy, live }: CheckContext): Found[] {
  const found = new Map<number, Found>()
  const { index } = occupancy
  const parameters = [...index.ofKind('nrpn'), ...index.ofKind('rpn')].toSorted((a, b) => a.order - b.order)
  const emissions = occupancy.arriving(parameters)
  for (const bus of occupancy.buses) {
    const byChannel = new Map<number, Sender[]>()
    for (const emission of emissions) {
      if (emission.bus !== bus) continue
      for (const channel of new Set(emission.cells.map((cell) => cell.channel)))
        byChannel.set(channel, [...(byChannel.get(channel) ?? []), emission.sender])
    }
    for (const [channel, senders] of byChannel) {
      const meeting = senders.filter((a) =>
        senders.some((b) => a.place.controller !== b.place.controller && live(a, b)),
      )
      if (meeting.length === 0) continue
      const entry: Found = found.get(channel) ?? { channel, senders: new Map(), destinations: new Set() }
      found.set(channel, entry)
      for (const sender of meeting) entry.senders.set(sender.key, sender)
      entry.destinations.add(bus.destination)
    }
  }
  return [...found.values()]
}

/** Two controllers send parameters on one channel: their messages can fall between each other. */
export const parameterInterleave: Rule = {
  id: 'parameter-interleave',
  title: 'Parameters of two controllers mixed',
  reach: 'channel',
  find: (context) =>
    collect(context).map(({ channel, senders, destinations }) => {
      const who = [...senders.values()]
      const isBad = who.some(isShort)
      const where = destinationWords(context.rig, [...destinations])
      return {
        severity: isBad ? ('error' as const) : ('warning' as const),
        message: isBad
          ? `${senderWords(context.rig, who)} send parameters on channel ${channel} to ${where}, and one of them leaves the number out: it will move the other's parameter.`
          : `${senderWords(context.rig, who)} send parameters on channel ${channel} to ${where}; moved at the same time, one can fall into the other.`,
        senders: who,
        addresses: [...new Set(who.flatMap(({ tag }) => tag ?? []))].slice(0, 4),
        destinations: [...destinations],
        about: `channel ${channel}`,
        cures: { moves: [], share: false },
      }
    }),
}
