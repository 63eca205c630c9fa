import type { Sender } from '../../addresses'
import type { Id } from '../../rig'
import type { Rule } from '../rule'
import { destinationWords, senderWords } from '../words'

interface Found {
  channel: number
  withBank: Map<string, Sender>
  without: Map<string, Sender>
  destinations: Set<Id>
}

/** On one channel some programs say their bank and some do not: those land in whichever was last. */
export const bankDrift: Rule = {
  id: 'bank-drift',
  title: 'Programs with and without bank',
  reach: 'channel',
  find: ({ rig, occupancy }) => {
    const found = new Map<string, Found>()
    for (const { sender, bus, cells } of occupancy.arriving(occupancy.index.ofKind('program'))) {
      const { message } = sender
      const cell = cells.find(({ space }) => space === 'program')
      if (message.kind !== 'program' || !cell) continue
      const key = `${bus.destination} ${cell.channel}`
      const entry: Found = found.get(key) ?? {
        channel: cell.channel,
        withBank: new Map(),
        without: new Map(),
        destinations: new Set([bus.destination]),
      }
      found.set(key, entry)
      const side = message.bank ? entry.withBank : entry.without
      side.set(sender.key, sender)
    }
    return [...found.values()]
      .filter(({ withBank, without }) => withBank.size > 0 && without.size > 0)
      .map(({ channel, withBank, without, destinations }) => ({
        severity: 'warning' as const,
        message: `${senderWords(rig, [...without.values()])} sends a program on channel ${channel} without a bank, while ${senderWords(rig, [...withBank.values()])} changes the bank: at ${destinationWords(rig, [...destinations])} it lands in whichever was last.`,
        senders: [...without.values(), ...withBank.values()],
        addresses: [...new Set([...without.values()].flatMap(({ tag }) => tag ?? []))].slice(0, 4),
        destinations: [...destinations],
        about: `channel ${channel}`,
        cures: { moves: [], share: false },
      }))
  },
}
