import {
  Choice as ChoiceSchema,
  Layer as LayerSchema,
  Stack as StackSchema,
  Template as TemplateSchema,
} from '../schema'
import type { Choice, GestureKey, Id, Layer, Rig, Stack, Template } from '../types'
import { dropShowings } from './cascade'
import {
  accepted,
  EditError,
  editKind,
  movedTo,
  requireController,
  requireGesture,
  requireItem,
  requireNewId,
} from './kit'

interface InTemplate {
  controller: Id
  template: Id
}

export interface TemplateAdd {
  type: 'template-add'
  controller: Id
  template: Template
}

export interface TemplateSet extends InTemplate {
  type: 'template-set'
  name: string
}

/** The first template is the one that shows at power-up. */
export interface TemplateMove extends InTemplate {
  type: 'template-move'
  to: number
}

export interface TemplateRemove extends InTemplate {
  type: 'template-remove'
}

/** Make a stack. What its gestures sent in the base is what each of its layers starts with. */
export interface StackAdd extends InTemplate {
  type: 'stack-add'
  stack: Stack
}

export interface StackSet extends InTemplate {
  type: 'stack-set'
  stack: Id
  set: Partial<Pick<Stack, 'name' | 'mode' | 'powerUp' | 'gestures'>>
}

/** Dissolve a stack. What its power-up layer (else its first) sends goes back to the base. */
export interface StackRemove extends InTemplate {
  type: 'stack-remove'
  stack: Id
}

export interface LayerAdd extends InTemplate {
  type: 'layer-add'
  stack: Id
  layer: Layer
  at: number
}

export interface LayerSet extends InTemplate {
  type: 'layer-set'
  layer: Id
  set: Partial<Pick<Layer, 'name' | 'colour'>>
}

export interface LayerMove extends InTemplate {
  type: 'layer-move'
  layer: Id
  to: number
}

export interface LayerRemove extends InTemplate {
  type: 'layer-remove'
  layer: Id
}

export interface ChoiceAdd {
  type: 'choice-add'
  choice: Choice
}

export interface ChoiceRemove {
  type: 'choice-remove'
  choice: Id
}

const templateIn = (rig: Rig, { controller, template }: InTemplate): Template =>
  requireItem(requireController(rig, controller).templates, template, 'template')

function stackWithLayer(template: Template, layer: Id): Stack {
  const stack = template.stacks.find(({ layers }) => layers.some(({ id }) => id === layer))
  if (!stack) throw new EditError('The layer is no longer there; choose another.')
  return stack
}

/** Move gestures from the base into every layer of a replacing stack that does not set them yet. */
function takeFromBase(template: Template, stack: Stack): void {
  if (stack.mode !== 'replace') return
  for (const gesture of stack.gestures) {
    const assignment = template.base[gesture]
    if (!assignment) continue
    for (const layer of stack.layers) layer.assignments[gesture] ??= structuredCloneOf(assignment)
    Reflect.deleteProperty(template.base, gesture)
  }
}

/** A deep copy of plain data, also of a draft. */
const structuredCloneOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** What gestures send when they leave a stack: as in its power-up layer, else its first. */
function giveToBase(template: Template, stack: Stack, gestures: readonly GestureKey[]): void {
  const layer = stack.layers.find(({ id }) => id === stack.powerUp) ?? stack.layers[0]
  for (const gesture of gestures) {
    const assignment = layer?.assignments[gesture]
    if (assignment && stack.mode === 'replace') template.base[gesture] ??= structuredCloneOf(assignment)
    for (const each of stack.layers) Reflect.deleteProperty(each.assignments, gesture)
  }
}

function requireCoverable(rig: Rig, at: InTemplate, template: Template, stack: Stack): void {
  for (const gesture of stack.gestures) requireGesture(rig, `${at.controller}/${gesture}`)
  if (new Set(stack.gestures).size !== stack.gestures.length)
    throw new EditError('A stack names each movement once.')
  if (stack.mode !== 'replace') return
  for (const other of template.stacks) {
    const shared =
      other.id !== stack.id &&
      other.mode === 'replace' &&
      stack.gestures.find((gesture) => other.gestures.includes(gesture))
    if (shared)
      throw new EditError(
        `“${other.name}” already changes some of these controls; take them out of it first.`,
      )
  }
}

/** Add a template. Refused if the controller is not there, or its id is taken. */
export const templateAdd = editKind<TemplateAdd>('template-add', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  requireNewId(controller.templates, edit.template.id)
  controller.templates.push(accepted(TemplateSchema, edit.template))
})

/** Give a template another name. Refused if it is not there. */
export const templateSet = editKind<TemplateSet>('template-set', (rig, edit) => {
  const template = templateIn(rig, edit)
  template.name = accepted(TemplateSchema, { ...template, name: edit.name }).name
})

/** Put a template at another place, 0 the first; beyond the end is the end. Refused if it is not there. */
export const templateMove = editKind<TemplateMove>('template-move', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  controller.templates = movedTo(controller.templates, templateIn(rig, edit), edit.to)
})

/** Remove a template, from slots and passages too. Refused if it is the last one. */
export const templateRemove = editKind<TemplateRemove>('template-remove', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  templateIn(rig, edit)
  if (controller.templates.length === 1) throw new EditError('A controller keeps at least one template.')
  controller.templates = controller.templates.filter(({ id }) => id !== edit.template)
  for (const slot of controller.slots) if (slot.template === edit.template) slot.template = null
  dropShowings(rig)
})

/**
 * Add a stack; a replacing one takes what its gestures send in the base into its layers. Refused if another
 * replacing stack has one of them.
 */
export const stackAdd = editKind<StackAdd>('stack-add', (rig, edit) => {
  const template = templateIn(rig, edit)
  requireNewId(template.stacks, edit.stack.id)
  const stack = accepted(StackSchema, edit.stack)
  for (const layer of stack.layers) requireNewLayer(template, layer.id)
  requireCoverable(rig, edit, template, stack)
  template.stacks.push(stack)
  const added = template.stacks.at(-1)
  if (added) takeFromBase(template, added)
})

function requireNewLayer(template: Template, id: Id): void {
  for (const stack of template.stacks) requireNewId(stack.layers, id)
}

/**
 * Change a stack; gestures that leave it send in the base what they sent at power-up. Refused as `stackAdd` is, or
 * if it is not there.
 */
export const stackSet = editKind<StackSet>('stack-set', (rig, edit) => {
  const template = templateIn(rig, edit)
  const stack = requireItem(template.stacks, edit.stack, 'stack')
  const next = accepted(StackSchema, { ...stack, ...edit.set })
  if (next.powerUp !== null) requireItem(next.layers, next.powerUp, 'layer')
  requireCoverable(rig, edit, template, next)
  giveToBase(
    template,
    stack,
    stack.gestures.filter((gesture) => !next.gestures.includes(gesture)),
  )
  stack.name = next.name
  stack.mode = next.mode
  stack.powerUp = next.powerUp
  stack.gestures = next.gestures
  takeFromBase(template, stack)
})

/** Dissolve a stack; its gestures send in the base what they sent at power-up. Refused if it is not there. */
export const stackRemove = editKind<StackRemove>('stack-remove', (rig, edit) => {
  const template = templateIn(rig, edit)
  const stack = requireItem(template.stacks, edit.stack, 'stack')
  giveToBase(template, stack, [...stack.gestures])
  template.stacks = template.stacks.filter(({ id }) => id !== edit.stack)
  dropShowings(rig)
})

/** Add a layer at a place of its stack, 0 the first. Refused if it sets a gesture that the stack does not change. */
export const layerAdd = editKind<LayerAdd>('layer-add', (rig, edit) => {
  const template = templateIn(rig, edit)
  const stack = requireItem(template.stacks, edit.stack, 'stack')
  requireNewLayer(template, edit.layer.id)
  const layer = accepted(LayerSchema, edit.layer)
  const stray = Object.keys(layer.assignments).find((gesture) => !stack.gestures.includes(gesture))
  if (stray !== undefined) throw new EditError('The layer sets a control that its stack does not change.')
  stack.layers.splice(edit.at, 0, layer)
  accepted(StackSchema, stack)
})

/** Change the name or colour of a layer. Refused if it is not there. */
export const layerSet = editKind<LayerSet>('layer-set', (rig, edit) => {
  const stack = stackWithLayer(templateIn(rig, edit), edit.layer)
  const layer = requireItem(stack.layers, edit.layer, 'layer')
  const { name, colour } = accepted(LayerSchema, { ...layer, ...edit.set })
  Object.assign(layer, { name, colour })
})

/** Put a layer at another place in its stack, 0 the first; beyond the end is the end. Refused if it is not there. */
export const layerMove = editKind<LayerMove>('layer-move', (rig, edit) => {
  const stack = stackWithLayer(templateIn(rig, edit), edit.layer)
  const layer = requireItem(stack.layers, edit.layer, 'layer')
  stack.layers = movedTo(stack.layers, layer, edit.to)
})

/** Remove a layer. Refused if it is the last of its stack. */
export const layerRemove = editKind<LayerRemove>('layer-remove', (rig, edit) => {
  const stack = stackWithLayer(templateIn(rig, edit), edit.layer)
  if (stack.layers.length === 1)
    throw new EditError('A stack keeps at least one layer; dissolve the stack instead.')
  stack.layers = stack.layers.filter(({ id }) => id !== edit.layer)
  if (stack.powerUp === edit.layer) stack.powerUp = null
  dropShowings(rig)
})

/**
 * Let a gesture or an incoming message choose layers or templates. Refused if something that it names is not
 * there.
 */
export const choiceAdd = editKind<ChoiceAdd>('choice-add', (rig, edit) => {
  const choice = accepted(ChoiceSchema, edit.choice)
  requireNewId(rig.choices, choice.id)
  if (choice.by.kind === 'gesture') requireGesture(rig, choice.by.gesture)
  else requireController(rig, choice.by.controller)
  for (const target of choice.targets) {
    const template = templateIn(rig, target)
    if (target.kind === 'template') continue
    const stack = requireItem(template.stacks, target.stack, 'stack')
    for (const layer of target.layers) requireItem(stack.layers, layer, 'layer')
  }
  rig.choices.push(choice)
})

/** Take a choice away. Refused if it is not there. */
export const choiceRemove = editKind<ChoiceRemove>('choice-remove', (rig, edit) => {
  requireItem(rig.choices, edit.choice, 'choice')
  rig.choices = rig.choices.filter(({ id }) => id !== edit.choice)
})
