import { findGesture, rigIndex } from '../lookup'
import { freshMessage } from '../messages'
import { assignmentsAt, gestureRef, placeRef, type Place } from '../places'
import type { RigEdit } from '../edits'
import type { Assignment, Control, GestureKey, GestureKind, Id, Rig } from '../types'

/** A place with what it sends now; a gesture that has no assignment there sends nothing. */
export interface Programmed {
  place: Place
  control: Control
  gesture: GestureKind
  assignment: Assignment
}

/** What is programmed at a place, or null where its control is not there. */
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

/**
 * Something for each table that assignments stand in: the base of a template, or a layer. Made when first asked
 * for. Quick for thousands of places of one template, of which no key need be put together.
 */
function byTable<T>(make: (at: Omit<Place, 'gesture'>) => T): {
  at: (place: Place) => T
  all: () => T[]
} {
  const templates = new Map<string, Map<Id | null, T>>()
  let last: { controller: Id; template: Id; layers: Map<Id | null, T> } | null = null
  return {
    at: ({ controller, template, layer }) => {
      if (last?.template !== template || last.controller !== controller) {
        const key = `${controller}/${template}`
        const layers = templates.get(key) ?? new Map<Id | null, T>()
        templates.set(key, layers)
        last = { controller, template, layers }
      }
      const known = last.layers.get(layer)
      if (known !== undefined) return known
      const made = make({ controller, template, layer })
      last.layers.set(layer, made)
      return made
    },
    all: () => [...templates.values()].flatMap((layers) => [...layers.values()]),
  }
}

/** As `programmedAt` for many places; those whose control is gone are left out. */
export function programmedOver(rig: Rig, places: readonly Place[]): Programmed[] {
  const tables = byTable((at) => {
    const controller = rigIndex(rig).controllers.get(at.controller)
    return { table: controller ? assignmentsAt(controller, at) : null }
  })
  const found = new Map<Id, Map<GestureKey, ReturnType<typeof findGesture>>>()
  const find = ({ controller, gesture }: Place): ReturnType<typeof findGesture> => {
    let own = found.get(controller)
    if (!own) {
      own = new Map()
      found.set(controller, own)
    }
    let at = own.get(gesture)
    if (at === undefined) {
      at = findGesture(rig, gestureRef(controller, gesture))
      own.set(gesture, at)
    }
    return at
  }
  const all: Programmed[] = []
  for (const place of places) {
    const assignment = tables.at(place).table?.[place.gesture]
    const at = assignment && find(place)
    const programmed = at
      ? { place, control: at.control, gesture: at.gesture, assignment }
      : programmedAt(rig, place)
    if (programmed) all.push(programmed)
  }
  return all
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
  const groups = byTable((at) => ({ at, assignments: {} as Record<GestureKey, Assignment> }))
  all.forEach((programmed, index) => {
    const next = change(programmed, index)
    if (next !== programmed.assignment)
      groups.at(programmed.place).assignments[programmed.place.gesture] = next
  })
  return groups.all().map((group): RigEdit => ({ type: 'assignments', ...group }))
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
