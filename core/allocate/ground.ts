import { PAIR_DISTANCE, type Channel } from '../midi'
import {
  busCellKey,
  claimCovers,
  emissionCells,
  hitsAt,
  isWanting,
  type Bus,
  type Cell,
  type Sender,
} from '../addresses'
import { servedBuses, type CheckContext } from '../conflicts'
import { listenersOn } from '../mappings'
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

/** Numbers of a channel. */
const NUMBERS = 2 ** 14
/** One cell of one destination, as one number. */
const BUS_STRIDE = 2 ** 24

/** The message of a sender at another address, or only on another channel; home stays home where that is the channel. */
export function messageAt(
  rig: Rig,
  sender: Sender,
  channel: Channel,
  number: number | null,
): ChannelMessage | null {
  const { message, place } = sender
  if (number !== null && !fitsNumber(message.kind, number)) return null
  const home = rigIndex(rig).controllers.get(place.controller)?.homeChannel
  const isHome = channel === home && message.channel === 'home'
  const there = withChannel(message, isHome ? 'home' : channel)
  const moved = number === null ? there : withNumber(there, number)
  return isChannelMessage(moved) ? moved : null
}

/** What lies around the free senders: who stays, what is kept, who listens. */
export interface Ground {
  /**
   * What the message of a sender would take on another channel, with another number or (null) the same; null
   * where it must not go there.
   */
  takesAt: (sender: Sender, channel: Channel, number: number | null, apart: boolean) => Takes | null
  /** What a sender takes where it is. */
  takesNow: (sender: Sender) => Takes
}

/** Cells, each as one number. */
export interface Takes {
  /** For itself alone. */
  own: readonly number[]
  /** Such as all senders of one controller take together: bend and pressure of a channel. */
  wide: readonly number[]
}

/** Takes of several, as one. */
export const together = (all: readonly Takes[]): Takes =>
  all.length === 1 && all[0]
    ? all[0]
    : { own: all.flatMap(({ own }) => own), wide: all.flatMap(({ wide }) => wide) }

type Arrived = ReturnType<typeof emissionCells>

export function groundOf(context: CheckContext, free: ReadonlySet<Sender>): Ground {
  const { rig, occupancy, live } = context
  const { controllers, destinations } = rigIndex(rig)
  const busIndex = new Map(occupancy.buses.map((bus, index) => [bus.id, index]))
  const cellId = (bus: Bus, cell: Cell): number =>
    (busIndex.get(bus.id) ?? 0) * BUS_STRIDE + busCellKey(bus, cell)

  const staying = (bus: Bus, cell: Cell, sender: Sender, shares: boolean): boolean =>
    hitsAt(occupancy, bus, cell).some(
      (hit) =>
        !free.has(hit.sender) &&
        hit.sender.key !== sender.key &&
        (cell.role !== 'carrier' || hit.cell.role === 'main') &&
        (cell.role !== 'channel-wide' || hit.sender.place.controller !== sender.place.controller) &&
        (cell.role !== 'repeatable' || hit.cell.role !== 'repeatable' || isWanting(sender)) &&
        (!shares || live(hit.sender, sender)),
    )

  /** Sort cells by how they are taken; those that may be there more than once are not. */
  const sorted = (sender: Sender, cells: Iterable<[Bus, Cell]>): Takes => {
    const takes = { own: [] as number[], wide: [] as number[] }
    for (const [bus, cell] of cells) {
      if (cell.role === 'main' || (cell.role === 'repeatable' && isWanting(sender)))
        takes.own.push(cellId(bus, cell))
      else if (cell.role === 'channel-wide') takes.wide.push(cellId(bus, cell))
    }
    return takes
  }

  /** Is a plain number the second half of a pair that someone who stays sends? */
  const breaksPair = (bus: Bus, cell: Cell): boolean =>
    cell.space === 'cc' &&
    cell.part === 'whole' &&
    cell.number >= PAIR_DISTANCE &&
    hitsAt(occupancy, bus, { ...cell, number: cell.number - PAIR_DISTANCE }).some(
      (hit) => hit.cell.part === 'first' && !free.has(hit.sender),
    )

  const isHeardByOthers = (bus: Bus, cell: Cell, own: ReadonlySet<Id>): boolean =>
    listenersOn(rig, bus, cell).some(({ mapping }) => mapping === null || !own.has(mapping))

  const duties = new WeakMap<Sender, { own: ReadonlySet<Id>; served: readonly string[] }>()
  /** The mappings of a sender's gesture, and the buses that it must go on reaching. */
  const dutiesOf = (sender: Sender): { own: ReadonlySet<Id>; served: readonly string[] } => {
    const known = duties.get(sender)
    if (known) return known
    const found = {
      own: new Set(mappingsOf(rig, sender.gesture).map(({ id }) => id)),
      served: [...servedBuses(rig, occupancy, sender)],
    }
    duties.set(sender, found)
    return found
  }

  // Where messages arrive that differ in channel and number only: many controls send such.
  const arrivals = new Map<string, Map<number, Arrived | null>>()
  const likes = new WeakMap<Sender, Map<number, Arrived | null>>()
  const arrivalsOf = (sender: Sender): Map<number, Arrived | null> => {
    const known = likes.get(sender)
    if (known) return known
    const { message, place } = sender
    const hasNumber = !('keys' in message) || message.keys.kind === 'one'
    const like = hasNumber ? { ...message, channel: 0, number: 0, keys: 0 } : { ...message, channel: 0 }
    const key = JSON.stringify([place.controller, like])
    const found = arrivals.get(key) ?? new Map<number, Arrived | null>()
    arrivals.set(key, found)
    likes.set(sender, found)
    return found
  }

  return {
    takesNow: (sender) =>
      sorted(
        sender,
        occupancy
          .emissionsOf(sender)
          .flatMap(({ bus, cells }) => cells.map((cell): [Bus, Cell] => [bus, cell])),
      ),
    takesAt: (sender, channel, number, shares) => {
      const controller = controllers.get(sender.place.controller)
      if (!controller) return null
      const there = arrivalsOf(sender)
      const at = channel * NUMBERS + (number ?? 0)
      let arrived = there.get(at)
      if (arrived === undefined) {
        const message = messageAt(rig, sender, channel, number)
        arrived = message && emissionCells(occupancy.reach, controller, message)
        there.set(at, arrived)
      }
      if (arrived === null) return null
      const { own, served } = dutiesOf(sender)
      if (served.some((id) => !arrived.some(({ bus }) => bus.id === id))) return null
      const takes: Array<[Bus, Cell]> = []
      for (const { bus, cells } of arrived) {
        const claims = destinations.get(bus.destination)?.claims ?? []
        for (const cell of cells) {
          if (staying(bus, cell, sender, shares)) return null
          if (cell.role === 'carrier') continue
          if (claims.some((claim) => claimCovers(claim, cell))) return null
          if (breaksPair(bus, cell) || isHeardByOthers(bus, cell, own)) return null
          takes.push([bus, cell])
        }
      }
      return sorted(sender, takes)
    },
  }
}
