import { current, isDraft, type Draft } from 'immer'
import type * as z from 'zod/mini'
import { controlsOf } from '../lookup'
import { problemsOf } from '../problems'
import type { Controller, Destination, GestureRef, Id, Rig } from '../types'
import { splitGestureKey, splitGestureRef } from '../places'
import { EditError } from './edit-error'

export { EditError }

/**
 * One kind of edit: plain data with a `type`, and how it changes a draft of the rig. A new kind is
 * one file like its neighbours and one line in `index.ts`.
 */
export interface EditKind<E extends { type: string }> {
  type: E['type']
  apply: (rig: Rig, edit: E) => void
}

/** An edit of a type, and how it changes a draft of a rig; `apply` throws an EditError where it cannot. */
export const editKind = <E extends { type: string }>(
  type: E['type'],
  apply: (rig: Rig, edit: E) => void,
): EditKind<E> => ({ type, apply })

/** The value, if the schema accepts it; throws an EditError that says why if not. */
export function accepted<T extends z.ZodMiniType>(schema: T, value: unknown): z.infer<T> {
  const result = schema.safeParse(value, { reportInput: true })
  if (result.success) return result.data
  const [problem] = problemsOf(result.error, 1)
  if (!problem) throw new EditError('This value is not possible.')
  // What a schema says as a sentence stands for itself; the rest goes on from where it is.
  throw new EditError(
    /^[A-Z“]/.test(problem.message) ? problem.message : `This cannot be: ${problem.path} ${problem.message}.`,
  )
}

/** Give fields the values accepted for them: those that were set, so that a step records no others. */
export function assignSet<T extends object>(into: T, set: Partial<T>, values: Partial<T>): void {
  for (const key of Object.keys(set) as Array<keyof T>) into[key] = values[key] as T[keyof T]
}

function find<T extends { id: Id }>(items: T[], id: Id, what: string): T {
  return items.find((item) => item.id === id) ?? missing(what)
}

function missing(what: string): never {
  throw new EditError(`The ${what} is no longer there; undo, or choose another.`)
}

/** What a draft holds, as plain data: of what has not been changed the very same. Reading much through a draft is slow. */
export const plain = <T extends object>(value: T): T =>
  isDraft(value) ? (current(value as Draft<T>) as T) : value

/** A controller by its id; throws an EditError if it is not there. */
export const requireController = (rig: Rig, id: Id): Controller => find(rig.controllers, id, 'controller')
/** A destination by its id; throws an EditError if it is not there. */
export const requireDestination = (rig: Rig, id: Id): Destination => find(rig.destinations, id, 'destination')
/** An item by its id, named as `what` in the refusal; throws an EditError if it is not there. */
export const requireItem = find

/** Make sure that a gesture exists; throws an EditError if not. */
export function requireGesture(rig: Rig, ref: GestureRef): void {
  const { controller: id, gesture: key } = splitGestureRef(ref)
  const controller = requireController(rig, id)
  const model = find(plain(rig.models), controller.model, 'model')
  const { control: controlId, gesture } = splitGestureKey(key)
  const control = controlsOf(model).get(controlId) ?? missing('control')
  if (!control.gestures.some((candidate) => candidate === gesture)) {
    throw new EditError(`${control.label} has no such movement.`)
  }
}

/** Make sure that an id is not taken; throws an EditError if it is. */
export function requireNewId(items: ReadonlyArray<{ id: Id }>, id: Id): void {
  if (items.some((item) => item.id === id)) throw new EditError('This has already been added.')
}

/** A list with one item at another place; places beyond the ends are the ends. */
export function movedTo<T extends { id: Id }>(items: readonly T[], item: T, to: number): T[] {
  const rest = items.filter(({ id }) => id !== item.id)
  return rest.toSpliced(Math.max(0, Math.min(rest.length, to)), 0, item)
}
