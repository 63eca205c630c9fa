import { findGesture, rigIndex } from '../lookup'
import { freshMessage } from '../messages'
import { assignmentsAt, placeRef, type Place } from '../places'
import type { RigEdit } from '../edits'
import type { Assignment, Control, GestureKey, GestureKind, GestureRef, Rig } from '../types'

/** A place with what it sends now; a gesture that has no assignment there sends nothing. */
export interface Programmed {
  place: Place
  control: Control
  gesture: GestureKind
  assignment: Assignment
}

export function programmedAt(rig: Rig, place: Place): Programmed | null {
  const found = findGesture(rig, placeRef(place))
  const controller = rigIndex(rig).controllers.get(place.controller)
  if (!found || !controller) return null
  const assignment = assignmentsAt(controller, place)?.[place.gesture] ?? {
    messages: [freshMessage('off', found.control.kind, found.gesture)],
    pinned: false,
    light: null,
    memo: '',
  }
  return { place, control: found.control, gesture: found.gesture, assignment }
}

/** As `programmedAt` for many places; those whose control is gone are left out. */
export function programmedOver(rig: Rig, places: readonly Place[]): Programmed[] {
  const tables = new Map<string, ReturnType<typeof assignmentsAt>>()
  const found = new Map<GestureRef, ReturnType<typeof findGesture>>()
  const find = (ref: GestureRef): ReturnType<typeof findGesture> => {
    const known = found.get(ref)
    if (known !== undefined) return known
    const fresh = findGesture(rig, ref)
    found.set(ref, fresh)
    return fresh
  }
  return places.flatMap((place) => {
    const key = `${place.controller}/${place.template}/${place.layer ?? ''}`
    if (!tables.has(key)) {
      const controller = rigIndex(rig).controllers.get(place.controller)
      tables.set(key, controller ? assignmentsAt(controller, place) : null)
    }
    const assignment = tables.get(key)?.[place.gesture]
    const at = assignment && find(placeRef(place))
    if (!at) return programmedAt(rig, place) ?? []
    return { place, control: at.control, gesture: at.gesture, assignment }
  })
}

/** Edits that change many assignments, one edit a layer. What `change` leaves as it is, is left out. */
export const changeAssignments = (
  rig: Rig,
  places: readonly Place[],
  change: (programmed: Programmed, index: number) => Assignment,
): RigEdit[] => changeProgrammed(programmedOver(rig, places), change)

/** As `changeAssignments`, for places whose assignments are at hand. */
export function changeProgrammed(
  all: readonly Programmed[],
  change: (programmed: Programmed, index: number) => Assignment,
): RigEdit[] {
  const groups = new Map<
    string,
    { at: Omit<Place, 'gesture'>; assignments: Record<GestureKey, Assignment> }
  >()
  all.forEach((programmed, index) => {
    const { place } = programmed
    const next = change(programmed, index)
    if (next === programmed.assignment) return
    const { controller, template, layer } = place
    const key = `${controller}/${template}/${layer ?? ''}`
    const group = groups.get(key) ?? { at: { controller, template, layer }, assignments: {} }
    groups.set(key, group)
    group.assignments[place.gesture] = next
  })
  return [...groups.values()].map((group): RigEdit => ({ type: 'assignments', ...group }))
}

/** Edits that make what stands at many places send nothing; pins and memos stay. */
export function turnOff(all: readonly Programmed[]): RigEdit[] {
  const messages: Assignment['messages'] = [{ kind: 'off' }]
  return changeProgrammed(all, ({ assignment }) => ({ ...assignment, messages }))
}

/** What all have in common, or the word `mixed`; null where there is nothing to compare. */
export function inCommon<T>(values: readonly T[]): { kind: 'same'; value: T } | { kind: 'mixed' } | null {
  const [first] = values
  if (first === undefined) return null
  return values.every((value) => value === first) ? { kind: 'same', value: first } : { kind: 'mixed' }
}
