import { assignmentsAt, placeRef, type Place } from '../places'
import { Assignment as AssignmentSchema, Message as MessageSchema } from '../schema'
import type { Assignment, Controller, GestureKey, Message, Rig } from '../types'
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

/** Set or take away many assignments of one layer (or the base) at once. */
export interface AssignmentsEdit {
  type: 'assignments'
  at: Omit<Place, 'gesture'>
  assignments: Record<GestureKey, Assignment | null>
}

export const assignmentsEdit = editKind<AssignmentsEdit>('assignments', (rig, { at, assignments }) => {
  const keys = Object.keys(assignments)
  const [first] = keys
  if (first === undefined) return
  const table = tableAt(rig, { ...at, gesture: first })
  const controller = requireController(rig, at.controller)
  const allowed = allowedGestures(rig, controller, at)
  for (const gesture of keys) {
    if (!allowed.has(gesture)) throw new EditError('This layer does not change that control.')
    const assignment = assignments[gesture] ?? null
    if (assignment === null) Reflect.deleteProperty(table, gesture)
    else table[gesture] = accepted(AssignmentSchema, assignment)
  }
})

/** The gestures that may be set in a layer: those of its stack; in the base, those in no replacing stack. */
function allowedGestures(rig: Rig, controller: Controller, at: Omit<Place, 'gesture'>): Set<GestureKey> {
  const template = controller.templates.find((candidate) => candidate.id === at.template)
  const stacks = template?.stacks ?? []
  if (at.layer !== null) {
    return new Set(stacks.find(({ layers }) => layers.some(({ id }) => id === at.layer))?.gestures)
  }
  const replaced = new Set(
    stacks.filter(({ mode }) => mode === 'replace').flatMap(({ gestures }) => gestures),
  )
  const surface = rig.models.find(({ id }) => id === controller.model)?.surface
  const all = surface?.controls.flatMap((control) =>
    control.gestures.map((gesture) => `${control.id}.${gesture}`),
  )
  return new Set(all?.filter((gesture) => !replaced.has(gesture)))
}
