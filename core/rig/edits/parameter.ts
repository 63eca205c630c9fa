import { mappingProblem, parameterProblem } from '../mapping-problem'
import { parameterName } from '../lookup'
import { Parameter as ParameterSchema } from '../schema'
import type { Destination, Id, Parameter, Rig } from '../types'
import { accepted, EditError, editKind, requireDestination, requireItem, requireNewId } from './kit'

/** Add parameters to a destination, after what it has. */
export interface ParametersAdd {
  type: 'parameters-add'
  destination: Id
  parameters: readonly Parameter[]
}

export interface ParameterSet {
  type: 'parameter-set'
  destination: Id
  parameter: Id
  set: Partial<Omit<Parameter, 'id'>>
}

/** Remove parameters with what was mapped to them. */
export interface ParametersRemove {
  type: 'parameters-remove'
  destination: Id
  parameters: readonly Id[]
}

const MOST = 5000

function checked(destination: Destination, value: unknown): Parameter {
  const parameter = accepted(ParameterSchema, value)
  const problem = parameterProblem(parameter)
  if (problem !== null) throw new EditError(`${parameterName(parameter)} ${problem}.`)
  if (parameter.switchesTo !== null) requireItem(destination.scopes, parameter.switchesTo, 'scope')
  return parameter
}

/** Add parameters to a destination, 5,000 at most. Refused whole if one of them cannot be (`parameterProblem`). */
export const parametersAdd = editKind<ParametersAdd>('parameters-add', (rig, edit) => {
  const destination = requireDestination(rig, edit.destination)
  if (destination.parameters.length + edit.parameters.length > MOST)
    throw new EditError(`${destination.name} would have more than ${MOST} parameters: leave some out.`)
  for (const each of edit.parameters) {
    const parameter = checked(destination, each)
    requireNewId(destination.parameters, parameter.id)
    destination.parameters.push(parameter)
  }
})

/** Change a parameter. Refused if it is not there, cannot be, or a mapping of it then could not. */
export const parameterSet = editKind<ParameterSet>('parameter-set', (rig, edit) => {
  const destination = requireDestination(rig, edit.destination)
  const index = destination.parameters.findIndex(({ id }) => id === edit.parameter)
  const before = requireItem(destination.parameters, edit.parameter, 'parameter')
  const next = checked(destination, { ...before, ...edit.set, id: edit.parameter })
  for (const mapping of mappingsTo(rig, edit.destination, new Set([edit.parameter]))) {
    const problem = mappingProblem(mapping, next)
    if (problem !== null)
      throw new EditError(`A mapping of ${parameterName(before)} then ${problem}. Change that mapping first.`)
  }
  destination.parameters[index] = next
})

const mappingsTo = (rig: Rig, destination: Id, parameters: ReadonlySet<Id>) =>
  rig.mappings.filter((mapping) => mapping.destination === destination && parameters.has(mapping.parameter))

/** Remove parameters with their mappings. Refused whole if one of them is not there. */
export const parametersRemove = editKind<ParametersRemove>('parameters-remove', (rig, edit) => {
  const destination = requireDestination(rig, edit.destination)
  const gone = new Set(edit.parameters)
  for (const id of gone) requireItem(destination.parameters, id, 'parameter')
  destination.parameters = destination.parameters.filter(({ id }) => !gone.has(id))
  for (const claim of destination.claims)
    if (claim.serves.some((id) => gone.has(id))) claim.serves = claim.serves.filter((id) => !gone.has(id))
  const lost = new Set(mappingsTo(rig, edit.destination, gone))
  if (lost.size > 0) rig.mappings = rig.mappings.filter((mapping) => !lost.has(mapping))
})
