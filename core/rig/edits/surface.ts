import {
  Abilities as AbilitiesSchema,
  Block as BlockSchema,
  Control as ControlSchema,
  Surface as SurfaceSchema,
} from '../schema'
import type { Abilities, Block, Control, Id, Model, Rig } from '../types'
import { dropGestures, isMissing } from './cascade'
import { accepted, EditError, editKind, requireItem } from './kit'

/** Add controls to a surface, with the blocks they bring. */
export interface ControlsAdd {
  type: 'controls-add'
  model: Id
  controls: Control[]
  blocks: Block[]
}

/** Change controls of a surface: each by its id, and what changes of it. */
export interface ControlsSet {
  type: 'controls-set'
  model: Id
  controls: Array<{ id: Id; set: Partial<Omit<Control, 'id'>> }>
}

/** Remove controls. What was learned from them stays as old mappings. */
export interface ControlsRemove {
  type: 'controls-remove'
  model: Id
  controls: Id[]
}

export interface BlockAdd {
  type: 'block-add'
  model: Id
  block: Block
  /** The controls that become its members. */
  controls: Id[]
}

export interface BlockSet {
  type: 'block-set'
  model: Id
  block: Id
  set: Partial<Omit<Block, 'id'>>
}

/** Break a block up: its controls stay, each for itself. */
export interface BlockBreak {
  type: 'block-break'
  model: Id
  block: Id
}

export interface SurfaceSet {
  type: 'surface-set'
  model: Id
  width: number
  height: number
}

export interface AbilitiesSet {
  type: 'abilities-set'
  model: Id
  abilities: Abilities
}

const requireModel = (rig: Rig, id: Id): Model => requireItem(rig.models, id, 'controller')

/** Drop blocks that have no member left. */
function dropEmptyBlocks(model: Model): void {
  const used = new Set(model.surface.controls.map(({ block }) => block))
  const isEmpty = ({ id }: Block): boolean => !used.has(id)
  if (model.surface.blocks.some(isEmpty))
    model.surface.blocks = model.surface.blocks.filter((block) => !isEmpty(block))
}

/** Draw controls and blocks on a surface. Refused whole if an id is taken or a block is not there. */
export const controlsAdd = editKind<ControlsAdd>('controls-add', (rig, edit) => {
  const { surface } = requireModel(rig, edit.model)
  const taken = new Set(surface.controls.map(({ id }) => id))
  for (const block of edit.blocks) {
    if (surface.blocks.some(({ id }) => id === block.id))
      throw new EditError('This block has already been added.')
    surface.blocks.push(accepted(BlockSchema, block))
  }
  for (const given of edit.controls) {
    const control = accepted(ControlSchema, given)
    if (taken.has(control.id)) throw new EditError('This control has already been added.')
    if (control.block !== null) requireItem(surface.blocks, control.block, 'block')
    taken.add(control.id)
    surface.controls.push(control)
  }
  accepted(SurfaceSchema, surface)
})

/** Change controls; what was said of movements that they lose goes. Refused whole if one is not there. */
export const controlsSet = editKind<ControlsSet>('controls-set', (rig, edit) => {
  const model = requireModel(rig, edit.model)
  const positions = new Map(model.surface.controls.map(({ id }, index) => [id, index]))
  let gesturesChange = false
  for (const { id, set } of edit.controls) {
    const position = positions.get(id)
    const control = position === undefined ? undefined : model.surface.controls[position]
    if (position === undefined || !control)
      throw new EditError('The control is no longer there; choose another.')
    const next = accepted(ControlSchema, { ...control, ...set, id })
    if (next.block !== null) requireItem(model.surface.blocks, next.block, 'block')
    gesturesChange ||= control.gestures.some((gesture) => !next.gestures.includes(gesture))
    model.surface.controls[position] = next
  }
  if (gesturesChange) dropGestures(rig, isMissing(rig, edit.model))
  dropEmptyBlocks(model)
})

/**
 * Remove controls with all that speaks of them, and blocks that are left empty. Refused if the model is not there.
 */
export const controlsRemove = editKind<ControlsRemove>('controls-remove', (rig, edit) => {
  const model = requireModel(rig, edit.model)
  const gone = new Set(edit.controls)
  model.surface.controls = model.surface.controls.filter(({ id }) => !gone.has(id))
  dropGestures(rig, isMissing(rig, edit.model))
  dropEmptyBlocks(model)
  for (const rule of rig.houseRules) {
    if (
      rule.block !== null &&
      !rig.models.some(({ surface }) => surface.blocks.some(({ id }) => id === rule.block))
    ) {
      rule.block = null
    }
  }
})

/** Make a block of controls. Refused without controls, or if its id is taken. */
export const blockAdd = editKind<BlockAdd>('block-add', (rig, edit) => {
  const model = requireModel(rig, edit.model)
  if (edit.controls.length === 0) throw new EditError('A block needs at least one control.')
  if (model.surface.blocks.some(({ id }) => id === edit.block.id))
    throw new EditError('This block has already been added.')
  model.surface.blocks.push(accepted(BlockSchema, edit.block))
  const members = new Set(edit.controls)
  for (const control of model.surface.controls) if (members.has(control.id)) control.block = edit.block.id
  dropEmptyBlocks(model)
})

/** Change a block. Refused if it is not there. */
export const blockSet = editKind<BlockSet>('block-set', (rig, edit) => {
  const { surface } = requireModel(rig, edit.model)
  const index = surface.blocks.findIndex(({ id }) => id === edit.block)
  surface.blocks[index] = accepted(BlockSchema, {
    ...requireItem(surface.blocks, edit.block, 'block'),
    ...edit.set,
    id: edit.block,
  })
})

/** Let the controls of a block stand by themselves. Refused if it is not there. */
export const blockBreak = editKind<BlockBreak>('block-break', (rig, edit) => {
  const model = requireModel(rig, edit.model)
  requireItem(model.surface.blocks, edit.block, 'block')
  for (const control of model.surface.controls) if (control.block === edit.block) control.block = null
  dropEmptyBlocks(model)
  for (const rule of rig.houseRules) if (rule.block === edit.block) rule.block = null
})

/** Give a surface another size, in mm. Refused if the model is not there. */
export const surfaceSet = editKind<SurfaceSet>('surface-set', (rig, edit) => {
  const { surface } = requireModel(rig, edit.model)
  const { width, height } = accepted(SurfaceSchema, { ...surface, width: edit.width, height: edit.height })
  Object.assign(surface, { width, height })
})

/** Say what a model can do. Refused if a controller of it uses a slot that it then would not have. */
export const abilitiesSet = editKind<AbilitiesSet>('abilities-set', (rig, edit) => {
  const model = requireModel(rig, edit.model)
  const abilities = accepted(AbilitiesSchema, edit.abilities)
  for (const controller of rig.controllers) {
    const beyond =
      controller.model === model.id && controller.slots.find(({ number }) => number > abilities.slots)
    if (beyond) throw new EditError(`${controller.name} uses slot ${beyond.number}; empty it first.`)
  }
  model.abilities = abilities
})
