import { memoOf } from './memo'
import { placeRef, splitGestureKey, splitGestureRef, stackOfLayer, type Place } from './places'
import type {
  Control,
  Controller,
  ControlKind,
  Destination,
  GestureKey,
  GestureKind,
  GestureRef,
  Id,
  Mapping,
  Model,
  Parameter,
  Rig,
} from './types'

/** Look-ups over one rig, made once and kept as long as that rig. */
export interface RigIndex {
  controllers: ReadonlyMap<Id, Controller>
  models: ReadonlyMap<Id, Model>
  destinations: ReadonlyMap<Id, Destination>
  mappingsByGesture: ReadonlyMap<GestureRef, readonly Mapping[]>
}

const byId = <T extends { id: Id }>(items: readonly T[]): Map<Id, T> =>
  new Map(items.map((item) => [item.id, item]))

/** A rig by ids, worked out once. */
export const rigIndex = memoOf((rig: Rig): RigIndex => {
  const mappingsByGesture = new Map<GestureRef, Mapping[]>()
  for (const mapping of rig.mappings) {
    if (mapping.gesture === null) continue
    const list = mappingsByGesture.get(mapping.gesture)
    if (list) list.push(mapping)
    else mappingsByGesture.set(mapping.gesture, [mapping])
  }
  return {
    controllers: byId(rig.controllers),
    models: byId(rig.models),
    destinations: byId(rig.destinations),
    mappingsByGesture,
  }
})

/** The model of a controller. Throws an Error where the rig has none, which no valid rig does. */
export const modelOf = (rig: Rig, controller: Controller): Model => {
  const model = rigIndex(rig).models.get(controller.model)
  if (!model) throw new Error(`Controller ${controller.id} has no model.`)
  return model
}

/** The controls of a model by id. */
export const controlsOf = memoOf(({ surface }: Model): ReadonlyMap<Id, Control> => byId(surface.controls))

/** The controller and control that a gesture reference names, or null if they are gone. */
export function findGesture(
  rig: Rig,
  ref: GestureRef,
): { controller: Controller; control: Control; gesture: GestureKind; key: GestureKey } | null {
  const { controller: id, gesture: key } = splitGestureRef(ref)
  const controller = rigIndex(rig).controllers.get(id)
  if (!controller) return null
  const { control: controlId, gesture } = splitGestureKey(key)
  const control = controlsOf(modelOf(rig, controller)).get(controlId)
  return control ? { controller, control, gesture, key } : null
}

/** The mappings of a gesture, in the order of the rig. */
export const mappingsOf = (rig: Rig, ref: GestureRef): readonly Mapping[] =>
  rigIndex(rig).mappingsByGesture.get(ref) ?? []

const parametersOf = memoOf(({ parameters }: Destination) => byId(parameters))

/** A parameter of a destination by id, or null. */
export const parameterOf = (destination: Destination, id: Id): Parameter | null =>
  parametersOf(destination).get(id) ?? null

/** A parameter's full name: "Track 3 · Sends · Echo". */
export const parameterName = (parameter: Parameter): string => [...parameter.path, parameter.name].join(' · ')

/** Plain words for gestures whose control has more than one. The main gesture needs no word. */
export const GESTURE_WORD: Readonly<Record<GestureKind, string>> = {
  turn: 'turn',
  push: 'push',
  touch: 'touch',
  strike: 'strike',
  pressure: 'pressure',
  slide: 'slide',
  x: 'left–right',
  y: 'up–down',
  press: 'press',
  tilt: 'tilt',
}

/** Kinds of control in plain words. */
export const CONTROL_KIND_NAME: Readonly<Record<ControlKind, string>> = {
  knob: 'knob',
  encoder: 'encoder',
  fader: 'fader',
  button: 'button',
  pad: 'pad',
  keybed: 'keys',
  wheel: 'wheel',
  ribbon: 'ribbon',
  xy: 'xy surface',
  pedal: 'pedal',
  footswitch: 'footswitch',
  tilt: 'tilt sensor',
  joystick: 'joystick',
}

/** A control by its label, or by its kind where it has none. */
export const controlName = (control: Control): string =>
  control.label === '' ? `unnamed ${CONTROL_KIND_NAME[control.kind]}` : control.label

/** A gesture in a player's words: "Fdbk", or "Fdbk push" for one that is not the control's plain first. */
export function gestureName(control: Control, gesture: GestureKind): string {
  const name = controlName(control)
  const isPlain = control.gestures[0] === gesture && gesture !== 'x' && gesture !== 'y'
  return isPlain ? name : `${name} ${GESTURE_WORD[gesture]}`
}

/** A place in a player's words: controller, gesture, and the layer where there is one. */
export function placeName(
  rig: Rig,
  place: Place,
): { controller: string; gesture: string; layer: string | null } {
  const found = findGesture(rig, placeRef(place))
  if (!found) return { controller: place.controller, gesture: place.gesture, layer: place.layer }
  const template = found.controller.templates.find((candidate) => candidate.id === place.template)
  const stack = template && place.layer !== null ? stackOfLayer(template, place.layer) : null
  return {
    controller: found.controller.name,
    gesture: gestureName(found.control, found.gesture),
    layer: stack?.layers.find((layer) => layer.id === place.layer)?.name ?? null,
  }
}
