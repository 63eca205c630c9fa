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

import { recorded, type Step } from './patches'

export { EditError } from './kit'
export * from './patches'

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

/**
 * Make edits in order, as one step. Gives the new rig and the step; throws an EditError, with the
 * rig unchanged, if any of them cannot be made.
 */
export function perform(rig: Rig, label: string, edits: readonly RigEdit[]): { rig: Rig; step: Step } {
  return recorded(rig, label, (draft) => {
    for (const edit of edits) {
      const kind = KINDS[edit.type] as EditKind<RigEdit>
      kind.apply(draft, edit)
    }
  })
}
