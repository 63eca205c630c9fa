import { memoOf } from './memo'
import type {
  Assignment,
  Controller,
  GestureKey,
  GestureKind,
  GestureRef,
  Id,
  Stack,
  Template,
} from './types'

/** Where an assignment stands: a gesture in one layer of a template, or in its base (`layer` null). */
export interface Place {
  controller: Id
  template: Id
  layer: Id | null
  gesture: GestureKey
}

/** One string for a place, to compare and look up. */
export const placeKey = (place: Place): string =>
  `${place.controller}/${place.template}/${place.layer ?? ''}/${place.gesture}`

/** A gesture of a controller as one string: `syzra/enc-5.turn`. */
export const gestureRef = (controller: Id, gesture: GestureKey): GestureRef => `${controller}/${gesture}`

/** `syzra/enc-5.turn` → `syzra` and `enc-5.turn`. */
export function splitGestureRef(ref: GestureRef): { controller: Id; gesture: GestureKey } {
  const slash = ref.indexOf('/')
  return { controller: ref.slice(0, slash), gesture: ref.slice(slash + 1) }
}

/** `enc-5.turn` → `enc-5` and `turn`. */
export function splitGestureKey(key: GestureKey): { control: Id; gesture: GestureKind } {
  const dot = key.indexOf('.')
  return { control: key.slice(0, dot), gesture: key.slice(dot + 1) as GestureKind }
}

/** The gesture reference of a place. */
export const placeRef = (place: Place): GestureRef => gestureRef(place.controller, place.gesture)

/** The stack of a template that holds a layer, or null. */
export const stackOfLayer = (template: Template, layer: Id): Stack | null =>
  template.stacks.find((stack) => stack.layers.some((candidate) => candidate.id === layer)) ?? null

export interface PlacedAssignment {
  place: Place
  assignment: Assignment
}

function* inTable(
  controller: Id,
  template: Id,
  layer: Id | null,
  table: Readonly<Record<GestureKey, Assignment>>,
): Generator<PlacedAssignment> {
  for (const gesture of Object.keys(table)) {
    const assignment = table[gesture]
    if (assignment) yield { place: { controller, template, layer, gesture }, assignment }
  }
}

function* inTemplate({ id: controller }: Controller, template: Template): Generator<PlacedAssignment> {
  yield* inTable(controller, template.id, null, template.base)
  for (const { layers } of template.stacks) {
    for (const { id, assignments } of layers) yield* inTable(controller, template.id, id, assignments)
  }
}

/** Every assignment of a controller: templates, base and layers in their order. */
export function* assignmentsOf(controller: Controller): Generator<PlacedAssignment> {
  for (const template of controller.templates) yield* inTemplate(controller, template)
}

/** The assignments of one gesture of a controller, in the order of `assignmentsOf`. */
export function* assignmentsOfGesture({ templates }: Controller, gesture: GestureKey): Generator<Assignment> {
  for (const { base, stacks } of templates) {
    const inBase = base[gesture]
    if (inBase) yield inBase
    for (const { layers } of stacks) {
      for (const { assignments } of layers) {
        const inLayer = assignments[gesture]
        if (inLayer) yield inLayer
      }
    }
  }
}

/** Which template a controller shows, and which layer each of its stacks shows (null: none). */
export interface Showing {
  template: Id
  layers: Readonly<Record<Id, Id | null>>
}

/**
 * What a controller shows at power-up: its first template, each stack's power-up layer. Throws an Error where it has
 * no template, which no valid rig has.
 */
export function powerUpShowing(controller: Controller, templateId?: Id): Showing {
  const template =
    controller.templates.find((candidate) => candidate.id === templateId) ?? controller.templates[0]
  if (!template) throw new Error(`Controller ${controller.id} has no template.`)
  return {
    template: template.id,
    layers: Object.fromEntries(template.stacks.map((stack) => [stack.id, stack.powerUp])),
  }
}

const coverage = memoOf((gestures: readonly GestureKey[]) => new Set(gestures))

/** Is a gesture among those of a stack? Quick for thousands of questions; for a rig as it stands, not a draft. */
const covers = ({ gestures }: Stack, gesture: GestureKey): boolean => coverage(gestures).has(gesture)

/**
 * Where a gesture's assignment stands while `showing` is shown: the layer lying over it if that layer
 * sets it, else its replacing stack's layer, else the base. Null where its stack shows no layer.
 */
export function shownPlace(controller: Controller, showing: Showing, gesture: GestureKey): Place | null {
  const template = controller.templates.find((candidate) => candidate.id === showing.template)
  if (!template) return null
  const at = { controller: controller.id, template: template.id, gesture }
  for (const stack of template.stacks) {
    if (stack.mode !== 'lie-over' || !covers(stack, gesture)) continue
    const layer = stack.layers.find((candidate) => candidate.id === showing.layers[stack.id])
    if (layer && gesture in layer.assignments) return { ...at, layer: layer.id }
  }
  const replacing = template.stacks.find((stack) => stack.mode === 'replace' && covers(stack, gesture))
  if (!replacing) return { ...at, layer: null }
  const layer = replacing.layers.find((candidate) => candidate.id === showing.layers[replacing.id])
  return layer ? { ...at, layer: layer.id } : null
}

/** The table of assignments that a place lies in, or null if its template or layer is gone. */
export function assignmentsAt(
  controller: Controller,
  place: Pick<Place, 'template' | 'layer'>,
): Record<GestureKey, Assignment> | null {
  const template = controller.templates.find((candidate) => candidate.id === place.template)
  if (!template) return null
  if (place.layer === null) return template.base
  return (
    template.stacks.flatMap((stack) => stack.layers).find((layer) => layer.id === place.layer)?.assignments ??
    null
  )
}
