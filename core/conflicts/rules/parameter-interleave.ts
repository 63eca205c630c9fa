import { hitsAt, type Bus, type Sender } from '../../addresses'
import { CHANNELS, leavesNumberOut, PARAMETER_SELECTS } from '../../midi'
import type { CheckContext } from '../context'
import type { Rule } from '../rule'
import { destinationWords, senderWords, sentAddresses } from '../words'

/** Does a sender rely on the number that went before, which another controller may have changed? */
const isShort = ({ message }: Sender): boolean =>
  (message.kind === 'nrpn' || message.kind === 'rpn') && leavesNumberOut(message)

interface Found {
  channel: number | null
  senders: Map<string, Sender>
  buses: Set<Bus>
}

const MOST_ADDRESSES = 4

function collect({ occupancy, live, excused }: CheckContext): Map<string, Found> {
  const found = new Map<string, Found>()
  const byBus = new Map<Bus, Map<number | null, Set<Sender>>>()
  for (const bus of occupancy.buses)
    for (const channel of bus.mergesChannels ? CHANNELS.slice(0, 1) : CHANNELS) {
      const hits = PARAMETER_SELECTS.flatMap((number) =>
        hitsAt(occupancy, bus, { kind: 'cc', channel, number }),
      )
      const senders = hits.filter(({ cell }) => cell.role === 'carrier').map(({ sender }) => sender)
      if (senders.length === 0) continue
      const channels = byBus.get(bus) ?? new Map<number | null, Set<Sender>>()
      byBus.set(bus, channels)
      channels.set(bus.mergesChannels ? null : channel, new Set(senders))
    }
  for (const [bus, channels] of byBus)
    for (const [channel, all] of channels) {
      const senders = [...all]
      const mixed = senders.filter((a) =>
        senders.some(
          (b) => a.place.controller !== b.place.controller && live(a, b) && !excused(a.gesture, b.gesture),
        ),
      )
      if (mixed.length === 0) continue
      const key = `channel ${channel ?? 'all'}`
      const entry: Found = found.get(key) ?? { channel, senders: new Map(), buses: new Set() }
      found.set(key, entry)
      for (const sender of mixed) entry.senders.set(sender.key, sender)
      entry.buses.add(bus)
    }
  return found
}

/** Two controllers send parameters on one channel: their messages can fall between each other. */
export const parameterInterleave: Rule = {
  id: 'parameter-interleave',
  title: 'Parameters of two controllers mixed',
  topic: 'meeting',
  reach: 'channel',
  excused: true,
  find: (context) =>
    [...collect(context)].map(([about, { channel, senders, buses }]) => {
      const { rig } = context
      const who = [...senders.values()].toSorted((a, b) => a.order - b.order)
      const short = who.filter(isShort)
      const destinations = [...new Set([...buses].map(({ destination }) => destination))]
      const on = channel === null ? 'any channel' : `channel ${channel}`
      const where = `on ${on} to ${destinationWords(rig, destinations)}`
      return {
        severity: short.length > 0 ? ('error' as const) : ('warning' as const),
        message:
          short.length > 0
            ? `${senderWords(rig, who)} send parameters ${where}, and ${senderWords(rig, short)} ${short.length === 1 ? 'leaves' : 'leave'} the number out: what another sent last will move instead.`
            : `${senderWords(rig, who)} send parameters ${where}; moved at the same time, one can fall into the other.`,
        senders: who,
        addresses: sentAddresses(who).slice(0, MOST_ADDRESSES),
        destinations,
        about,
      }
    }),
}
