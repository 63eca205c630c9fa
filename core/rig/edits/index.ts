import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer'
import type { Rig } from '../types'
import { accordAdd, accordRemove, type AccordAdd, type AccordRemove } from './accord'
import type { EditKind } from './kit'
import {
  mappingAdd,
  mappingRemove,
  mappingSet,
  type MappingAdd,
  type MappingRemove,
  type MappingSet,
} from './mapping'
import { assignmentEdit, messageEdit, type AssignmentEdit, type MessageEdit } from './message'
import {
  controllerSet,
  hearingSet,
  rigSet,
  type ControllerSet,
  type HearingSet,
  type RigSet,
} from './settings'

export { EditError } from './kit'
export type { Patch } from 'immer'

/** Every change that can be made to a rig, as plain data. */
export type RigEdit =
  | AccordAdd
  | AccordRemove
  | AssignmentEdit
  | ControllerSet
  | HearingSet
  | MappingAdd
  | MappingRemove
  | MappingSet
  | MessageEdit
  | RigSet

const KINDS: { [T in RigEdit['type']]: EditKind<Extract<RigEdit, { type: T }>> } = {
  'accord-add': accordAdd,
  'accord-remove': accordRemove,
  assignment: assignmentEdit,
  'controller-set': controllerSet,
  'hearing-set': hearingSet,
  'mapping-add': mappingAdd,
  'mapping-remove': mappingRemove,
  'mapping-set': mappingSet,
  message: messageEdit,
  'rig-set': rigSet,
}

enablePatches()

/** What a change did: its name for undo, and the patches forward and back (RFC 6902 in spirit, as Immer writes them). */
export interface Step {
  label: string
  patches: Patch[]
  inverse: Patch[]
}

/**
 * Make edits in order, as one step. Gives the new rig and the step; throws an EditError, with the
 * rig unchanged, if any of them cannot be made.
 */
export function perform(rig: Rig, label: string, edits: readonly RigEdit[]): { rig: Rig; step: Step } {
  const [next, patches, inverse] = produceWithPatches(rig, (draft) => {
    for (const edit of edits) {
      const kind = KINDS[edit.type] as EditKind<RigEdit>
      kind.apply(draft as Rig, edit)
    }
  })
  return { rig: next, step: { label, patches, inverse } }
}

/** The rig before a step. */
export const undone = (rig: Rig, step: Step): Rig => applyPatches(rig, step.inverse)

/** The rig after a step that was undone. */
export const redone = (rig: Rig, step: Step): Rig => applyPatches(rig, step.patches)

/** The rig after patches that another copy of it went through. */
export const patched = (rig: Rig, patches: readonly Patch[]): Rig => applyPatches(rig, patches as Patch[])
