import { CHANNELS, controllerClass, controllerName, SEVEN_MAX } from '../../midi'
import { cellKey, hitsAt, type CellAddress, type Sender } from '../../addresses'
import type { Id } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { moveFixes, rephraseFix } from '../fixes/numbers'
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
  senders: Map<string, Sender>
  destinations: Set<Id>
}

const KEPT: readonly number[] = Array.from({ length: SEVEN_MAX + 1 }, (_, number) => number).filter(
  (number) => ['mode', 'bank-select'].includes(controllerClass(number)),
)

/** Everyone who comes to such a number as a plain controller. Real mode messages and bank selects are none. */
function collect({ occupancy }: CheckContext): Found[] {
  const found = new Map<number, Found>()
  for (const bus of occupancy.buses)
    for (const channel of bus.mergesChannels ? CHANNELS.slice(0, 1) : CHANNELS)
      for (const number of KEPT)
        for (const { cell, sender } of hitsAt(occupancy, bus, { kind: 'cc', channel, number })) {
          if (cell.role !== 'main') continue
          const key = cellKey(cell)
          const entry: Found = found.get(key) ?? { cell, senders: new Map(), destinations: new Set() }
          found.set(key, entry)
          entry.senders.set(sender.key, sender)
          entry.destinations.add(bus.destination)
        }
  return [...found.values()]
}

/** A number that the standard keeps for channel mode or bank select arrives as a plain controller. */
export const reserved: Rule = {
  id: 'reserved',
  title: 'Kept by the standard',
  topic: 'taken',
  reach: 'cells',
  byNumbers: true,
  safe: ['move', 'rephrase'],
  find: (context) => {
    const { rig } = context
    return collect(context).map(({ cell, senders, destinations }): Draft => {
      const all = [...senders.values()]
      const addresses = cellAddresses([cell])
      const tag = addressWords(addresses)
      const who = `${senderWords(rig, all)} ${verb(placeCount(all), 'sends', 'send')} ${tag}`
      const where = destinationWords(rig, [...destinations])
      const through = throughWords(rig, all, [cell], [...destinations])
      const isMode = controllerClass(cell.number) === 'mode'
      return {
        severity: isMode ? 'error' : 'warning',
        message: isMode
          ? `${who} as an ordinary number, but ${where} takes CC ${cell.number} as “${controllerName(cell.number)?.toLowerCase() ?? ''}”.${through}`
          : `${who}, which belongs to bank select; ${where} may change its bank.${through}`,
        senders: all,
        addresses,
        destinations: [...destinations],
        about: tag,
        moves: [all],
        cures: () => [...moveFixes(context, [all]), ...(isMode ? rephraseFix(context, all) : [])],
      }
    })
  },
}
