import { ownerIds } from '../ports'
import { Destination as DestinationSchema } from '../schema'
import type { Destination, Id } from '../types'
import { dropPorts } from './cascade'
import { accepted, EditError, editKind, requireDestination, requireItem, requireNewId } from './kit'

export interface DestinationAdd {
  type: 'destination-add'
  destination: Destination
}

/** Change what a destination is and keeps; its lists of claims and scopes are given whole. */
export interface DestinationSet {
  type: 'destination-set'
  destination: Id
  set: Partial<
    Pick<Destination, 'name' | 'kind' | 'inside' | 'claims' | 'unit' | 'notes' | 'middleC' | 'countsFrom'>
  >
}

/** Remove a destination with everything that was mapped in it. */
export interface DestinationRemove {
  type: 'destination-remove'
  destination: Id
}

export const destinationAdd = editKind<DestinationAdd>('destination-add', (rig, edit) => {
  const destination = accepted(DestinationSchema, edit.destination)
  requireNewId(
    ownerIds(rig).map((id) => ({ id })),
    destination.id,
  )
  if (destination.inside !== null) requireDestination(rig, destination.inside)
  if (destination.unit) requireItem(rig.controllers, destination.unit.controller, 'controller')
  rig.destinations.push(destination)
})

export const destinationSet = editKind<DestinationSet>('destination-set', (rig, edit) => {
  const destination = requireDestination(rig, edit.destination)
  const next = accepted(DestinationSchema, { ...destination, ...edit.set })
  const seen = new Set([destination.id])
  for (let host = next.inside; host !== null;) {
    if (seen.has(host))
      throw new EditError(`${next.name} cannot run inside itself; choose another host, or none.`)
    seen.add(host)
    host = requireDestination(rig, host).inside
  }
  if (next.unit) requireItem(rig.controllers, next.unit.controller, 'controller')
  for (const claim of next.claims) {
    if (claim.low > claim.high)
      throw new EditError(
        `“${claim.function}” keeps numbers from ${claim.low} to ${claim.high}: turn the ends round.`,
      )
    for (const id of claim.serves) requireItem(next.parameters, id, 'parameter')
  }
  const { name, kind, inside, claims, unit, notes, middleC, countsFrom } = next
  Object.assign(destination, { name, kind, inside, claims, unit, notes, middleC, countsFrom })
})

export const destinationRemove = editKind<DestinationRemove>('destination-remove', (rig, edit) => {
  const { inside } = requireDestination(rig, edit.destination)
  rig.destinations = rig.destinations.filter(({ id }) => id !== edit.destination)
  for (const guest of rig.destinations) if (guest.inside === edit.destination) guest.inside = inside
  rig.mappings = rig.mappings.filter(({ destination }) => destination !== edit.destination)
  for (const passage of rig.passages)
    passage.scopes = passage.scopes.filter(({ destination }) => destination !== edit.destination)
  dropPorts(rig, ({ owner }) => owner === edit.destination)
})
