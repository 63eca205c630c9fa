import { parameterName } from '../lookup'
import { mappingProblem } from '../mapping-problem'
import { Mapping as MappingSchema } from '../schema'
import type { Id, Mapping, Rig } from '../types'
import {
  accepted,
  EditError,
  editKind,
  requireDestination,
  requireGesture,
  requireItem,
  requireNewId,
} from './kit'

export interface MappingAdd {
  type: 'mapping-add'
  mapping: Mapping
}

export interface MappingSet {
  type: 'mapping-set'
  mapping: Id
  set: Partial<Omit<Mapping, 'id'>>
}

export interface MappingRemove {
  type: 'mapping-remove'
  mapping: Id
}

function requireEnds(rig: Rig, mapping: Mapping): void {
  const destination = requireDestination(rig, mapping.destination)
  const parameter = requireItem(destination.parameters, mapping.parameter, 'parameter')
  const problem = mappingProblem(mapping, parameter)
  if (problem !== null) throw new EditError(`${parameterName(parameter)} ${problem}.`)
  if (mapping.scope !== null) requireItem(destination.scopes, mapping.scope, 'scope')
  if (mapping.gesture !== null) requireGesture(rig, mapping.gesture)
}

/**
 * Join a gesture to a parameter. Refused if one of them is not there, they are joined already, or `mappingProblem`
 * says why not.
 */
export const mappingAdd = editKind<MappingAdd>('mapping-add', (rig, edit) => {
  const mapping = accepted(MappingSchema, edit.mapping)
  requireNewId(rig.mappings, mapping.id)
  requireEnds(rig, mapping)
  const twin = rig.mappings.some(
    (other) =>
      other.gesture !== null &&
      other.gesture === mapping.gesture &&
      other.destination === mapping.destination &&
      other.parameter === mapping.parameter &&
      other.scope === mapping.scope,
  )
  if (twin) throw new EditError('This control is already joined to that parameter.')
  rig.mappings.push(mapping)
})

/** Change a mapping. Refused as `mappingAdd` is, or if it is not there. */
export const mappingSet = editKind<MappingSet>('mapping-set', (rig, edit) => {
  const index = rig.mappings.findIndex((mapping) => mapping.id === edit.mapping)
  const mapping = accepted(MappingSchema, {
    ...requireItem(rig.mappings, edit.mapping, 'mapping'),
    ...edit.set,
    id: edit.mapping,
  })
  requireEnds(rig, mapping)
  rig.mappings[index] = mapping
})

/** Take a mapping away. Refused if it is not there. */
export const mappingRemove = editKind<MappingRemove>('mapping-remove', (rig, edit) => {
  requireItem(rig.mappings, edit.mapping, 'mapping')
  rig.mappings = rig.mappings.filter((mapping) => mapping.id !== edit.mapping)
})
