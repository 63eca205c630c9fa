import { CHANNELS, PARAMETER_CARRIERS, PARAMETER_SELECTS, type Channel } from '../../midi'
import { cellKey, hitsAt, type Bus, type CellAddress, type Hit, type Sender } from '../../addresses'
import type { Id } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { moveFixes } from '../fixes/numbers'
import type { Rule } from '../rule'
import {
  addressWords,
  cellAddresses,
  destinationWords,
  placeCount,
  senderWords,
  throughWords,
  verb,
} from '../words'

interface Found {
  cell: CellAddress
  plain: Map<string, Sender>
  parameters: Map<string, Sender>
  destinations: Set<Id>
}

const at = ({ occupancy }: CheckContext, bus: Bus, channel: Channel, number: number): readonly Hit[] =>
  hitsAt(occupancy, bus, { kind: 'cc', channel, number })

function collect(context: CheckContext): Found[] {
  const found = new Map<number, Found>()
  for (const bus of context.occupancy.buses) {
    for (const channel of bus.mergesChannels ? CHANNELS.slice(0, 1) : CHANNELS) {
      const parameters = PARAMETER_SELECTS.flatMap((number) => at(context, bus, channel, number)).filter(
        ({ cell }) => cell.role === 'carrier',
      )
      if (parameters.length === 0) continue
      for (const number of PARAMETER_CARRIERS) {
        const plain = at(context, bus, channel, number).filter(({ cell }) => cell.role === 'main')
        const [first] = plain
        if (!first) continue
        const key = cellKey(first.cell)
        const entry: Found = found.get(key) ?? {
          cell: first.cell,
          plain: new Map(),
          parameters: new Map(),
          destinations: new Set(),
        }
        found.set(key, entry)
        for (const { sender } of plain) entry.plain.set(sender.key, sender)
        for (const { sender } of parameters) entry.parameters.set(sender.key, sender)
        entry.destinations.add(bus.destination)
      }
    }
  }
  return [...found.values()]
}

/** A number that parameters need is used plainly on a channel where parameters run. */
export const parameterCarriers: Rule = {
  id: 'parameter-carriers',
  title: 'Carrier of parameters in use',
  topic: 'meeting',
  reach: 'channel',
  byNumbers: true,
  safe: ['move'],
  find: (context) => {
    const { rig } = context
    return collect(context).map(({ cell, plain, parameters, destinations }): Draft => {
      const addresses = cellAddresses([cell])
      const users = [...plain.values()]
      const others = [...parameters.values()]
      const places = new Set(users.map(({ gesture }) => gesture))
      return {
        severity: 'error',
        message: `${senderWords(rig, users)} ${verb(placeCount(users), 'sends', 'send')} ${addressWords(addresses)}, which carries the parameters of ${senderWords(rig, others)} to ${destinationWords(rig, [...destinations])}.${throughWords(rig, users, [cell], [...destinations])}`,
        senders: [...users, ...others],
        addresses,
        destinations: [...destinations],
        about: addressWords(addresses),
        ...(places.size === 1 ? { cause: `${[...places].join()} on ${cell.channel}` } : {}),
        moves: [users],
        cures: () => moveFixes(context, [users]),
      }
    })
  },
  together: ({ rig }, drafts) => {
    const senders = [...new Set(drafts.flatMap((draft) => draft.senders))]
    const addresses = drafts.flatMap((draft) => draft.addresses)
    const destinations = [...new Set(drafts.flatMap((draft) => draft.destinations))]
    // All that one gesture sends stand first: they are what has the cause in common.
    const gesture = drafts[0]?.senders[0]?.gesture
    const isUser = (sender: Sender): boolean => sender.gesture === gesture
    const [users, others] = [senders.filter(isUser), senders.filter((sender) => !isUser(sender))]
    return {
      severity: 'error',
      message: `${senderWords(rig, users)} sends a parameter by hand with ${addressWords(addresses)}, which carry the parameters of ${senderWords(rig, others)} to ${destinationWords(rig, destinations)}: let it send an NRPN or RPN instead.`,
      senders,
      addresses,
      destinations,
      about: drafts[0]?.cause ?? '',
    }
  },
}
