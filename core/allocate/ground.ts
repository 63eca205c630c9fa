import { PARAMETER_CARRIERS, type Address, type Channel } from '../midi'
import {
  busCellKey,
  cellsListened,
  emissionCells,
  isWanting,
  type Bus,
  type Cell,
  type CellAddress,
  type Sender,
} from '../addresses'
import { isBlocked, messageAt, reachOf, type CheckContext } from '../conflicts'
import { rigIndex, type Id, type Message } from '../rig'

/** Numbers of a channel. */
const NUMBERS = 2 ** 14
/** One cell of one destination, as one number. */
const BUS_STRIDE = 2 ** 24

/** What lies around the free senders: who stays, what is kept, who listens. */
export interface Ground {
  /**
   * What the message of a sender would take on another channel, with another number or (null) the same; null
   * where it must not go there. `isStranger` asks as for one that is joined to nothing.
   */
  takesAt: (
    sender: Sender,
    channel: Channel,
    number: number | null,
    options: { shares: boolean; isStranger: boolean },
  ) => Takes | null
  /** What a sender takes where it is. */
  takesNow: (sender: Sender) => Takes
  /** Could a cell that someone takes carry a parameter? */
  isCarrier: (cell: number) => boolean
  /** Does a sender's message arrive in a cell at which an address of a destination is heard, on another channel or with another number? */
  comesNear: (sender: Sender, channel: Channel, number: number | null, listening: Listening) => boolean
}

/** Where a destination hears something. */
export interface Listening {
  destination: Id
  address: Address
}

/** Cells, each as one number. */
export interface Takes {
  /** For itself alone. */
  own: readonly number[]
  /** Such as all senders of one controller take together: bend and pressure of a channel. */
  wide: readonly number[]
  /** What carries a parameter: shared among parameters, and nobody else may send it. */
  carried: readonly number[]
}

/** Takes of several, as one. */
export const together = (all: readonly Takes[]): Takes =>
  all.length === 1 && all[0]
    ? all[0]
    : {
        own: all.flatMap(({ own }) => own),
        wide: all.flatMap(({ wide }) => wide),
        carried: all.flatMap(({ carried }) => carried),
      }

/** What of a message tells where it arrives, beside channel and number: not which values it sends, and how. */
export function valueless(message: Message): object {
  const like = { ...message, channel: 0, behaviour: 0, range: 0 }
  return !('keys' in message) || message.keys.kind === 'one' ? { ...like, number: 0, keys: 0 } : like
}

interface Arrived {
  at: ReturnType<typeof emissionCells>
  /** Every cell in which it arrives, worked out when asked for. */
  cells?: ReadonlySet<number>
}

/** What lies around senders that may move: everyone else, and who listens. */
export function groundOf(context: CheckContext, free: ReadonlySet<Sender>): Ground {
  const { rig, occupancy, live } = context
  const { controllers } = rigIndex(rig)
  const busIndex = new Map(occupancy.buses.map((bus, index) => [bus.id, index]))
  const cellId = (bus: Bus, cell: CellAddress): number =>
    (busIndex.get(bus.id) ?? 0) * BUS_STRIDE + busCellKey(bus, cell)

  const carriers = new Set<number>()
  /** Sort cells by how they are taken; those that may be there more than once are not. */
  const sorted = (sender: Sender, cells: Iterable<[Bus, Cell]>): Takes => {
    const takes = { own: [] as number[], wide: [] as number[], carried: [] as number[] }
    for (const [bus, cell] of cells) {
      if (cell.kind === 'cc' && PARAMETER_CARRIERS.includes(cell.number)) carriers.add(cellId(bus, cell))
      if (cell.role === 'main' || (cell.role === 'repeatable' && isWanting(sender)))
        takes.own.push(cellId(bus, cell))
      else if (cell.role === 'channel-wide') takes.wide.push(cellId(bus, cell))
      else if (cell.role === 'carrier') takes.carried.push(cellId(bus, cell))
    }
    return takes
  }

  const enough = new WeakMap<Sender, ReturnType<typeof reachOf>>()
  /** Whether what a sender reaches is enough for it. */
  const reachFor = (sender: Sender): ReturnType<typeof reachOf> => {
    const known = enough.get(sender) ?? reachOf(rig, occupancy, sender)
    enough.set(sender, known)
    return known
  }
  const goes = (sender: Sender): boolean => free.has(sender)

  // Where messages arrive that differ in channel and number only: many controls send such.
  const arrivals = new Map<string, Map<number, Arrived | null>>()
  const likes = new WeakMap<Sender, Map<number, Arrived | null>>()
  const arrivalsOf = (sender: Sender): Map<number, Arrived | null> => {
    const known = likes.get(sender)
    if (known) return known
    const { message, place } = sender
    const key = JSON.stringify([place.controller, valueless(message)])
    const found = arrivals.get(key) ?? new Map<number, Arrived | null>()
    arrivals.set(key, found)
    likes.set(sender, found)
    return found
  }

  const arrivedAt = (sender: Sender, channel: Channel, number: number | null): Arrived | null => {
    const controller = controllers.get(sender.place.controller)
    if (!controller) return null
    const known = arrivalsOf(sender)
    const at = channel * NUMBERS + (number ?? 0)
    const before = known.get(at)
    if (before !== undefined) return before
    const message = messageAt(rig, sender, channel, number)
    const found = message && { at: emissionCells(occupancy.delivery, controller, message) }
    known.set(at, found)
    return found
  }
  const heard = new Map<Listening, readonly number[]>()
  const cellsHeard = (listening: Listening): readonly number[] => {
    const known = heard.get(listening)
    if (known) return known
    const found = occupancy.buses
      .filter(({ destination }) => destination === listening.destination)
      .flatMap((bus) => cellsListened(listening.address).map((cell) => cellId(bus, cell)))
    heard.set(listening, found)
    return found
  }

  return {
    isCarrier: (cell) => carriers.has(cell),
    takesNow: (sender) =>
      sorted(
        sender,
        occupancy
          .emissionsOf(sender)
          .flatMap(({ bus, cells }) => cells.map((cell): [Bus, Cell] => [bus, cell])),
      ),
    takesAt: (sender, channel, number, { shares, isStranger }) => {
      const arrived = arrivedAt(sender, channel, number)?.at
      if (!arrived) return null
      if (!reachFor(sender).isEnough((id) => arrived.some(({ bus }) => bus.id === id))) return null
      const takes: Array<[Bus, Cell]> = []
      for (const { bus, cells } of arrived) {
        for (const cell of cells) {
          if (isBlocked(rig, occupancy, bus, cell, sender, { goes, meets: shares ? live : null, isStranger }))
            return null
          takes.push([bus, cell])
        }
      }
      return sorted(sender, takes)
    },
    comesNear: (sender, channel, number, listening) => {
      const arrived = arrivedAt(sender, channel, number)
      if (!arrived) return false
      arrived.cells ??= new Set(
        arrived.at.flatMap(({ bus, cells }) => cells.map((cell) => cellId(bus, cell))),
      )
      for (const cell of cellsHeard(listening)) if (arrived.cells.has(cell)) return true
      return false
    },
  }
}
