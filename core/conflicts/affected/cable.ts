import type { Occupancy } from '../../addresses'
import type { Cable, Id } from '../../rig'
import { controllersWithin } from './controller'
import type { AffectedScopeOf } from './scope'

/** Controllers that share a cable with one of these, with one of those, and so on. */
function togetherWith({ rig, delivery }: Occupancy, ids: ReadonlySet<Id>): ReadonlySet<Id> {
  const usersOf = new Map<Cable, Id[]>()
  for (const { id } of rig.controllers)
    for (const cable of delivery.cablesFrom(id)) usersOf.set(cable, [...(usersOf.get(cable) ?? []), id])
  const found = new Set(ids)
  for (const id of found)
    for (const cable of delivery.cablesFrom(id)) usersOf.get(cable)?.forEach((user) => found.add(user))
  return found
}

/** Everyone whose messages share a cable with those of the controllers that a change touches. */
export const cableAffected: AffectedScopeOf = ({ before, after, change }) => {
  const ids = togetherWith(after, change.controllers)
  return { before: controllersWithin(before, ids), after: controllersWithin(after, ids) }
}
