import { PARAMETER_CARRIERS, type Channel } from '../midi'
import {
  busCellKey,
  emissionCells,
  emissionsIn,
  isWanting,
  type Bus,
  type Cell,
  type CellAddress,
  type Sender,
} from '../addresses'
import { arrivesTwice, messageAt, type CheckContext } from '../conflicts'
import {
  memo,
  memoOf,
  resolveChannel,
  rigIndex,
  stableList,
  withChannel,
  type Id,
  type Message,
} from '../rig'
import { takesOf, type Takes } from './takes'

/** Numbers of a channel. */
const NUMBERS = 2 ** 14
/** One cell of one destination, as one number. */
const BUS_STRIDE = 2 ** 24

/** Where a message arrives. */
export interface Arrived {
  at: ReturnType<typeof emissionCells>
  /** Every cell in which it arrives, as numbers. */
  cells: () => ReadonlySet<number>
  /** What it takes there, of one that wants a number or of another. */
  takes: (wantsNumber: boolean) => Takes
  isAt: (bus: Id) => boolean
  /** The buses to which it comes twice, by different cables. */
  twice: readonly Id[]
}

/** Where messages would arrive, whoever moves: worked out once for the same cables, destinations and home channels. */
export interface Arrivals {
  /** A cell of a bus as one number. */
  cellId: (bus: Bus, cell: CellAddress) => number
  /** What a sender takes where it is. */
  takesNow: (sender: Sender) => Takes
  /** Could a cell that someone takes carry a parameter? */
  isCarrier: (cell: number) => boolean
  /** The message of a sender on another channel, with another number or (null) the same; null where it cannot be sent there. */
  arrivedAt: (sender: Sender, channel: Channel, number: number | null) => Arrived | null
}

/** What of a message is said beside some of its fields, as text. */
const saidBeside = (message: Message, fields: readonly string[]): string =>
  JSON.stringify(Object.entries(message).filter(([field]) => !fields.includes(field)))

/** Which values a message sends, and how, does not tell where it arrives. */
const VALUES = ['channel', 'behaviour', 'range']

/** What of a message tells where it arrives, beside its channel. */
const valueless = memoOf((message: Message): string => saidBeside(message, VALUES))

/** What of a message tells where it arrives, beside channel and number. */
export const numberless = memoOf((message: Message): string =>
  saidBeside(
    message,
    !('keys' in message) || message.keys.kind === 'one' ? [...VALUES, 'number', 'keys'] : VALUES,
  ),
)

const sameHomes = stableList<unknown>()

export const arrivalsIn: (context: CheckContext) => Arrivals = memo(
  ({ rig, occupancy: { delivery } }) => [
    delivery,
    sameHomes(rig.controllers.flatMap(({ id, homeChannel }) => [id, homeChannel])),
  ],
  findArrivals,
)

function findArrivals({ rig, occupancy: { delivery } }: CheckContext): Arrivals {
  const { controllers } = rigIndex(rig)
  const busIndex = new Map(delivery.buses.map((bus, index) => [bus.id, index]))
  const cellId = (bus: Bus, cell: CellAddress): number =>
    (busIndex.get(bus.id) ?? 0) * BUS_STRIDE + busCellKey(bus, cell)
  const carriers = new Set<number>()
  const takenAt = (at: ReadonlyArray<{ bus: Bus; cells: readonly Cell[] }>, wantsNumber: boolean): Takes => {
    for (const { bus, cells } of at)
      for (const cell of cells)
        if (cell.kind === 'cc' && PARAMETER_CARRIERS.includes(cell.number)) carriers.add(cellId(bus, cell))
    return takesOf(at, cellId, wantsNumber)
  }

  // Many controls send messages that differ in channel and number only, or in the channel only.
  const byLikeness = new Map<string, Map<number, Arrived | null>>()
  const finder = (like: (message: Message) => string) => {
    const bySender = new WeakMap<Sender, Map<number, Arrived | null>>()
    return (sender: Sender): Map<number, Arrived | null> => {
      const known = bySender.get(sender)
      if (known) return known
      const { message, place } = sender
      const key = `${place.controller} ${like(message)}`
      const found = byLikeness.get(key) ?? new Map<number, Arrived | null>()
      byLikeness.set(key, found)
      bySender.set(sender, found)
      return found
    }
  }
  const withNumbers = finder(numberless)
  const withItsNumber = finder(valueless)

  const arrive = (sender: Sender, channel: Channel, number: number | null): Arrived | null => {
    const controller = controllers.get(sender.place.controller)
    const message = controller && messageAt(rig, sender, channel, number)
    if (!message) return null
    const at = emissionCells(delivery, controller, message)
    let ids: ReadonlySet<number> | null = null
    let ofWanting: Takes | null = null
    let ofNumbered: Takes | null = null
    const sent = withChannel(message, resolveChannel(message.channel, controller.homeChannel))
    return {
      at,
      twice: arrivesTwice(rig, delivery, controller, sent, at),
      cells: () => (ids ??= new Set(at.flatMap(({ bus, cells }) => cells.map((cell) => cellId(bus, cell))))),
      takes: (wantsNumber) =>
        wantsNumber ? (ofWanting ??= takenAt(at, true)) : (ofNumbered ??= takenAt(at, false)),
      isAt: (id) => at.some(({ bus }) => bus.id === id),
    }
  }

  return {
    cellId,
    takesNow: (sender) => takenAt(emissionsIn(delivery, sender), isWanting(sender)),
    isCarrier: (cell) => carriers.has(cell),
    arrivedAt: (sender, channel, number) => {
      const known = number === null ? withItsNumber(sender) : withNumbers(sender)
      const key = channel * NUMBERS + (number ?? 0)
      const before = known.get(key)
      if (before !== undefined) return before
      const found = arrive(sender, channel, number)
      known.set(key, found)
      return found
    },
  }
}
