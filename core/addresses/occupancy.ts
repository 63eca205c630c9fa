import type { Id, Rig } from '../rig'
import { busesOf, type Bus } from './buses'
import { cellKey, type Cell, type CellAddress } from './cells'
import { emitter, sendersOf, type Emission, type Sender } from './emission'
import { reachOf, waysOf, type Reach, type Way } from './routes'
import type { SenderChange } from './sender-change'

/** One sender in one cell. */
export interface Hit {
  sender: Sender
  cell: Cell
}

/** The cells of every bus with their senders: by bus id, then by the key of `busCellKey`. */
export type CellTable = ReadonlyMap<string, ReadonlyMap<number, readonly Hit[]>>

/** Who sends where. */
export interface Occupancy {
  rig: Rig
  buses: readonly Bus[]
  /** All ways from each controller to each bus. */
  ways: ReadonlyMap<Id, readonly Way[]>
  reach: Reach
  /** Everyone who sends, whether it arrives anywhere or not, in the order of the rig. */
  readonly senders: readonly Sender[]
  /** What all of them occupy, in the same order. */
  readonly emissions: readonly Emission[]
  /** What one of them occupies at every destination. */
  emissionsOf: (sender: Sender) => readonly Emission[]
  readonly cells: CellTable
}

/** The key of a cell on a bus: a bus that merges channels has one cell where others have sixteen. */
export const busCellKey = (bus: Bus, cell: CellAddress): number =>
  cellKey(bus.mergesChannels ? { ...cell, channel: 1 } : cell)

function tableOf(buses: readonly Bus[], emissions: readonly Emission[]): CellTable {
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
  return cells
}

export function occupancyOf(rig: Rig): Occupancy {
  const buses = busesOf(rig)
  const ways = waysOf(rig, buses)
  const reach = reachOf(rig, buses, ways)
  const emissionsOf = emitter(rig, reach)
  const senders = sendersOf(rig)
  const emissions: Emission[] = []
  for (const sender of senders) for (const emission of emissionsOf(sender)) emissions.push(emission)
  return { rig, buses, ways, reach, senders, emissions, emissionsOf, cells: tableOf(buses, emissions) }
}

/** The table after a change; whole buses and cells that it does not touch are shared with the one before. */
function changedTable({ cells, emissionsOf }: Occupancy, { gone, come }: SenderChange): CellTable {
  const table = new Map(cells)
  const own = new Map<string, Map<number, readonly Hit[]>>()
  const onBus = (id: string): Map<number, readonly Hit[]> => {
    const found = own.get(id) ?? new Map(cells.get(id))
    own.set(id, found)
    table.set(id, found)
    return found
  }
  for (const sender of gone) {
    for (const { bus, cells: sent } of emissionsOf(sender)) {
      const hits = onBus(bus.id)
      for (const cell of sent) {
        const key = busCellKey(bus, cell)
        const left = hits.get(key)?.filter((hit) => hit.sender !== sender) ?? []
        if (left.length > 0) hits.set(key, left)
        else hits.delete(key)
      }
    }
  }
  for (const sender of come) {
    for (const { bus, cells: sent } of emissionsOf(sender)) {
      const hits = onBus(bus.id)
      for (const cell of sent) {
        const key = busCellKey(bus, cell)
        const there = hits.get(key) ?? []
        const at = there.findIndex((hit) => hit.sender.order > sender.order)
        hits.set(key, there.toSpliced(at < 0 ? there.length : at, 0, { sender, cell }))
      }
    }
  }
  return table
}

/** The occupancy of `rig`, which differs from that of `before` by a change of senders only. */
export function changedOccupancy(before: Occupancy, rig: Rig, change: SenderChange): Occupancy {
  let senders: readonly Sender[] | undefined
  let emissions: readonly Emission[] | undefined
  const { buses, ways, reach, emissionsOf } = before
  return {
    rig,
    buses,
    ways,
    reach,
    emissionsOf,
    get senders() {
      return (senders ??= sendersOf(rig))
    },
    get emissions() {
      return (emissions ??= this.senders.flatMap(emissionsOf))
    },
    cells: changedTable(before, change),
  }
}

/** A part of an occupancy: only these senders, of whose cells only those that `keep` keeps. Worked out when asked for. */
export function partOf(
  { rig, buses, ways, reach, emissionsOf }: Occupancy,
  of: Iterable<Sender>,
  keep: ((bus: Bus, cell: Cell) => boolean) | null = null,
): Occupancy {
  const kept = (emission: Emission): Emission[] => {
    if (keep === null) return [emission]
    const cells = emission.cells.filter((cell) => keep(emission.bus, cell))
    return cells.length > 0 ? [{ ...emission, cells }] : []
  }
  let senders: readonly Sender[] | undefined
  let emissions: readonly Emission[] | undefined
  let cells: CellTable | undefined
  return {
    rig,
    buses,
    ways,
    reach,
    emissionsOf,
    get senders() {
      return (senders ??= [...of].toSorted((a, b) => a.order - b.order))
    },
    get emissions() {
      return (emissions ??= this.senders.flatMap((sender) => emissionsOf(sender).flatMap(kept)))
    },
    get cells() {
      return (cells ??= tableOf(buses, this.emissions))
    },
  }
}

export const hitsAt = (occupancy: Occupancy, bus: Bus, cell: CellAddress): readonly Hit[] =>
  occupancy.cells.get(bus.id)?.get(busCellKey(bus, cell)) ?? []
