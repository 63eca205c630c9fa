import type { Bus, Sender } from '../../addresses'
import type { Rule } from '../rule'
import { destinationWords, placeCount, senderWords, sentAddresses, verb } from '../words'

interface Found {
  bus: Bus
  /** Null where the destination takes all channels for one. */
  channel: number | null
  withBank: Map<string, Sender>
  without: Map<string, Sender>
}

const MOST_ADDRESSES = 4

/** On one channel some programs say their bank and some do not: those land in whichever was last. */
export const bankDrift: Rule = {
  id: 'bank-drift',
  title: 'Programs with and without bank',
  topic: 'taken',
  reach: 'channel',
  find: ({ rig, occupancy }) => {
    const programs = occupancy.index.ofKind('program')
    const isOpen = occupancy.delivery.open.size === rig.controllers.length
    const banked = programs.filter(({ message }) => message.kind === 'program' && message.bank !== null)
    if (isOpen && (banked.length === 0 || banked.length === programs.length)) return []
    const found = new Map<string, Found>()
    for (const { sender, bus, cells } of occupancy.arrivingAs(['program'])) {
      for (const cell of cells) {
        if (cell.kind !== 'program') continue
        const channel = bus.mergesChannels ? null : cell.channel
        const key = `${bus.id} ${channel ?? 'all'}`
        const entry: Found = found.get(key) ?? { bus, channel, withBank: new Map(), without: new Map() }
        found.set(key, entry)
        const hasBank = cells.some(
          ({ kind, role, channel: on }) => kind === 'cc' && role === 'carrier' && on === cell.channel,
        )
        ;(hasBank ? entry.withBank : entry.without).set(sender.key, sender)
      }
    }
    return [...found]
      .filter(([, { withBank, without }]) => withBank.size > 0 && without.size > 0)
      .map(([about, { bus, channel, ...sides }]) => {
        const [withBank, without] = [[...sides.withBank.values()], [...sides.without.values()]]
        const all = [...without, ...withBank]
        return {
          severity: 'warning' as const,
          message: `${senderWords(rig, without, all)} ${verb(placeCount(without), 'sends', 'send')} a program on ${channel === null ? 'any channel' : `channel ${channel}`} without a bank, while ${senderWords(rig, withBank, all)} ${verb(placeCount(withBank), 'changes', 'change')} the bank: at ${destinationWords(rig, [bus.destination])} it lands in whichever was last.`,
          senders: all,
          addresses: sentAddresses(without).slice(0, MOST_ADDRESSES),
          destinations: [bus.destination],
          about,
        }
      })
  },
}
