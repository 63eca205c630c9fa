import { programKey } from '../../midi'
import { hostProblem } from '../host-problem'
import { ownerIds } from '../ports'
import { Destination as DestinationSchema } from '../schema'
import type { Destination, Id, Rig } from '../types'
import { dropPorts } from './cascade'
import { accepted, EditError, editKind, requireDestination, requireItem, requireNewId } from './kit'

/** What can be changed of a destination by itself; its parts have edits of their own. */
const SETTABLE = [
  'name',
  'kind',
  'inside',
  'claims',
  'unit',
  'notes',
  'middleC',
  'countsFrom',
  'scopes',
  'noteNames',
  'programs',
  'learns',
  'stepRule',
  'feedback',
] as const satisfies ReadonlyArray<keyof Destination>

export interface DestinationAdd {
  type: 'destination-add'
  destination: Destination
}

/** Change what a destination is and keeps; its lists are given whole. With a scope goes what counted only there. */
export interface DestinationSet {
  type: 'destination-set'
  destination: Id
  set: Partial<Pick<Destination, (typeof SETTABLE)[number]>>
}

/** Remove a destination with everything that was mapped in it. */
export interface DestinationRemove {
  type: 'destination-remove'
  destination: Id
}

/** Add a destination. Refused if its id is taken, or its host or controller is not there. */
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

/**
 * Change fields of a destination. Refused if it would run inside itself, or two scopes, notes or programs would be
 * one.
 */
export const destinationSet = editKind<DestinationSet>('destination-set', (rig, edit) => {
  const destination = requireDestination(rig, edit.destination)
  const next = accepted(DestinationSchema, { ...destination, ...edit.set })
  const hosting = hostProblem(next, new Map(rig.destinations.map((each) => [each.id, each])))
  if (hosting !== null) throw new EditError(`${next.name} ${hosting}.`)
  if (next.unit) requireItem(rig.controllers, next.unit.controller, 'controller')
  for (const claim of next.claims) {
    for (const id of claim.serves) requireItem(next.parameters, id, 'parameter')
  }
  const { set } = edit
  if (set.scopes)
    requireApart(
      next.scopes.map(({ name }) => name.toLowerCase()),
      'Two scopes have one name; give each its own.',
    )
  if (set.noteNames)
    requireApart(
      next.noteNames.map(({ number }) => number),
      'A note has two names; keep one of them.',
    )
  if (set.programs)
    requireApart(next.programs.map(programKey), 'Two programs have one number and bank; change one of them.')
  for (const key of SETTABLE) if (key in set) Object.assign(destination, { [key]: next[key] })
  dropScopes(rig, destination)
})

function requireApart(values: readonly unknown[], message: string): void {
  if (new Set(values).size < values.length) throw new EditError(message)
}

/** Take out what speaks of scopes that a destination no longer has. */
function dropScopes(rig: Rig, destination: Destination): void {
  const scopes = new Set(destination.scopes.map(({ id }) => id))
  const isGone = (scope: Id | null): boolean => scope !== null && !scopes.has(scope)
  for (const parameter of destination.parameters)
    if (isGone(parameter.switchesTo)) parameter.switchesTo = null
  if (rig.mappings.some((mapping) => mapping.destination === destination.id && isGone(mapping.scope)))
    rig.mappings = rig.mappings.filter(
      (mapping) => mapping.destination !== destination.id || !isGone(mapping.scope),
    )
  for (const passage of rig.passages)
    if (passage.scopes.some((each) => each.destination === destination.id && isGone(each.scope)))
      passage.scopes = passage.scopes.filter(
        (each) => each.destination !== destination.id || !isGone(each.scope),
      )
}

/** Remove a destination with its mappings and cables; what ran in it runs in its host. Refused if it is not there. */
export const destinationRemove = editKind<DestinationRemove>('destination-remove', (rig, edit) => {
  const { inside } = requireDestination(rig, edit.destination)
  rig.destinations = rig.destinations.filter(({ id }) => id !== edit.destination)
  for (const guest of rig.destinations) if (guest.inside === edit.destination) guest.inside = inside
  rig.mappings = rig.mappings.filter(({ destination }) => destination !== edit.destination)
  for (const passage of rig.passages)
    passage.scopes = passage.scopes.filter(({ destination }) => destination !== edit.destination)
  dropPorts(rig, ({ owner }) => owner === edit.destination)
})
