import { PAIR_DISTANCE, type Channel } from '../../midi'
import {
  claimCovers,
  hitsAt,
  isWanting,
  type Bus,
  type Cell,
  type Hit,
  type Occupancy,
  type Sender,
} from '../../addresses'
import { listenersOn, type Listener } from '../../mappings'
import {
  fitsNumber,
  mappingsOf,
  rigIndex,
  withChannel,
  withNumber,
  type ChannelMessage,
  type Rig,
} from '../../rig'
import { isChannelMessage } from '../../midi'
import { classRank } from './rank'

/** Who is looked past when it is asked whether a cell is free. */
export interface Leaving {
  /** Is a sender going elsewhere, so that what it has now does not count? */
  goes: (sender: Sender) => boolean
  /** Must two senders not share a cell, even if they could? Null: they never may. */
  meets: ((a: Sender, b: Sender) => boolean) | null
  /** Is it asked for one that is joined to nothing, so that every parameter that listens is in the way? */
  isStranger?: boolean
}

/** How little a number is wanted for a message; null if it is never given. Only controller numbers have classes. */
export const numberRank = (message: ChannelMessage, number: number): number | null =>
  message.kind === 'cc' || message.kind === 'cc14' ? classRank(number) : 0

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
  const isHome = channel === home && 'channel' in message && message.channel === 'home'
  const there = withChannel(message, isHome ? 'home' : channel)
  const moved = number === null ? there : withNumber(there, number)
  return isChannelMessage(moved) ? moved : null
}

/**
 * Why a sender could not have a cell of a bus: someone who stays is there, a destination keeps it, it would break a
 * pair, or a parameter listens there that is not its own.
 */
export function isBlocked(
  rig: Rig,
  occupancy: Occupancy,
  bus: Bus,
  cell: Cell,
  sender: Sender,
  { goes, meets, isStranger = false }: Leaving,
): boolean {
  for (const hit of hitsAt(occupancy, bus, cell))
    if (
      stays(hit, sender, goes) &&
      (cell.role !== 'carrier' || hit.cell.role === 'main') &&
      (cell.role !== 'channel-wide' || hit.sender.place.controller !== sender.place.controller) &&
      (cell.role !== 'repeatable' || hit.cell.role !== 'repeatable' || isWanting(sender)) &&
      (meets === null || meets(hit.sender, sender))
    )
      return true
  if (cell.role === 'carrier') return false
  for (const claim of rigIndex(rig).destinations.get(bus.destination)?.claims ?? [])
    if (claimCovers(claim, cell)) return true
  const listeners = listenersOn(rig, bus, cell)
  if (listeners.length > 0 && (isStranger || isHeardByOthers(rig, listeners, sender))) return true
  return breaksPair(occupancy, bus, cell, listeners, sender, goes)
}

const stays = ({ sender: other }: Hit, sender: Sender, goes: Leaving['goes']): boolean =>
  other.key !== sender.key && !goes(other)

/**
 * Would a plain number be half of a pair: the LSB of one that someone who stays sends, or half of one that is listened for and of
 * which another control that stays sends the other half?
 */
function breaksPair(
  occupancy: Occupancy,
  bus: Bus,
  cell: Cell,
  listeners: readonly Listener[],
  sender: Sender,
  goes: Leaving['goes'],
): boolean {
  if (cell.kind !== 'cc' || cell.part !== 'whole') return false
  const hitsWith = (number: number): readonly Hit[] => hitsAt(occupancy, bus, { ...cell, number })
  if (cell.number >= PAIR_DISTANCE)
    for (const hit of hitsWith(cell.number - PAIR_DISTANCE))
      if (hit.cell.part === 'msb' && hit.cell.role === 'main' && stays(hit, sender, goes)) return true
  for (const { address } of listeners) {
    const { target } = address
    if (target.kind !== 'cc14') continue
    const otherHalf = target.number === cell.number ? cell.number + PAIR_DISTANCE : target.number
    for (const hit of hitsWith(otherHalf))
      if (
        hit.cell.part === 'whole' &&
        hit.cell.role === 'main' &&
        hit.sender.gesture !== sender.gesture &&
        stays(hit, sender, goes)
      )
        return true
  }
  return false
}

/** Is a parameter among those that listen that a sender is not joined to? */
function isHeardByOthers(rig: Rig, listeners: readonly Listener[], { gesture }: Sender): boolean {
  const own = mappingsOf(rig, gesture)
  return listeners.some(({ mapping }) => own.every(({ id }) => id !== mapping))
}

/** What a sender has to go on reaching. */
export interface Reach {
  /** Is it enough to reach these buses? */
  isEnough: (isReached: (bus: string) => boolean) => boolean
  /** The same for senders for whom the same is enough. */
  key: string
}

/**
 * What a sender has to go on reaching: all that it reaches now of the destinations it is joined to, or one of those that
 * it reaches now if it is joined to none of them.
 */
export function reachOf(rig: Rig, occupancy: Occupancy, sender: Sender): Reach {
  const reached = occupancy.emissionsOf(sender).map(({ bus }) => bus)
  const joined = new Set(mappingsOf(rig, sender.gesture).map(({ destination }) => destination))
  const served = reached.filter((bus) => joined.has(bus.destination))
  const [all, some] = [served, reached].map((buses) => [...new Set(buses.map(({ id }) => id))].toSorted())
  return served.length > 0
    ? { isEnough: (isReached) => served.every(({ id }) => isReached(id)), key: `all ${all?.join(' ')}` }
    : {
        isEnough: (isReached) => reached.length === 0 || reached.some(({ id }) => isReached(id)),
        key: `some ${some?.join(' ')}`,
      }
}
