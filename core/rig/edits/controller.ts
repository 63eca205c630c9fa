import { Controller as ControllerSchema, Model as ModelSchema } from '../schema'
import type { Controller, Id, Model } from '../types'
import { dropGestures, dropShowings } from './cascade'
import { accepted, EditError, editKind, requireController, requireItem, requireNewId } from './kit'

/** Add a controller, with its model if that is new. */
export interface ControllerAdd {
  type: 'controller-add'
  controller: Controller
  model: Model | null
}

/** Remove a controller. What destinations learned from it stays as old mappings. */
export interface ControllerRemove {
  type: 'controller-remove'
  controller: Id
}

/** Put a controller at another place in the order. */
export interface ControllerMove {
  type: 'controller-move'
  controller: Id
  to: number
}

/** Add a controller, with its model where that is new. Refused if an id is taken, or the model is not there. */
export const controllerAdd = editKind<ControllerAdd>('controller-add', (rig, edit) => {
  const controller = accepted(ControllerSchema, edit.controller)
  for (const owners of [rig.controllers, rig.destinations, rig.boxes, rig.computers]) {
    requireNewId(owners, controller.id)
  }
  if (edit.model) {
    requireNewId(rig.models, edit.model.id)
    rig.models.push(accepted(ModelSchema, edit.model))
  }
  requireItem(rig.models, controller.model, 'kind of controller')
  rig.controllers.push(controller)
})

/**
 * Remove a controller with all that speaks of it, and its model if nobody else is of it. Refused if it is not
 * there.
 */
export const controllerRemove = editKind<ControllerRemove>('controller-remove', (rig, { controller: id }) => {
  const { model } = requireController(rig, id)
  dropGestures(rig, (controller) => controller === id)
  rig.controllers = rig.controllers.filter((controller) => controller.id !== id)
  dropShowings(rig)
  rig.choices = rig.choices.filter(({ by }) => by.kind !== 'incoming' || by.controller !== id)
  rig.cables = rig.cables.filter(({ from, to }) => from.owner !== id && to.owner !== id)
  rig.houseRules = rig.houseRules.filter((rule) => rule.controller !== id)
  for (const destination of rig.destinations) {
    if (destination.unit?.controller === id) destination.unit = null
  }
  if (!rig.controllers.some((controller) => controller.model === model)) {
    rig.models = rig.models.filter((candidate) => candidate.id !== model)
    // A recipe outlives the hardware that it was written for.
    for (const recipe of rig.recipes) if (recipe.model === model) recipe.model = null
  }
})

/** Put a controller at another place in the order, 0 the first. Refused if there is no such place. */
export const controllerMove = editKind<ControllerMove>('controller-move', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  if (!Number.isInteger(edit.to) || edit.to < 0 || edit.to >= rig.controllers.length) {
    throw new EditError('There is no such place in the order.')
  }
  const rest = rig.controllers.filter(({ id }) => id !== controller.id)
  rest.splice(edit.to, 0, controller)
  rig.controllers = rest
})
