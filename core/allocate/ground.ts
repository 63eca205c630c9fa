import type { Address, Channel } from '../midi'
import { cellsListened, isWanting, type Sender } from '../addresses'
import { isBlocked, reachOf, type CheckContext, type Leaving } from '../conflicts'
import { numberOf, type Id } from '../rig'
import { arrivalsIn } from './arrivals'
import type { Takes } from './takes'

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

/** What lies around senders that may move: everyone else, and who listens. */
export function groundOf(context: CheckContext, free: ReadonlySet<Sender>): Ground {
  const { rig, occupancy, live } = context
  const { cellId, arrivedAt, takesNow, isCarrier } = arrivalsIn(context)

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
    isCarrier,
    takesNow,
    takesAt: (sender, channel, number, { shares, isStranger }) => {
      const arrived = arrivedAt(sender, channel, number)
      if (!arrived || !arrived.twice.every((bus) => twiceNow(sender).includes(bus))) return null
      if (!reachFor(sender).isEnough(arrived.isAt)) return null
      const leaving: Leaving = { goes, meets: shares ? live : null, isStranger }
      for (const { bus, cells } of arrived.at)
        for (const cell of cells) if (isBlocked(rig, occupancy, bus, cell, sender, leaving)) return null
      return arrived.takes(isWanting(sender))
    },
    arrivesIn: (sender, channel, number) => arrivedAt(sender, channel, number)?.cells() ?? [],
    cellsHeard,
  }
}
