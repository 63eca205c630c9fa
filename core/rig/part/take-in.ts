import { freeDeviceName, freeLetter, freeName } from '../fresh'
import { freeId } from '../ids'
import { isSame } from '../compare'
import { gestureRef, splitGestureRef } from '../places'
import { ownerIds } from '../ports'
import type { Assignment, Controller, GestureRef, Id, Rig, Template } from '../types'
import type { Part } from './cut'

/** A rig with a part in it, and what became of it. */
export interface TakenIn {
  rig: Rig
  /** What was called otherwise, so that nothing is joined by accident: what it is, its old name and its new one. */
  renamed: Array<{ what: string; from: string; to: string }>
  /** What the rig had already, just so, and is used again. */
  shared: string[]
}

type Ids = ReadonlyMap<Id, Id>

/** New ids for items whose own are taken; items that the rig has just so keep theirs and are not added again. */
function settle<T extends { id: Id }>(
  own: readonly T[],
  taken: readonly { id: Id }[],
  has: (item: T) => Id | null,
) {
  const ids = new Map<Id, Id>()
  const added: T[] = []
  const all = [...taken]
  for (const item of own) {
    const same = has(item)
    const id = same ?? (all.some((each) => each.id === item.id) ? freeId(item.id, all) : item.id)
    ids.set(item.id, id)
    if (same !== null) continue
    all.push({ id })
    added.push(id === item.id ? item : { ...item, id })
  }
  return { ids: ids as Ids, added }
}

const at = (ids: Ids, id: Id): Id => ids.get(id) ?? id

const withRoles = (table: Template['base'], roles: Ids): Template['base'] =>
  Object.fromEntries(
    Object.entries(table).map(([gesture, assignment]): [string, Assignment] => [
      gesture,
      assignment.light
        ? { ...assignment, light: { ...assignment.light, role: at(roles, assignment.light.role) } }
        : assignment,
    ]),
  )

const templateWith = (template: Template, roles: Ids): Template => ({
  ...template,
  base: withRoles(template.base, roles),
  stacks: template.stacks.map((stack) => ({
    ...stack,
    layers: stack.layers.map((layer) => ({ ...layer, assignments: withRoles(layer.assignments, roles) })),
  })),
})

/** Is it the same but for its id? */
const isAlike = <T extends { id: Id }>(a: T, b: T): boolean => isSame({ ...a, id: '' }, { ...b, id: '' })
const likeIn =
  <T extends { id: Id }>(items: readonly T[]) =>
  (item: T): Id | null =>
    items.find((each) => isAlike(each, item))?.id ?? null
const always = (): null => null

/**
 * Put a part into a rig beside what is there. Whatever is called like something else gets a name and an id of its own, so that nothing
 * is joined by accident; a surface or a light role that the rig has just so is used again.
 */
export function takeIn(rig: Rig, { rig: part }: Part): TakenIn {
  const renamed: TakenIn['renamed'] = []
  const shared: string[] = []
  const call = (what: string, from: string, to: string): string => {
    if (from !== to) renamed.push({ what, from, to })
    return to
  }

  const models = settle(part.models, rig.models, likeIn(rig.models))
  const roles = settle(part.lightRoles, rig.lightRoles, likeIn(rig.lightRoles))
  const roleNames = new Set(rig.lightRoles.map(({ name }) => name))
  const lightRoles = roles.added.map((role) => ({
    ...role,
    name: call('light role', role.name, freeName(role.name, roleNames)),
  }))
  const isShared = (ids: Ids, added: readonly { id: Id }[], id: Id): boolean =>
    !added.some((each) => each.id === at(ids, id))
  for (const { id, name } of part.lightRoles)
    if (isShared(roles.ids, roles.added, id)) shared.push(`light role ${name}`)
  for (const { id, name } of part.models)
    if (isShared(models.ids, models.added, id)) shared.push(`surface of ${name}`)

  const owners = ownerIds(rig).map((id) => ({ id }))
  const controllers = settle(part.controllers, owners, always)
  const destinations = settle(part.destinations, owners, always)
  const ref = (gesture: GestureRef): GestureRef => {
    const { controller, gesture: key } = splitGestureRef(gesture)
    return gestureRef(at(controllers.ids, controller), key)
  }
  const choices = settle(part.choices, rig.choices, always).added.map((choice) => ({
    ...choice,
    by:
      choice.by.kind === 'gesture'
        ? { ...choice.by, gesture: ref(choice.by.gesture) }
        : { ...choice.by, controller: at(controllers.ids, choice.by.controller) },
    targets: choice.targets.map((target) => ({
      ...target,
      controller: at(controllers.ids, target.controller),
    })),
  }))
  const rules = settle(part.houseRules, rig.houseRules, likeIn(rig.houseRules))
  const ownRecipes = part.recipes.map((recipe) => ({
    ...recipe,
    model: recipe.model === null ? null : at(models.ids, recipe.model),
  }))

  let next: Rig = {
    ...rig,
    models: [...rig.models, ...models.added],
    lightRoles: [...rig.lightRoles, ...lightRoles],
    choices: [...rig.choices, ...choices],
    accords: [
      ...rig.accords,
      ...settle(part.accords, rig.accords, always).added.map((accord) => ({
        ...accord,
        gestures: accord.gestures.map(ref),
      })),
    ],
    houseRules: [
      ...rig.houseRules,
      ...rules.added.map((rule) => ({
        ...rule,
        controller: rule.controller === null ? null : at(controllers.ids, rule.controller),
      })),
    ],
    recipes: [...rig.recipes, ...settle(ownRecipes, rig.recipes, likeIn(rig.recipes)).added],
  }
  for (const controller of controllers.added) {
    const added: Controller = {
      ...controller,
      name: call('controller', controller.name, freeDeviceName(next, controller.name)),
      letter: freeLetter(next, controller.letter),
      model: at(models.ids, controller.model),
      templates: controller.templates.map((template) => templateWith(template, roles.ids)),
    }
    next = { ...next, controllers: [...next.controllers, added] }
  }
  for (const destination of destinations.added) {
    const name = call('destination', destination.name, freeDeviceName(next, destination.name))
    next = { ...next, destinations: [...next.destinations, { ...destination, name }] }
  }
  return { rig: next, renamed, shared }
}
