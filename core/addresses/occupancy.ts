import type { Id, Rig } from '../rig'
import { busesOf, type Bus } from './buses'
import { cellKey, type Cell, type CellAddress } from './cells'
import { emit, sendersOf, type Emission, type Sender } from './emission'
import { reachOf, waysOf, type Reach, type Way } from './routes'

/** One sender in one cell. */
export interface Hit {
  sender: Sender
  cell: Cell
}

/** Who sends where: the cells of every bus with their senders. */
export interface Occupancy {
  rig: Rig
  buses: readonly Bus[]
  /** All ways from each controller to each bus. */
  ways: ReadonlyMap<Id, readonly Way[]>
  reach: Reach
  /** Everyone who sends, whether it arrives anywhere or not, in the order of the rig. */
  senders: readonly Sender[]
  emissions: readonly Emission[]
  /** By bus id, then by the key of `busCellKey`. */
  cells: ReadonlyMap<string, ReadonlyMap<number, readonly Hit[]>>
}

/** The key of a cell on a bus: a bus that merges channels has one cell where others have sixteen. */
export const busCellKey = (bus: Bus, cell: CellAddress): number =>
  cellKey(bus.mergesChannels ? { ...cell, channel: 1 } : cell)

export function occupancyOf(rig: Rig): Occupancy {
  const buses = busesOf(rig)
  const ways = waysOf(rig, buses)
  const reach = reachOf(rig, buses, ways)
  const senders = sendersOf(rig)
  const emissions = emit(rig, buses, reach, senders)
  const cells = new Map<string, Map<number, Hit[]>>(buses.map((bus) => [bus.id, new Map()]))
  for (const { sender, bus, cells: sent } of emissions) {
    const onBus = cells.get(bus.id)
    if (!onBus) continue
    for (const cell of sent) {
      const key = busCellKey(bus, cell)
      const hits = onBus.get(key)
      if (hits) hits.push({ sender, cell })
      else onBus.set(key, [{ sender, cell }])
    }
  }
  return { rig, buses, ways, reach, senders, emissions, cells }
}

export const hitsAt = (occupancy: Occupancy, bus: Bus, cell: CellAddress): readonly Hit[] =>
  occupancy.cells.get(bus.id)?.get(busCellKey(bus, cell)) ?? []
