import { PARAMETER_CARRIERS, type Address, type Channel } from '../midi'
import { cellsListened, isWanting, type Bus, type Cell, type Sender } from '../addresses'
import { isBlocked, reachOf, type CheckContext } from '../conflicts'
import { numberOf, type Id } from '../rig'
import { arrivalsIn } from './arrivals'

const SEVEN_BITS = Array.from({ length: 128 }, (_, number) => number)

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
  /** The buses to which a sender's message comes twice on its channel, or would with any number: that is no fault of a plan. */
  twiceNow: (sender: Sender) => readonly Id[]
  /** Could a cell that someone takes carry a parameter? */
  isCarrier: (cell: number) => boolean
  /** Every cell in which a sender's message would arrive on another channel, with another number or (null) the same. */
  arrivesIn: (sender: Sender, channel: Channel, number: number | null) => Iterable<number>
  /** The cells in which an address of a destination is heard. */
  cellsHeard: (listening: Listening) => readonly number[]
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

/** What lies around senders that may move: everyone else, and who listens. */
export function groundOf(context: CheckContext, free: ReadonlySet<Sender>): Ground {
  const { rig, occupancy, live } = context
  const { cellId, arrivedAt } = arrivalsIn(context)

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
  const twiceNow = (sender: Sender): readonly Id[] => {
    const own = numberOf(sender.message)
    if (!isWanting(sender)) return arrivedAt(sender, sender.channel, own)?.twice ?? []
    for (const number of SEVEN_BITS) {
      const there = arrivedAt(sender, sender.channel, number)
      if (there && there.at.length > 0) return there.twice
    }
    return []
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
    twiceNow,
    isCarrier: (cell) => carriers.has(cell),
    takesNow: (sender) =>
      sorted(
        sender,
        occupancy
          .emissionsOf(sender)
          .flatMap(({ bus, cells }) => cells.map((cell): [Bus, Cell] => [bus, cell])),
      ),
    takesAt: (sender, channel, number, { shares, isStranger }) => {
      const { at: arrived, twice = [] } = arrivedAt(sender, channel, number) ?? {}
      if (!arrived || !twice.every((bus) => twiceNow(sender).includes(bus))) return null
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
    arrivesIn: (sender, channel, number) => arrivedAt(sender, channel, number)?.cells() ?? [],
    cellsHeard,
  }
}
