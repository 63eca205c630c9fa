import { PAIR_DISTANCE } from '../../midi'
import {
  busCellKey,
  cellKey,
  cellsListened,
  partOf,
  type CellAddress,
  type Hit,
  type Occupancy,
  type Sender,
} from '../../addresses'
import { listeningOf, mappingParameter } from '../../mappings'
import { contextOf } from '../context'
import { isSpan } from '../collisions'
import type { AffectedScopeOf } from './scope'

/** The first of the cells that rules see together: the two halves of a pair, else the cell alone. */
const spotOf = (cell: CellAddress): CellAddress => ({
  kind: cell.kind,
  channel: cell.channel,
  number:
    cell.kind === 'cc' && cell.number >= PAIR_DISTANCE && cell.number < 2 * PAIR_DISTANCE
      ? cell.number - PAIR_DISTANCE
      : cell.number,
})

const cellsOfSpot = (spot: CellAddress): CellAddress[] =>
  spot.kind === 'cc' && spot.number < PAIR_DISTANCE
    ? [spot, { ...spot, number: spot.number + PAIR_DISTANCE }]
    : [spot]

function hitsIn(occupancy: Occupancy, spot: CellAddress): Hit[] {
  return occupancy.buses.flatMap((bus) =>
    cellsOfSpot(spot).flatMap((cell) => occupancy.cells.get(bus.id)?.get(busCellKey(bus, cell)) ?? []),
  )
}

/**
 * Everyone in the cells that a change touches. Where a destination merges channels, their other channels
 * belong to it, and so do all the keys of a span that lies over one of the cells.
 */
export const cellsAffected: AffectedScopeOf = ({ before, after, change }) => {
  const spots = new Map<number, CellAddress>()
  const open: CellAddress[] = []
  const add = (cell: CellAddress): void => {
    const spot = spotOf(cell)
    const key = cellKey(spot)
    if (spots.has(key)) return
    spots.set(key, spot)
    open.push(spot)
  }
  const addAllOf = (occupancy: Occupancy, sender: Sender): void => {
    for (const { cells } of occupancy.emissionsOf(sender)) cells.forEach(add)
  }
  for (const sender of change.removed) addAllOf(before, sender)
  for (const sender of change.added) addAllOf(after, sender)
  // Whether a pair is heard as one is a matter of what destinations have learned.
  for (const mapping of change.mappings) {
    const target = mappingParameter(after.rig, mapping)
    const listening = target && listeningOf(mapping, target.parameter)
    if (listening) cellsListened(listening.address).forEach(add)
  }
  const senders = { before: new Set<Sender>(), after: new Set<Sender>() }
  const look = (occupancy: Occupancy, spot: CellAddress, into: Set<Sender>): void => {
    for (const { sender, cell } of hitsIn(occupancy, spot)) {
      add(cell)
      if (into.has(sender)) continue
      into.add(sender)
      if (isSpan(sender)) addAllOf(occupancy, sender)
    }
  }
  for (let spot = open.pop(); spot !== undefined; spot = open.pop()) {
    look(before, spot, senders.before)
    look(after, spot, senders.after)
  }
  if (spots.size === 0) return null
  const keep = (_: unknown, cell: CellAddress): boolean => spots.has(cellKey(spotOf(cell)))
  return {
    before: contextOf(before.rig, { occupancy: partOf(before, senders.before, keep) }),
    after: contextOf(after.rig, { occupancy: partOf(after, senders.after, keep) }),
  }
}
