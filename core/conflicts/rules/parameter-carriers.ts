import { CHANNELS } from '../../midi'
import type { CellAddress, Sender } from '../../addresses'
import { cellKey, hitsAt } from '../../addresses'
import type { Id } from '../../rig'
import type { Rule } from '../rule'
import { cellTags, destinationWords, senderWords } from '../words'

const CARRIERS = [6, 38, 96, 97, 98, 99, 100, 101] as const

interface Found {
  cell: CellAddress
  plain: Map<string, Sender>
  parameters: Map<string, Sender>
  destinations: Set<Id>
}

/** A number that parameters need is used plainly on a channel where parameters run. */
export const parameterCarriers: Rule = {
  id: 'parameter-carriers',
  title: 'Carrier of parameters in use',
  reach: 'cells',
  find: ({ rig, occupancy }) => {
    const found = new Map<number, Found>()
    const { index } = occupancy
    if (index.ofKind('nrpn').length + index.ofKind('rpn').length === 0) return []
    for (const bus of occupancy.buses) {
      const spots = CARRIERS.flatMap((number) =>
        (bus.mergesChannels ? ([1] as const) : CHANNELS).map(
          (channel) => ({ space: 'cc', channel, number }) as const,
        ),
      )
      for (const hits of spots.map((spot) => hitsAt(occupancy, bus, spot))) {
        const plain = hits.filter(({ cell }) => cell.role === 'main')
        const parameters = hits.filter(
          ({ cell, sender }) =>
            cell.role === 'carrier' && (sender.message.kind === 'nrpn' || sender.message.kind === 'rpn'),
        )
        const [first] = plain
        if (!first || parameters.length === 0) continue
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
    return [...found.values()].map(({ cell, plain, parameters, destinations }) => {
      const tags = cellTags([cell])
      const users = [...plain.values()]
      return {
        severity: 'error' as const,
        message: `${senderWords(rig, users)} sends ${tags.join()}, which carries the parameters of ${senderWords(rig, [...parameters.values()])} to ${destinationWords(rig, [...destinations])}.`,
        senders: [...users, ...parameters.values()],
        addresses: tags,
        destinations: [...destinations],
        cures: { moves: [users], share: false },
      }
    })
  },
}
