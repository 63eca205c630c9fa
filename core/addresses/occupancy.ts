import type { MessageKind, Rig } from '../rig'
import type { Bus } from './buses'
import { deliveryOf, type Delivery } from './delivery'
import { cellKey, type Cell, type CellAddress } from './cells'
import { emissionsIn, sendersOf, type Emission, type Sender } from './emission'
import { senderIndex, type SenderIndex } from './sender-index'
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
  delivery: Delivery
  /** Everyone who sends, whether it arrives anywhere or not, in the order of the rig. */
  readonly senders: readonly Sender[]
  /** The same by what they send. */
  readonly index: SenderIndex
  /** What all of them occupy, in the same order. Many: whoever needs only some asks `arriving`. */
  readonly emissions: readonly Emission[]
  /** What some of them occupy, in the order given, as far as it is looked at. */
  arriving: (senders: readonly Sender[]) => Emission[]
  /** What arrives of those who send messages of these kinds, or whose messages a cable may turn into such. */
  arrivingAs: (kinds: readonly MessageKind[]) => Emission[]
  /** What one of them occupies at every destination. */
  emissionsOf: (sender: Sender) => readonly Emission[]
  readonly cells: CellTable
}

/** The key of a cell on a bus: a bus that merges channels has one cell where others have sixteen. */
export const busCellKey = (bus: Bus, cell: CellAddress): number =>
  cellKey(bus.mergesChannels ? { ...cell, channel: 1 } : cell)

function tableOf(
  buses: readonly Bus[],
  senders: readonly Sender[],
  emissionsOf: (sender: Sender) => readonly Emission[],
): CellTable {
  const cells = new Map<string, Map<number, Hit[]>>(buses.map((bus) => [bus.id, new Map()]))
  for (const sender of senders) {
    // Most arrive at several destinations as the same cell, and are one hit there.
    let last: Hit | null = null
    for (const { bus, cells: sent } of emissionsOf(sender)) {
      const onBus = cells.get(bus.id)
      if (!onBus) continue
      for (const cell of sent) {
        const key = busCellKey(bus, cell)
        const hit: Hit = last?.cell === cell ? last : { sender, cell }
        last = hit
        const hits = onBus.get(key)
        if (hits) hits.push(hit)
        else onBus.set(key, [hit])
      }
    }
  }
  return cells
}

type Base = Pick<Occupancy, 'rig' | 'buses' | 'delivery' | 'emissionsOf'>

/** From what an occupancy follows. */
interface Sources {
  listed: () => readonly Sender[]
  /** What of a sender is looked at. */
  kept: (sender: Sender) => readonly Emission[]
  tabled: () => CellTable
}

/**
 * What follows from who sends, each worked out when it is first asked for. A class, so that all are laid out alike: engines
 * compile anew for each layout, and this is read everywhere.
 */
class LazyOccupancy implements Occupancy {
  readonly rig: Rig
  readonly buses: readonly Bus[]
  readonly delivery: Delivery
  readonly emissionsOf: Occupancy['emissionsOf']
  readonly #sources: Sources
  #senders: readonly Sender[] | null = null
  #index: SenderIndex | null = null
  #emissions: readonly Emission[] | null = null
  #cells: CellTable | null = null

  constructor({ rig, buses, delivery, emissionsOf }: Base, sources: Sources) {
    this.rig = rig
    this.buses = buses
    this.delivery = delivery
    this.emissionsOf = emissionsOf
    this.#sources = sources
  }

  readonly arriving = (some: readonly Sender[]): Emission[] => {
    const found: Emission[] = []
    for (const sender of some) for (const emission of this.#sources.kept(sender)) found.push(emission)
    return found
  }

  readonly arrivingAs = (kinds: readonly MessageKind[]): Emission[] => {
    const { open } = this.delivery
    const changed =
      open.size < this.rig.controllers.length
        ? this.senders.filter(({ place }) => !open.has(place.controller))
        : []
    const own = kinds
      .flatMap((kind) => this.index.ofKind(kind))
      .filter(({ place }) => open.has(place.controller))
    return this.arriving([...own, ...changed].toSorted((a, b) => a.order - b.order))
  }

  get senders(): readonly Sender[] {
    return (this.#senders ??= this.#sources.listed())
  }

  get index(): SenderIndex {
    return (this.#index ??= senderIndex(this.senders))
  }

  get emissions(): readonly Emission[] {
    return (this.#emissions ??= this.arriving(this.senders))
  }

  get cells(): CellTable {
    return (this.#cells ??= this.#sources.tabled())
  }
}

/** Who sends where in a rig, worked out as it is asked for. */
export function occupancyOf(rig: Rig): Occupancy {
  const delivery = deliveryOf(rig)
  const { buses } = delivery
  const emissionsOf = (sender: Sender) => emissionsIn(delivery, sender)
  const occupancy: Occupancy = new LazyOccupancy(
    { rig, buses, delivery, emissionsOf },
    {
      listed: () => sendersOf(rig),
      kept: emissionsOf,
      tabled: () => tableOf(buses, occupancy.senders, emissionsOf),
    },
  )
  return occupancy
}

/** The table after a change; whole buses and cells that it does not touch are shared with the one before. */
function changedTable({ cells, emissionsOf }: Occupancy, { removed, added }: SenderChange): CellTable {
  const table = new Map(cells)
  const own = new Map<string, Map<number, readonly Hit[]>>()
  const onBus = (id: string): Map<number, readonly Hit[]> => {
    const found = own.get(id) ?? new Map(cells.get(id))
    own.set(id, found)
    table.set(id, found)
    return found
  }
  for (const sender of removed) {
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
  for (const sender of added) {
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
  const { buses, delivery, emissionsOf } = before
  // Made at once, so that what was before can be forgotten.
  const cells = changedTable(before, change)
  return new LazyOccupancy(
    { rig, buses, delivery, emissionsOf },
    { listed: () => sendersOf(rig), kept: emissionsOf, tabled: () => cells },
  )
}

/** A part of an occupancy: only these senders, of whose cells only those that `keep` keeps. */
export function partOf(
  { rig, buses, delivery, emissionsOf }: Occupancy,
  of: Iterable<Sender>,
  keep: ((bus: Bus, cell: Cell) => boolean) | null = null,
): Occupancy {
  const kept = (sender: Sender): readonly Emission[] =>
    keep === null
      ? emissionsOf(sender)
      : emissionsOf(sender).flatMap((emission) => {
          const cells = emission.cells.filter((cell) => keep(emission.bus, cell))
          return cells.length > 0 ? [{ ...emission, cells }] : []
        })
  const part: Occupancy = new LazyOccupancy(
    { rig, buses, delivery, emissionsOf },
    {
      listed: () => [...of].toSorted((a, b) => a.order - b.order),
      kept,
      tabled: () => tableOf(buses, part.senders, kept),
    },
  )
  return part
}

/** Who is in a cell of a bus. */
export const hitsAt = (occupancy: Occupancy, bus: Bus, cell: CellAddress): readonly Hit[] =>
  occupancy.cells.get(bus.id)?.get(busCellKey(bus, cell)) ?? []
