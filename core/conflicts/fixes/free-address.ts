import { canBePairFirst, controllerClass, PAIR_DISTANCE, type Channel } from '../../midi'
import {
  claimCovers,
  emissionCells,
  hitsAt,
  type Bus,
  type Cell,
  type Occupancy,
  type Sender,
} from '../../addresses'
import { listenersOn } from '../../mappings'
import {
  fitsNumber,
  mappingsOf,
  numberBounds,
  numberOf,
  rigIndex,
  withChannel,
  withNumber,
  type ChannelMessage,
  type Controller,
  type Rig,
} from '../../rig'

/** Cells that moves planned so far have taken: bus id and cell, as text. */
export type Taken = Set<string>

const takenKey = (bus: Bus, cell: Cell): string =>
  `${bus.id}|${cell.space}|${bus.mergesChannels ? '' : cell.channel}|${cell.number}`

/** Can a number be given at all, and how good is it? Lower is better; null is never. */
function numberRank(rig: Rig, message: ChannelMessage, channel: Channel, number: number): 0 | 1 | null {
  const avoided = rig.houseRules.some(
    (rule) =>
      rule.kind === 'avoid' &&
      (rule.message === message.kind || (rule.message === 'cc' && message.kind === 'cc14')) &&
      (rule.channel === null || rule.channel === channel) &&
      number >= rule.low &&
      number <= rule.high,
  )
  if (avoided) return null
  if (message.kind === 'cc14') {
    return canBePairFirst(number) && controllerClass(number) !== 'standard' ? 0 : null
  }
  if (message.kind !== 'cc') return 0
  switch (controllerClass(number)) {
    case 'undefined':
    case 'general-purpose':
      return 0
    case 'second-of-pair':
      return 1
    default:
      return null
  }
}

/** Finds free addresses in one rig; what it gives out is taken for its next answers. */
export interface FreeAddresses {
  /** The nearest free address of the same kind, on the sender's own channel first; null if there is none. */
  nearest: (sender: Sender, taken: Taken) => ChannelMessage | null
  /** The lowest numbers that are free for a sender on its own channel, so many at most, and the buses it would reach there. */
  onChannel: (sender: Sender, atMost: number) => { numbers: number[]; buses: string[] }
}

export function freeAddresses(rig: Rig, occupancy: Occupancy): FreeAddresses {
  const cellIsFree = (bus: Bus, cell: Cell, sender: Sender, taken: Taken): boolean => {
    if (taken.has(takenKey(bus, cell))) return false
    if (hitsAt(occupancy, bus, cell).some((hit) => hit.sender.key !== sender.key)) return false
    const destination = rigIndex(rig).destinations.get(bus.destination)
    if (destination?.claims.some((claim) => claimCovers(claim, cell))) return false
    return listenersOn(rig, bus, cell).length === 0
  }

  /** A plain number is not free if it is the second half of a pair that someone sends or hears. */
  const breaksPair = (bus: Bus, cell: Cell): boolean => {
    if (cell.space !== 'cc' || cell.part !== 'whole' || cell.number < PAIR_DISTANCE) return false
    const first = { ...cell, number: cell.number - PAIR_DISTANCE }
    return hitsAt(occupancy, bus, first).some((hit) => hit.cell.part === 'first')
  }

  const isFree = (
    controller: Controller,
    sender: Sender,
    message: ChannelMessage,
    mustReach: ReadonlySet<string>,
    taken: Taken,
  ): boolean => {
    const arrivals = emissionCells(occupancy.reach, controller, message)
    const reached = new Set(arrivals.map(({ bus }) => bus.id))
    if ([...mustReach].some((id) => !reached.has(id))) return false
    return arrivals.every(({ bus, cells }) =>
      cells.every((cell) => cellIsFree(bus, cell, sender, taken) && !breaksPair(bus, cell)),
    )
  }

  const take = (controller: Controller, message: ChannelMessage, taken: Taken): void => {
    for (const { bus, cells } of emissionCells(occupancy.reach, controller, message)) {
      for (const cell of cells) taken.add(takenKey(bus, cell))
    }
  }

  return {
    onChannel: (sender, atMost) => {
      const controller = rigIndex(rig).controllers.get(sender.place.controller)
      const bounds = numberBounds(sender.message.kind)
      if (!controller || bounds === null) return { numbers: [], buses: [] }
      const buses = new Set<string>()
      const numbers: number[] = []
      for (let number = bounds.low; number <= bounds.high && numbers.length < atMost; number++) {
        if (!fitsNumber(sender.message.kind, number)) continue
        const message = withNumber(sender.message, number) as ChannelMessage
        for (const { bus } of emissionCells(occupancy.reach, controller, message)) buses.add(bus.id)
        const rank = numberRank(rig, message, sender.channel, number)
        if (rank !== null && isFree(controller, sender, message, NOWHERE, new Set())) numbers.push(number)
      }
      return { numbers, buses: [...buses].toSorted() }
    },
    nearest: (sender, taken) => {
      const controller = rigIndex(rig).controllers.get(sender.place.controller)
      const from = numberOf(sender.message)
      const bounds = numberBounds(sender.message.kind)
      if (!controller || from === null || bounds === null) return null
      const mustReach = servedBuses(rig, occupancy, sender)
      for (const channel of channelsOutward(sender.channel)) {
        const onChannel =
          channel === sender.channel
            ? sender.message
            : (withChannel(sender.message, channel) as ChannelMessage)
        const candidates = numbersOutward(from, bounds.low, bounds.high)
          .map((number) => ({ number, rank: numberRank(rig, onChannel, channel, number) }))
          .filter(({ number, rank }) => rank !== null && !(number === from && channel === sender.channel))
          .sort((a, b) => (a.rank ?? 0) - (b.rank ?? 0))
        for (const { number } of candidates) {
          const message = withNumber(onChannel, number) as ChannelMessage
          if (isFree(controller, sender, message, mustReach, taken)) {
            take(controller, message, taken)
            return message
          }
        }
      }
      return null
    },
  }
}

const NOWHERE: ReadonlySet<string> = new Set()

/** The buses that a sender must go on reaching: those of the destinations it is joined to, or all if it is joined to none. */
export function servedBuses(rig: Rig, occupancy: Occupancy, sender: Sender): ReadonlySet<string> {
  const reached = occupancy.emissionsOf(sender).map(({ bus }) => bus)
  const joined = new Set(mappingsOf(rig, sender.gesture).map(({ destination }) => destination))
  const served = reached.filter((bus) => joined.has(bus.destination))
  return new Set((served.length > 0 ? served : reached).map(({ id }) => id))
}

/** 1–16, nearest to `from` first, the higher of two equally near first. */
const channelsOutward = (from: Channel): Channel[] => numbersOutward(from, 1, 16)

function numbersOutward(from: number, low: number, high: number): number[] {
  const all = Array.from({ length: high - low + 1 }, (_, index) => low + index)
  return all.sort((a, b) => Math.abs(a - from) - Math.abs(b - from) || b - a)
}
