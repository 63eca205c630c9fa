import { CHANNELS, type Channel, type Seven } from '../midi'
import { rigIndex, shownPlace, type GestureRef, type Id, type Place, type Rig, type Showing } from '../rig'
import { claimCovers, type Bus } from './buses'
import { cellKey, type CellKind, type Role } from './cells'
import type { Sender } from './emission'
import type { Occupancy } from './occupancy'

/** The families that the lattice shows as a grid of channels × 128 numbers. */
export type Family = 'cc' | 'note' | 'program'

/** All buses at once, where one would be named. */
export const EVERY_BUS = '*'

export interface Owner {
  controller: Id
  gesture: GestureRef
  place: Place
  /** Which of its messages. */
  message: number
  role: Role
  /** Is the assignment showing now? */
  live: boolean
  part: 'whole' | 'msb' | 'lsb'
}

export interface LatticeCell {
  number: Seven
  owners: readonly Owner[]
}

/** Kept numbers from low to high, and what for. */
export interface Kept {
  low: Seven
  high: Seven
  function: string
}

export interface LatticeRow {
  channel: Channel
  cells: readonly LatticeCell[]
  /** What lies beside the grid: who sends bend, pressure and programs on this channel. */
  strip: Readonly<Record<'pitchBend' | 'channelPressure' | 'program', readonly Owner[]>>
  kept: readonly Kept[]
  /** Controllers that send on this channel, in the order of the rig. */
  controllers: readonly Id[]
  /** How many of the 128 numbers are taken, 0–1. */
  fullness: number
}

export interface Lattice {
  bus: string
  family: Family
  rows: readonly LatticeRow[]
  silentChannels: readonly Channel[]
  /** Numbers taken in the shown family, all channels. */
  used: number
}

const STRIP_KINDS = ['pitchBend', 'channelPressure', 'program'] as const
const isStrip = (kind: CellKind): kind is (typeof STRIP_KINDS)[number] =>
  (STRIP_KINDS as readonly CellKind[]).includes(kind)

interface RowDraft {
  cells: Map<number, Owner[]>
  strip: Record<(typeof STRIP_KINDS)[number], Owner[]>
  controllers: Set<Id>
}

/** Answers, for senders, whether their assignment shows now. */
export function liveIn(rig: Rig, showing: Readonly<Record<Id, Showing>>): (sender: Sender) => boolean {
  const { controllers } = rigIndex(rig)
  return ({ place }) => {
    const controller = controllers.get(place.controller)
    const shown = showing[place.controller]
    const now = controller && shown ? shownPlace(controller, shown, place.gesture) : null
    return now !== null && now.template === place.template && now.layer === place.layer
  }
}

/** The buses that an id names: one, or with `EVERY_BUS` all; the first where it names none. */
export function busesNamed({ buses }: Occupancy, id: string | null): readonly Bus[] {
  if (id === EVERY_BUS) return buses
  const [first] = buses
  const named = buses.find((bus) => bus.id === id) ?? first
  return named ? [named] : []
}

/**
 * The lattice of a bus, or of several at once: who occupies which numbers on which channel. `showing` says what each
 * controller shows now; assignments in other layers are there too, not live.
 */
export function latticeOf(
  occupancy: Occupancy,
  buses: readonly Bus[],
  family: Family,
  showing: Readonly<Record<Id, Showing>>,
): Lattice {
  const { rig } = occupancy
  const index = rigIndex(rig)
  const order = new Map(rig.controllers.map((controller, position) => [controller.id, position]))
  const rows = new Map<Channel, RowDraft>(
    CHANNELS.map((channel) => [
      channel,
      {
        cells: new Map(),
        strip: { pitchBend: [], channelPressure: [], program: [] },
        controllers: new Set(),
      },
    ]),
  )
  const isLive = liveIn(rig, showing)
  const isSeveral = buses.length > 1
  const seen = new Set<string>()
  for (const { sender, bus: reached, cells } of occupancy.emissions) {
    if (!buses.includes(reached)) continue
    const { controller } = sender.place
    const live = isLive(sender)
    for (const cell of cells) {
      const row = rows.get(cell.channel)
      if (!row) continue
      if (isSeveral) {
        const key = `${sender.key} ${cellKey(cell)} ${cell.role} ${cell.part}`
        if (seen.has(key)) continue
        seen.add(key)
      }
      const owner: Owner = {
        controller,
        gesture: sender.gesture,
        place: sender.place,
        message: sender.messageIndex,
        role: cell.role,
        live,
        part: cell.part,
      }
      if (cell.kind === family) {
        const owners = row.cells.get(cell.number)
        if (owners) owners.push(owner)
        else row.cells.set(cell.number, [owner])
        row.controllers.add(controller)
      } else if (isStrip(cell.kind)) {
        row.strip[cell.kind].push(owner)
        row.controllers.add(controller)
      }
    }
  }
  const claims = [...new Set(buses.map(({ destination }) => destination))].flatMap(
    (id) => index.destinations.get(id)?.claims ?? [],
  )
  const finished = [...rows].map(([channel, row]): LatticeRow => ({
    channel,
    cells: [...row.cells].sort(([a], [b]) => a - b).map(([number, owners]) => ({ number, owners })),
    strip: row.strip,
    kept: claims
      .filter((claim) => claimCovers(claim, { kind: family, channel, number: claim.low }))
      .map((claim) => ({ low: claim.low, high: claim.high, function: claim.function })),
    controllers: [...row.controllers].sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0)),
    fullness: row.cells.size / 128,
  }))
  const silent = (row: LatticeRow): boolean => row.controllers.length === 0 && row.kept.length === 0
  return {
    bus: isSeveral ? EVERY_BUS : (buses[0]?.id ?? EVERY_BUS),
    family,
    rows: finished.filter((row) => !silent(row)),
    silentChannels: finished.filter(silent).map((row) => row.channel),
    used: finished.reduce((sum, row) => sum + row.cells.length, 0),
  }
}

/** A row of a channel on which nothing is sent and nothing kept. */
const silentRow = (channel: Channel): LatticeRow => ({
  channel,
  cells: [],
  strip: { pitchBend: [], channelPressure: [], program: [] },
  kept: [],
  controllers: [],
  fullness: 0,
})

/** The same with rows for some of the silent channels: in their place, or below the others, so that none of them moves. */
export function withSilent(
  lattice: Lattice,
  channels: ReadonlySet<Channel>,
  where: 'in-order' | 'below',
): Lattice {
  const opened = lattice.silentChannels.filter((channel) => channels.has(channel))
  if (opened.length === 0) return lattice
  const rows = [...lattice.rows, ...opened.map(silentRow)]
  return {
    ...lattice,
    rows: where === 'below' ? rows : rows.toSorted((a, b) => a.channel - b.channel),
    silentChannels: lattice.silentChannels.filter((channel) => !channels.has(channel)),
  }
}
