import {
  LineChecked as LineCheckedSchema,
  Recipe as RecipeSchema,
  Rehearsed as RehearsedSchema,
  Slot as SlotSchema,
} from '../schema'
import type { Id, LineChecked, Recipe, Rehearsed, Slot } from '../types'
import { accepted, EditError, editKind, requireController, requireItem } from './kit'

/** Keep what a rehearsal proved, in place of the one before; null forgets it. */
export interface RehearsedSet {
  type: 'rehearsed-set'
  rehearsed: Rehearsed | null
}

/** Keep what a line check of a controller found, in place of the one before; null forgets it. */
export interface LineCheckSet {
  type: 'line-check-set'
  controller: Id
  lineCheck: LineChecked | null
}

/** Say what a memory place of a controller holds. One that was not spoken of before is empty. */
export interface SlotSet {
  type: 'slot-set'
  controller: Id
  number: number
  set: Partial<Omit<Slot, 'number'>>
}

/** Write a recipe, in place of one of the same id. */
export interface RecipeSet {
  type: 'recipe-set'
  recipe: Recipe
}

/** Forget a recipe. */
export interface RecipeRemove {
  type: 'recipe-remove'
  recipe: Id
}

/** Write a recipe. Refused if the kind of controller that it is for is not there. */
export const recipeSet = editKind<RecipeSet>('recipe-set', (rig, edit) => {
  const recipe = accepted(RecipeSchema, edit.recipe)
  if (recipe.model !== null) requireItem(rig.models, recipe.model, 'kind of controller')
  const at = rig.recipes.findIndex(({ id }) => id === recipe.id)
  if (at >= 0) rig.recipes[at] = recipe
  else rig.recipes.push(recipe)
})

/** Forget a recipe. Refused if it is not there. */
export const recipeRemove = editKind<RecipeRemove>('recipe-remove', (rig, edit) => {
  requireItem(rig.recipes, edit.recipe, 'recipe')
  rig.recipes = rig.recipes.filter(({ id }) => id !== edit.recipe)
})

/** Keep what a rehearsal proved. */
export const rehearsedSet = editKind<RehearsedSet>('rehearsed-set', (rig, { rehearsed }) => {
  rig.rehearsed = rehearsed === null ? null : accepted(RehearsedSchema, rehearsed)
})

/** Keep what a line check found. Refused if the controller is not there. */
export const lineCheckSet = editKind<LineCheckSet>('line-check-set', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  controller.lineCheck = edit.lineCheck === null ? null : accepted(LineCheckedSchema, edit.lineCheck)
})

/** Say what a slot holds. Refused if the hardware has no such slot, or the template is not there. */
export const slotSet = editKind<SlotSet>('slot-set', (rig, { controller: id, number, set }) => {
  const controller = requireController(rig, id)
  const { abilities, name } = requireItem(rig.models, controller.model, 'kind of controller')
  if (!Number.isInteger(number) || number < 1 || number > abilities.slots)
    throw new EditError(
      abilities.slots === 0
        ? `${name} has no memory slots.`
        : `${name} has slots 1 to ${abilities.slots}; there is no slot ${number}.`,
    )
  if (set.template) requireItem(controller.templates, set.template, 'template')
  const at = controller.slots.findIndex((slot) => slot.number === number)
  const next = accepted(SlotSchema, { ...(controller.slots[at] ?? { number }), ...set })
  if (at >= 0) controller.slots[at] = next
  else controller.slots = [...controller.slots, next].sort((a, b) => a.number - b.number)
})
