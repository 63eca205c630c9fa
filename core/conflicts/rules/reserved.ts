import { controllerClass, controllerName, SEVEN_MAX } from '../../midi'
import type { Occupancy, Sender } from '../../addresses'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { destinationWords, senderWords } from '../words'

interface Found {
  number: number
  tag: string
  senders: Map<string, Sender>
  destinations: Set<string>
}

const KEPT: readonly number[] = Array.from({ length: SEVEN_MAX + 1 }, (_, number) => number).filter(
  (number) => ['mode', 'bank-select'].includes(controllerClass(number)),
)

function collect({ index, arriving }: Occupancy): Found[] {
  const found = new Map<string, Found>()
  for (const { sender, bus } of arriving(KEPT.flatMap(index.ofController))) {
    const { message, tag } = sender
    if (message.kind !== 'cc' || message.number === 'wanted' || tag === null) continue
    const entry = found.get(tag) ?? {
      number: message.number,
      tag,
      senders: new Map(),
      destinations: new Set(),
    }
    found.set(tag, entry)
    entry.senders.set(sender.key, sender)
    entry.destinations.add(bus.destination)
  }
  return [...found.values()]
}

/** A number that the standard keeps for channel mode or bank select is sent as a plain controller. */
export const reserved: Rule = {
  id: 'reserved',
  title: 'Kept by the standard',
  reach: 'number',
  find: ({ rig, occupancy }) =>
    collect(occupancy).map(({ number, tag, senders, destinations }): Draft => {
      const who = senderWords(rig, [...senders.values()])
      const where = destinationWords(rig, [...destinations])
      const meaning = controllerName(number)?.toLowerCase() ?? ''
      const common = {
        senders: [...senders.values()],
        addresses: [tag],
        destinations: [...destinations],
        cures: { moves: [[...senders.values()]], share: false },
      }
      return controllerClass(number) === 'mode'
        ? {
            ...common,
            severity: 'error',
            message: `${who} sends ${tag} as an ordinary number, but ${where} takes CC ${number} as “${meaning}”.`,
          }
        : {
            ...common,
            severity: 'warning',
            message: `${who} sends ${tag}, which belongs to bank select; ${where} may change its bank.`,
          }
    }),
}
