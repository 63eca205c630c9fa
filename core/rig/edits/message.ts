import { freeze } from 'immer'
import { assignmentsAt, placeRef, type Place } from '../places'
import { Assignment as AssignmentSchema, Message as MessageSchema } from '../schema'
import type { Assignment, Controller, GestureKey, Message, Rig } from '../types'
import { accepted, EditError, editKind, plain, requireController, requireGesture } from './kit'
import { requireLight } from './light'

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
  const stacks = template?.stacks.filter((stack) => plain(stack.gestures).includes(at.gesture)) ?? []
  if (at.layer === null) {
    const replacing = stacks.find((stack) => stack.mode === 'replace')
    if (replacing) throw new EditError(`Choose a layer of “${replacing.name}” first.`)
  } else if (!stacks.some((stack) => stack.layers.some((layer) => layer.id === at.layer))) {
    throw new EditError('This layer does not change that control.')
  }
  return table
}

/** Set one message of a gesture, the next one at most. Refused if the place or the message before it is not there. */
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

/** Set or take away what a gesture sends. Refused if its place or light role is not there. */
export const assignmentEdit = editKind<AssignmentEdit>('assignment', (rig, { at, assignment }) => {
  const table = tableAt(rig, at)
  if (assignment === null) Reflect.deleteProperty(table, at.gesture)
  else {
    requireLight(rig, assignment.light)
    table[at.gesture] = accepted(AssignmentSchema, assignment)
  }
})

/** Set or take away many assignments of one layer (or the base) at once. */
export interface AssignmentsEdit {
  type: 'assignments'
  at: Omit<Place, 'gesture'>
  assignments: Record<GestureKey, Assignment | null>
}

/** Set or take away many assignments of a layer at once. Refused whole if one of them may not be there. */
export const assignmentsEdit = editKind<AssignmentsEdit>('assignments', (rig, { at, assignments }) => {
  const keys = Object.keys(assignments)
  const [first] = keys
  if (first === undefined) return
  const table = tableAt(rig, { ...at, gesture: first })
  const controller = requireController(rig, at.controller)
  const allowed = allowedGestures(rig, controller, at)
  const stray = keys.find((gesture) => !allowed.has(gesture))
  if (stray !== undefined) throw new EditError('This layer does not change that control.')
  const before = plain(table)
  const acceptedAssignment = acceptance()
  const next = keys.map((gesture): [GestureKey, Assignment | null] => {
    const assignment = assignments[gesture] ?? null
    if (assignment && assignment.light !== before[gesture]?.light) requireLight(rig, assignment.light)
    return [gesture, assignment && acceptedAssignment(assignment, before[gesture])]
  })
  const write = (into: Record<GestureKey, Assignment>): void => {
    for (const [gesture, assignment] of next) {
      if (assignment === null) Reflect.deleteProperty(into, gesture)
      else into[gesture] = assignment
    }
  }
  // Most of a layer at once is one patch, not thousands.
  if (keys.length * WHOLE_LAYER_SHARE > Object.keys(before).length) {
    const whole = { ...before }
    write(whole)
    // Frozen here, it need not be searched for drafts.
    replaceTable(controller, at, freeze(whole, true))
  } else write(table)
})

const WHOLE_LAYER_SHARE = 4

/**
 * Assignments that the schema accepts, one after another: messages that stand already, or that many assignments
 * share, are looked at once.
 */
function acceptance(): (next: Assignment, before: Assignment | undefined) => Assignment {
  const known = new Map<Assignment['messages'], Assignment['messages']>()
  return (next, before) => {
    const messages = next.messages === before?.messages ? next.messages : known.get(next.messages)
    const isKnown =
      messages !== undefined &&
      before !== undefined &&
      next.light === before.light &&
      next.memo === before.memo &&
      typeof next.pinned === 'boolean'
    // Frozen here, a table of thousands need not be gone through to the last value to freeze it.
    if (isKnown)
      return Object.freeze({ messages, pinned: next.pinned, light: before.light, memo: before.memo })
    const fresh = freeze(accepted(AssignmentSchema, next), true)
    known.set(next.messages, fresh.messages)
    return fresh
  }
}

function replaceTable(
  controller: Controller,
  at: Omit<Place, 'gesture'>,
  table: Record<GestureKey, Assignment>,
): void {
  const template = controller.templates.find(({ id }) => id === at.template)
  if (!template) return
  if (at.layer === null) template.base = table
  for (const { layers } of template.stacks) {
    const layer = layers.find(({ id }) => id === at.layer)
    if (layer) layer.assignments = table
  }
}

/** The gestures that may be set in a layer: those of its stack; in the base, those in no replacing stack. */
function allowedGestures(rig: Rig, controller: Controller, at: Omit<Place, 'gesture'>): Set<GestureKey> {
  const template = controller.templates.find((candidate) => candidate.id === at.template)
  const stacks = template?.stacks ?? []
  if (at.layer !== null) {
    const stack = stacks.find(({ layers }) => layers.some(({ id }) => id === at.layer))
    return new Set(stack ? plain(stack.gestures) : [])
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
