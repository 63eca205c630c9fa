import { LightRole as LightRoleSchema } from '../schema'
import type { Assignment, GestureKey, Id, LightRole, Rig } from '../types'
import { accepted, EditError, editKind, requireItem, requireNewId } from './kit'

export interface LightRoleAdd {
  type: 'light-role-add'
  role: LightRole
}

/** Change a role; its states are given whole. */
export interface LightRoleSet {
  type: 'light-role-set'
  role: Id
  set: Partial<Omit<LightRole, 'id'>>
}

/** Remove a role; the lights that it was given to are dark from then on. */
export interface LightRoleRemove {
  type: 'light-role-remove'
  role: Id
}

function checked(rig: Rig, value: unknown): LightRole {
  const role = accepted(LightRoleSchema, value)
  const names = role.states.map(({ name }) => name.toLowerCase())
  if (new Set(names).size < names.length)
    throw new EditError(`“${role.name}” has two states of one name; give each its own.`)
  const values = role.states.flatMap(({ from }) => from ?? [])
  if (new Set(values).size < values.length)
    throw new EditError(`“${role.name}” has two states that begin at one value; give each its own.`)
  const twin = rig.lightRoles.find(({ id, letter }) => id !== role.id && letter === role.letter)
  if (twin)
    throw new EditError(
      `The letter ${role.letter} stands for “${twin.name}” already; take another for “${role.name}”.`,
    )
  return role
}

/** Add a role of lights. Refused if its letter is taken, or two of its states are one. */
export const lightRoleAdd = editKind<LightRoleAdd>('light-role-add', (rig, { role }) => {
  const added = checked(rig, role)
  requireNewId(rig.lightRoles, added.id)
  rig.lightRoles.push(added)
})

/** Change a role of lights. Refused as `lightRoleAdd` is, or if it is not there. */
export const lightRoleSet = editKind<LightRoleSet>('light-role-set', (rig, { role: id, set }) => {
  const index = rig.lightRoles.findIndex((role) => role.id === id)
  const before = requireItem(rig.lightRoles, id, 'light role')
  rig.lightRoles[index] = checked(rig, { ...before, ...set, id })
})

/** Remove a role of lights; what had it is dark. Refused if it is not there. */
export const lightRoleRemove = editKind<LightRoleRemove>('light-role-remove', (rig, { role: id }) => {
  requireItem(rig.lightRoles, id, 'light role')
  rig.lightRoles = rig.lightRoles.filter((role) => role.id !== id)
  for (const { templates } of rig.controllers) {
    for (const { base, stacks } of templates) {
      for (const table of [base, ...stacks.flatMap(({ layers }) => layers.map((layer) => layer.assignments))])
        darken(table, id)
    }
  }
})

function darken(table: Record<GestureKey, Assignment>, role: Id): void {
  for (const assignment of Object.values(table)) if (assignment.light?.role === role) assignment.light = null
}

/** Make sure that a light names a role and a state that are there; throws an EditError if not. */
export function requireLight(rig: Rig, light: Assignment['light']): void {
  if (light === null) return
  const role = requireItem(rig.lightRoles, light.role, 'light role')
  const { setBy } = light
  if (setBy.kind === 'steady' && !role.states.some(({ name }) => name === setBy.state))
    throw new EditError(`“${role.name}” has no state “${setBy.state}”.`)
}
