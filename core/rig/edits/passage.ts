import { Passage as PassageSchema } from '../schema'
import type { Id, Passage, Rig } from '../types'
import {
  accepted,
  EditError,
  editKind,
  movedTo,
  requireController,
  requireDestination,
  requireItem,
  requireNewId,
} from './kit'

export interface PassageAdd {
  type: 'passage-add'
  passage: Passage
}

export interface PassageSet {
  type: 'passage-set'
  passage: Id
  set: Partial<Omit<Passage, 'id'>>
}

/** Passages stand in the order of the show. */
export interface PassageMove {
  type: 'passage-move'
  passage: Id
  to: number
}

export interface PassageRemove {
  type: 'passage-remove'
  passage: Id
}

/** A passage whose controllers, templates, layers and scopes are all there, each named once. */
function acceptedPassage(rig: Rig, value: unknown): Passage {
  const passage = accepted(PassageSchema, value)
  const named = [
    ...passage.showing.map(({ controller }) => controller),
    ...passage.scopes.map(({ destination }) => destination),
  ]
  if (new Set(named).size < named.length)
    throw new EditError('A passage names each controller and each destination once.')
  for (const shown of passage.showing) {
    const controller = requireController(rig, shown.controller)
    const template = requireItem(controller.templates, shown.template, 'template')
    for (const { stack, layer } of shown.layers) {
      const { layers } = requireItem(template.stacks, stack, 'stack')
      if (layer !== null) requireItem(layers, layer, 'layer')
    }
  }
  for (const { destination, scope } of passage.scopes) {
    const { scopes } = requireDestination(rig, destination)
    if (scope !== null) requireItem(scopes, scope, 'scope')
  }
  return passage
}

/** Add a passage. Refused if something that it names is not there, or is named twice. */
export const passageAdd = editKind<PassageAdd>('passage-add', (rig, edit) => {
  const passage = acceptedPassage(rig, edit.passage)
  requireNewId(rig.passages, passage.id)
  rig.passages.push(passage)
})

/** Change a passage. Refused as `passageAdd` is, or if it is not there. */
export const passageSet = editKind<PassageSet>('passage-set', (rig, edit) => {
  const passage = requireItem(rig.passages, edit.passage, 'passage')
  Object.assign(passage, acceptedPassage(rig, { ...passage, ...edit.set, id: passage.id }))
})

/** Put a passage at another place in the show, 0 the first; beyond the end is the end. Refused if it is not there. */
export const passageMove = editKind<PassageMove>('passage-move', (rig, edit) => {
  rig.passages = movedTo(rig.passages, requireItem(rig.passages, edit.passage, 'passage'), edit.to)
})

/** Remove a passage. Refused if it is not there. */
export const passageRemove = editKind<PassageRemove>('passage-remove', (rig, edit) => {
  requireItem(rig.passages, edit.passage, 'passage')
  rig.passages = rig.passages.filter(({ id }) => id !== edit.passage)
})
