import { assignmentsAt, placeRef, type Place } from '../places'
import { Assignment as AssignmentSchema, Message as MessageSchema } from '../schema'
import type { Assignment, GestureKey, Message, Rig } from '../types'
import { accepted, EditError, editKind, requireController, requireGesture } from './kit'

/** Set one message of an assignment; the assignment is made if the gesture had none there. */
export interface MessageEdit {
  type: 'message'
  at: Place
  index: number
  message: Message
}

/** Set or take away a whole assignment. */
export interface AssignmentEdit {
  type: 'assignment'
  at: Place
  assignment: Assignment | null
}

function tableAt(rig: Rig, at: Place): Record<GestureKey, Assignment> {
  requireGesture(rig, placeRef(at))
  const controller = requireController(rig, at.controller)
  const table = assignmentsAt(controller, at)
  if (!table) throw new EditError('The template or layer is no longer there; choose another.')
  const template = controller.templates.find((candidate) => candidate.id === at.template)
  const stacks = template?.stacks.filter((stack) => stack.gestures.includes(at.gesture)) ?? []
  if (at.layer === null) {
    const replacing = stacks.find((stack) => stack.mode === 'replace')
    if (replacing) throw new EditError(`Choose a layer of “${replacing.name}” first.`)
  } else if (!stacks.some((stack) => stack.layers.some((layer) => layer.id === at.layer))) {
    throw new EditError('This layer does not change that control.')
  }
  return table
}

export const messageEdit = editKind<MessageEdit>('message', (rig, { at, index, message }) => {
  const table = tableAt(rig, at)
  const sent = accepted(MessageSchema, message)
  const assignment = table[at.gesture]
  if (!assignment) {
    if (index !== 0) throw new EditError('There is no such message to change.')
    table[at.gesture] = accepted(AssignmentSchema, { messages: [sent] })
    return
  }
  if (index < 0 || index > assignment.messages.length) {
    throw new EditError('There is no such message to change.')
  }
  assignment.messages[index] = sent
})

export const assignmentEdit = editKind<AssignmentEdit>('assignment', (rig, { at, assignment }) => {
  const table = tableAt(rig, at)
  if (assignment === null) Reflect.deleteProperty(table, at.gesture)
  else table[at.gesture] = accepted(AssignmentSchema, assignment)
})
