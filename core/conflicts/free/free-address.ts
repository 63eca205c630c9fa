import { emissionCells, type Bus, type Cell, type Occupancy, type Sender } from '../../addresses'
import { CHANNELS, type Channel } from '../../midi'
import {
  fitsNumber,
  numberBounds,
  numberOf,
  rigIndex,
  type ChannelMessage,
  type Controller,
  type Rig,
} from '../../rig'
import { isBlocked, messageAt, numberRank, reachOf, type Leaving, type Reach } from './obstacles'
import { covers, preferencesAt } from './preferences'

/** Cells that moves planned so far have taken: bus id and cell, as text. */
export type Taken = Set<string>

const takenKey = (bus: Bus, cell: Cell): string =>
  `${bus.id}|${cell.kind}|${bus.mergesChannels ? '' : cell.channel}|${cell.number}`

/** Finds free addresses in one rig; what it gives out is taken for its next answers. */
export interface FreeAddresses {
  /** The nearest free address of the same kind, on the sender's own channel first; null if there is none. */
  nearest: (sender: Sender, taken: Taken) => ChannelMessage | null
  /** The lowest numbers that are free for a sender on its own channel, so many at most, and the buses it would reach there. */
  onChannel: (sender: Sender, atMost: number) => { numbers: number[]; buses: string[] }
}

/** Is a number free? What carries parameters is the same for all of a channel: where that is taken, none is. */
type Room = 'free' | 'taken' | 'none-on-channel'

const NOBODY: Leaving = { goes: () => false, meets: null }
const ANYWHERE = (): boolean => true

/** Find free addresses among who sends and who listens in a rig. */
export function freeAddresses(rig: Rig, occupancy: Occupancy): FreeAddresses {
  const roomFor = (
    controller: Controller,
    sender: Sender,
    message: ChannelMessage,
    isEnough: Reach['isEnough'],
    taken: Taken,
  ): Room => {
    const arrivals = emissionCells(occupancy.delivery, controller, message)
    const reached = new Set(arrivals.map(({ bus }) => bus.id))
    if (!isEnough((id) => reached.has(id))) return 'taken'
    for (const { bus, cells } of arrivals)
      for (const cell of cells)
        if (taken.has(takenKey(bus, cell)) || isBlocked(rig, occupancy, bus, cell, sender, NOBODY)) {
          const isForAll = cell.role === 'carrier' && occupancy.delivery.open.has(controller.id)
          return isForAll ? 'none-on-channel' : 'taken'
        }
    return 'free'
  }

  const take = (controller: Controller, message: ChannelMessage, taken: Taken): void => {
    for (const { bus, cells } of emissionCells(occupancy.delivery, controller, message)) {
      for (const cell of cells) taken.add(takenKey(bus, cell))
    }
  }

  /** The numbers that a house rule does not forbid a sender on a channel, each with how little it is wanted. */
  function* allowed(sender: Sender, channel: Channel): Generator<{ number: number; rank: number }> {
    const bounds = numberBounds(sender.message.kind)
    if (bounds === null) return
    const rules = preferencesAt(rig, [], sender.place, sender.message.kind)
    const avoid = rules.filter(({ kind }) => kind === 'avoid')
    for (let number = bounds.low; number <= bounds.high; number++) {
      if (!fitsNumber(sender.message.kind, number)) continue
      const rank = numberRank(sender.message as ChannelMessage, number)
      if (rank !== null && !avoid.some((rule) => covers(rule, channel, number))) yield { number, rank }
    }
  }

  return {
    onChannel: (sender, atMost) => {
      const controller = rigIndex(rig).controllers.get(sender.place.controller)
      if (!controller) return { numbers: [], buses: [] }
      const buses = new Set<string>()
      const numbers: number[] = []
      for (const { number } of allowed(sender, sender.channel)) {
        if (numbers.length >= atMost) break
        const message = messageAt(rig, sender, sender.channel, number)
        if (!message) continue
        for (const { bus } of emissionCells(occupancy.delivery, controller, message)) buses.add(bus.id)
        const room = roomFor(controller, sender, message, ANYWHERE, new Set())
        if (room === 'none-on-channel') break
        if (room === 'free') numbers.push(number)
      }
      return { numbers, buses: [...buses].toSorted() }
    },
    nearest: (sender, taken) => {
      const controller = rigIndex(rig).controllers.get(sender.place.controller)
      const from = numberOf(sender.message)
      if (!controller || from === null) return null
      const { isEnough } = reachOf(rig, occupancy, sender)
      for (const channel of outward(CHANNELS, sender.channel, (each) => each)) {
        const candidates = outward([...allowed(sender, channel)], from, ({ number }) => number)
          .filter(({ number }) => number !== from || channel !== sender.channel)
          .toSorted((a, b) => a.rank - b.rank)
        for (const { number } of candidates) {
          const message = messageAt(rig, sender, channel, number)
          if (!message) continue
          const room = roomFor(controller, sender, message, isEnough, taken)
          if (room === 'none-on-channel') break
          if (room === 'free') {
            take(controller, message, taken)
            return message
          }
        }
      }
      return null
    },
  }
}

/** Nearest to `from` first, the higher of two equally near first. */
const outward = <T>(items: readonly T[], from: number, at: (item: T) => number): T[] =>
  items.toSorted((a, b) => Math.abs(at(a) - from) - Math.abs(at(b) - from) || at(b) - at(a))
