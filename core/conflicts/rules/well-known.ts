import { controllerClass, controllerName, SEVEN_MAX } from '../../midi'
import { cellKey, type Bus, type CellAddress, type Sender } from '../../addresses'
import { parameterName, rigIndex, type Destination, type Id, type Parameter, type Rig } from '../../rig'
import type { Purpose } from '../../mappings'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { moveFixes } from '../fixes/numbers'
import type { Rule } from '../rule'
import { addressWords, cellAddresses, placeCount, listed, senderWords, throughWords, verb } from '../words'

/** A number with a standard meaning that is used for something else, by whom, and who reacts to it. */
interface Use {
  cell: CellAddress
  senders: Map<string, { sender: Sender; purposes: readonly Purpose[] }>
  reactions: Map<string, { destination: Destination; parameter: Parameter }>
}

const STANDARD: readonly number[] = Array.from({ length: SEVEN_MAX + 1 }, (_, number) => number).filter(
  (number) => controllerClass(number) === 'standard',
)

const isController = ({ fixed }: Parameter, number: number): boolean =>
  (fixed?.kind === 'cc' || fixed?.kind === 'cc14') && fixed.number === number

/** Is the parameter what the standard means by the number, by its own chart or by its meaning? */
const isMeant = (parameter: Parameter, number: number): boolean =>
  parameter.meaning === number || isController(parameter, number)

/** The parameters of each destination that listen to a controller number by its chart. */
const chartedIn = (rig: Rig): ReadonlyMap<Id, readonly Parameter[]> =>
  new Map(
    rig.destinations.map(({ id, parameters }) => [
      id,
      parameters.filter(({ fixed }) => fixed?.kind === 'cc' || fixed?.kind === 'cc14'),
    ]),
  )

/** A parameter of a destination that listens at a cell by its chart. */
const reaction = (
  charted: readonly Parameter[],
  bus: Bus,
  { channel, number }: CellAddress,
): Parameter | null =>
  charted.find(
    (parameter) =>
      isController(parameter, number) &&
      (bus.mergesChannels || !parameter.fixed?.channel || parameter.fixed.channel === channel),
  ) ?? null

/** Those that are mapped and send such a number, or whose messages a cable may turn into one. */
function candidates({ occupancy, purposes }: CheckContext): Sender[] {
  const { open } = occupancy.delivery
  const sending = STANDARD.flatMap((number) => occupancy.index.ofController(number))
  const changed =
    open.size === occupancy.rig.controllers.length
      ? []
      : occupancy.senders.filter(({ place }) => !open.has(place.controller))
  return [...new Set([...sending, ...changed])].filter((sender) => purposes(sender).length > 0)
}

function usesOf(context: CheckContext): Use[] {
  const { rig, occupancy, purposes } = context
  const charted = chartedIn(rig)
  const uses = new Map<number, Use>()
  for (const { sender, bus, cells } of occupancy.arriving(candidates(context)))
    for (const cell of cells) {
      if (cell.kind !== 'cc' || cell.role !== 'main' || cell.part === 'lsb') continue
      if (controllerClass(cell.number) !== 'standard') continue
      const meant = purposes(sender)
      if (meant.some(({ parameter }) => isMeant(parameter, cell.number))) continue
      const key = cellKey(cell)
      const use: Use = uses.get(key) ?? { cell, senders: new Map(), reactions: new Map() }
      uses.set(key, use)
      use.senders.set(sender.key, { sender, purposes: meant })
      const destination = rigIndex(rig).destinations.get(bus.destination)
      const parameter = reaction(charted.get(bus.destination) ?? [], bus, cell)
      if (destination && parameter)
        use.reactions.set(`${destination.id}/${parameter.id}`, { destination, parameter })
    }
  return [...uses.values()]
}

const movedWords = (items: ReadonlyArray<{ destination: Destination; parameter: Parameter }>): string =>
  listed([
    ...new Set(
      items.map(({ destination, parameter }) => `${parameterName(parameter)} on ${destination.name}`),
    ),
  ])

function draftOf(context: CheckContext, { cell, senders: using, reactions }: Use): Draft {
  const { rig } = context
  const uses = [...using.values()].toSorted((a, b) => a.sender.order - b.sender.order)
  const senders = uses.map(({ sender }) => sender)
  const purposes = uses.flatMap((use) => use.purposes)
  const addresses = cellAddresses([cell])
  const tag = addressWords(addresses)
  const moves = `${senderWords(rig, senders)} ${verb(placeCount(senders), 'moves', 'move')} ${movedWords(purposes)}`
  const reacting = [...reactions.values()]
  const destinations = [
    ...new Set((reacting.length > 0 ? reacting : purposes).map(({ destination }) => destination.id)),
  ]
  const through = throughWords(rig, senders, [cell], destinations)
  const standard = controllerName(cell.number)?.toLowerCase() ?? ''
  return {
    severity: reacting.length > 0 ? 'error' : 'advice',
    message:
      reacting.length > 0
        ? `${moves}, but ${tag} also moves ${movedWords(reacting)}.${through}`
        : `${moves} with ${tag}, which by standard means ${standard}; another instrument may react to it.${through}`,
    senders,
    addresses,
    destinations,
    about: tag,
    moves: [senders],
    cures: () => moveFixes(context, [senders]),
  }
}

/** A number with a standard meaning is used for another; worse where a destination really reacts to it. */
export const wellKnown: Rule = {
  id: 'well-known',
  title: 'Well-known number',
  topic: 'taken',
  reach: 'cells',
  byNumbers: true,
  safe: ['move'],
  find: (context) => usesOf(context).map((use) => draftOf(context, use)),
}
