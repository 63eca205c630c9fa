import { assignmentsOf, splitGestureRef } from '../places'
import { emptyRig } from '../parse'
import type { Controller, Destination, Id, Rig } from '../types'

/** What is cut out of a rig to be carried elsewhere. */
export type PartRef =
  | { kind: 'controller'; id: Id }
  | { kind: 'destination'; id: Id }
  | { kind: 'light-roles' }
  | { kind: 'house-rules' }

/** A part is a rig in which nothing else is, so that all that reads rigs reads parts. */
export interface Part {
  kind: PartRef['kind']
  rig: Rig
}

/** What kinds of part there are, in words. */
export const PART_WORDS: Readonly<Record<PartRef['kind'], string>> = {
  controller: 'controller',
  destination: 'destination',
  'light-roles': 'light roles',
  'house-rules': 'house rules',
}

const rolesOf = (controller: Controller): Set<Id> =>
  new Set([...assignmentsOf(controller)].flatMap(({ assignment: { light } }) => (light ? [light.role] : [])))

function cutController(rig: Rig, controller: Controller): Rig {
  const { id, model, name } = controller
  const isOwn = (ref: string): boolean => splitGestureRef(ref).controller === id
  const roles = rolesOf(controller)
  return {
    ...emptyRig(name),
    models: rig.models.filter((each) => each.id === model),
    // What one player proved with it says nothing of another's.
    controllers: [{ ...controller, lineCheck: null }],
    lightRoles: rig.lightRoles.filter((role) => roles.has(role.id)),
    choices: rig.choices.filter(
      ({ by, targets }) =>
        (by.kind === 'gesture' ? isOwn(by.gesture) : by.controller === id) &&
        targets.every((target) => target.controller === id),
    ),
    accords: rig.accords.filter(({ gestures }) => gestures.every(isOwn)),
    houseRules: rig.houseRules.filter((rule) => rule.controller === id),
    recipes: rig.recipes.filter((recipe) => recipe.model === model),
  }
}

const cutDestination = (destination: Destination): Rig => ({
  ...emptyRig(destination.name),
  destinations: [
    {
      ...destination,
      // Its host, its computer and its keyboard are of the rig that it was in.
      inside: null,
      unit: null,
      ports: destination.ports.map((port) => ({ ...port, opens: null })),
    },
  ],
})

/** Cut a part out of a rig, without its cables, mappings and passages; null where it is not there. */
export function cutPart(rig: Rig, ref: PartRef): Part | null {
  switch (ref.kind) {
    case 'controller': {
      const controller = rig.controllers.find(({ id }) => id === ref.id)
      return controller ? { kind: ref.kind, rig: cutController(rig, controller) } : null
    }
    case 'destination': {
      const destination = rig.destinations.find(({ id }) => id === ref.id)
      return destination ? { kind: ref.kind, rig: cutDestination(destination) } : null
    }
    case 'light-roles':
      return rig.lightRoles.length === 0
        ? null
        : {
            kind: ref.kind,
            rig: { ...emptyRig(`Light roles of ${rig.name}`.slice(0, 120)), lightRoles: rig.lightRoles },
          }
    case 'house-rules': {
      const houseRules = rig.houseRules.filter(({ controller }) => controller === null)
      return houseRules.length === 0
        ? null
        : { kind: ref.kind, rig: { ...emptyRig(`House rules of ${rig.name}`.slice(0, 120)), houseRules } }
    }
  }
}
