import type { Occupancy } from '../../addresses'
import type { Cable, Id } from '../../rig'
import { controllersWithin } from './controller'
import type { IslandOf } from './island'

/** Controllers that share a cable with one of these, with one of those, and so on. */
function togetherWith({ ways }: Occupancy, ids: ReadonlySet<Id>): ReadonlySet<Id> {
  const cablesOf = new Map<Id, ReadonlySet<Cable>>()
  const usersOf = new Map<Cable, Id[]>()
  for (const [id, list] of ways) {
    const cables = new Set(list.flatMap((way) => way.cables))
    cablesOf.set(id, cables)
    for (const cable of cables) usersOf.set(cable, [...(usersOf.get(cable) ?? []), id])
  }
  const found = new Set(ids)
  for (const id of found) {
    for (const cable of cablesOf.get(id) ?? []) usersOf.get(cable)?.forEach((user) => found.add(user))
  }
  return found
}

/** Everyone whose messages share a cable with those of the controllers that a change touches. */
export const cableIsland: IslandOf = ({ before, after, change }) => {
  const ids = togetherWith(after, change.controllers)
  return { before: controllersWithin(before, ids), after: controllersWithin(after, ids) }
}
