import { PAIR_DISTANCE, type Channel } from '../midi'
import {
  busCellKey,
  cellKey,
  claimCovers,
  emissionCells,
  hitsAt,
  type Bus,
  type Cell,
  type Sender,
} from '../addresses'
import { servedBuses, type CheckContext } from '../conflicts'
import { cellsExpected, listenersOf } from '../mappings'
import {
  fitsNumber,
  isChannelMessage,
  mappingsOf,
  rigIndex,
  withChannel,
  withNumber,
  type ChannelMessage,
  type Id,
  type Rig,
} from '../rig'

/** One cell of one destination, as one number. */
const BUS_STRIDE = 2 ** 24

/** The message of a sender at another address; home stays home where that is the channel. */
export function messageAt(rig: Rig, sender: Sender, channel: Channel, number: number): ChannelMessage | null {
  const { message, place } = sender
  if (!fitsNumber(message.kind, number)) return null
  const home = rigIndex(rig).controllers.get(place.controller)?.homeChannel
  const isHome = channel === home && message.channel === 'home'
  const moved = withNumber(withChannel(message, isHome ? 'home' : channel), number)
  return isChannelMessage(moved) ? moved : null
}

/** What lies around the free senders: who stays, what is kept, who listens. */
export interface Ground {
  /** The cells that a message would take, each as one number; null where it must not go there. */
  takesAt: (sender: Sender, message: ChannelMessage, apart: boolean) => number[] | null
  /** The cells that a sender takes where it is. */
  takesNow: (sender: Sender) => number[]
}

/** A kind of cell and its number, without channel. */
const spotOf = ({ space, number }: Pick<Cell, 'space' | 'number'>): number =>
  cellKey({ space, channel: 1, number })

interface Ear {
  channel: Channel | null
  /** By which it was taught; null by its own chart. */
  mapping: Id | null
}

/** Who listens at each number, by destination. */
function listeningIndex(rig: Rig): ReadonlyMap<Id, ReadonlyMap<number, readonly Ear[]>> {
  const index = new Map<Id, Map<number, Ear[]>>()
  for (const { destination, expected, mapping } of listenersOf(rig)) {
    const own = index.get(destination) ?? new Map<number, Ear[]>()
    index.set(destination, own)
    const first = cellsExpected({ ...expected, channel: 1 })
    const second =
      expected.target.kind === 'cc14'
        ? first.map((cell) => ({ ...cell, number: cell.number + PAIR_DISTANCE }))
        : []
    for (const cell of [...first, ...second]) {
      const ears = own.get(spotOf(cell))
      const ear = { channel: expected.channel, mapping }
      if (ears) ears.push(ear)
      else own.set(spotOf(cell), [ear])
    }
  }
  return index
}

export function groundOf(context: CheckContext, free: ReadonlySet<Sender>): Ground {
  const { rig, occupancy, live } = context
  const { controllers, destinations } = rigIndex(rig)
  const busIndex = new Map(occupancy.buses.map((bus, index) => [bus.id, index]))
  const cellId = (bus: Bus, cell: Cell): number =>
    (busIndex.get(bus.id) ?? 0) * BUS_STRIDE + busCellKey(bus, cell)

  const listening = listeningIndex(rig)

  const staying = (bus: Bus, cell: Cell, sender: Sender, shares: boolean): boolean =>
    hitsAt(occupancy, bus, cell).some(
      (hit) =>
        !free.has(hit.sender) &&
        hit.sender.key !== sender.key &&
        (cell.role !== 'carrier' || hit.cell.role === 'main') &&
        (!shares || live(hit.sender, sender)),
    )

  /** Is a plain number the second half of a pair that someone who stays sends? */
  const breaksPair = (bus: Bus, cell: Cell): boolean =>
    cell.space === 'cc' &&
    cell.part === 'whole' &&
    cell.number >= PAIR_DISTANCE &&
    hitsAt(occupancy, bus, { ...cell, number: cell.number - PAIR_DISTANCE }).some(
      (hit) => hit.cell.part === 'first' && !free.has(hit.sender),
    )

  const isHeardByOthers = (bus: Bus, cell: Cell, own: ReadonlySet<Id>): boolean =>
    listening
      .get(bus.destination)
      ?.get(spotOf(cell))
      ?.some(
        ({ channel, mapping }) =>
          (bus.mergesChannels || channel === null || channel === cell.channel) &&
          (mapping === null || !own.has(mapping)),
      ) === true

  return {
    takesNow: (sender) =>
      occupancy
        .emissionsOf(sender)
        .flatMap(({ bus, cells }) =>
          cells.flatMap((cell) => (cell.role === 'carrier' ? [] : [cellId(bus, cell)])),
        ),
    takesAt: (sender, message, shares) => {
      const own = new Set(mappingsOf(rig, sender.gesture).map(({ id }) => id))
      const controller = controllers.get(sender.place.controller)
      if (!controller) return null
      const arrivals = emissionCells(occupancy.reach, controller, message)
      const reached = new Set(arrivals.map(({ bus }) => bus.id))
      const served = servedBuses(rig, occupancy, sender)
      if ([...served].some((id) => !reached.has(id))) return null
      const takes: number[] = []
      for (const { bus, cells } of arrivals) {
        const claims = destinations.get(bus.destination)?.claims ?? []
        for (const cell of cells) {
          if (staying(bus, cell, sender, shares)) return null
          if (cell.role === 'carrier') continue
          if (claims.some((claim) => claimCovers(claim, cell))) return null
          if (breaksPair(bus, cell) || isHeardByOthers(bus, cell, own)) return null
          takes.push(cellId(bus, cell))
        }
      }
      return takes
    },
  }
}
