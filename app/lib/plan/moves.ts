import type { Family, Lattice } from '#core/addresses'
import type { Plan } from '#core/allocate'
import type { Address, Channel } from '#core/midi'
import { placeRef } from '#core/rig'
import type { Spot } from '~/lib/lattice/walk'

/** A change of a plan as it lies in the lattice; null where that end has no row or no number. */
export interface PlannedMove {
  key: string
  controller: string
  from: Spot | null
  to: Spot | null
}

/** Where an address lies in a family, as channel and number. */
function spotOf(address: Address | null, family: Family): { channel: number; number: number } | null {
  if (address?.scope !== 'channel') return null
  const { channel, target } = address
  if (typeof channel !== 'number') return null
  switch (target.kind) {
    case 'cc':
    case 'cc14':
      return family === 'cc' ? { channel, number: target.number } : null
    case 'note':
      return family === 'note' ? { channel, number: target.low } : null
    case 'program':
      return family === 'program' ? { channel, number: target.number } : null
    default:
      return null
  }
}

/** The channels that a plan gives addresses on, in a family. */
export const plannedChannels = (plan: Plan, family: Family): ReadonlySet<Channel> =>
  new Set(plan.changes.flatMap(({ to }) => spotOf(to, family)?.channel ?? []))

/** The changes of a plan that can be drawn in a lattice: what arrives there now, or had no number. */
export function plannedMoves(plan: Plan, lattice: Lattice): PlannedMove[] {
  const rowOf = new Map(lattice.rows.map(({ channel }, row) => [channel, row]))
  return plan.changes.flatMap((change): PlannedMove[] => {
    const at = (address: Address | null): Spot | null => {
      const spot = spotOf(address, lattice.family)
      const row = spot ? rowOf.get(spot.channel) : undefined
      return spot && row !== undefined ? { row, number: spot.number } : null
    }
    const [from, to] = [at(change.from), at(change.to)]
    const gesture = placeRef(change.at)
    const arrives =
      change.from === null ||
      (from !== null &&
        lattice.rows[from.row]?.cells
          .find(({ number }) => number === from.number)
          ?.owners.some((owner) => owner.gesture === gesture) === true)
    return arrives && (from !== null || to !== null)
      ? [{ key: change.key, controller: change.at.controller, from, to }]
      : []
  })
}
