import { keepsState, travelOf } from '../midi'
import { entriesFor, lightAddress, lightPicture, type Lit } from '../lights'
import {
  assignmentsAt,
  controlsOf,
  gestureRef,
  memoOf,
  modelOf,
  shownPlace,
  type Controller,
  type GestureKey,
  type GestureRef,
  type Id,
  type Place,
  type Rig,
  type Showing,
} from '../rig'
import { stepName, type ControllerState, type LightSet, type Playing } from './controller-state'

/** Of each group of lights, the gesture that was pressed last, once something is pressed. */
export function chosenAfter({ controller, state }: Playing, place: Place): ControllerState['chosen'] {
  const setBy = assignmentsAt(controller, place)?.[place.gesture]?.light?.setBy
  return setBy?.kind === 'one-of-many' ? { ...state.chosen, [setBy.group]: place.gesture } : state.chosen
}

const lightKey = (kind: 'note' | 'cc', channel: number, number: number): string =>
  `${kind} ${channel} ${number}`

const addressedIn = memoOf((_rig: Rig) => new WeakMap<Showing, ReadonlyMap<string, readonly Id[]>>())

/** The controls whose lights each message sets, in what shows. */
function addressed(rig: Rig, controller: Controller, showing: Showing): ReadonlyMap<string, readonly Id[]> {
  const known = addressedIn(rig).get(showing)
  if (known) return known
  const { surface, abilities } = modelOf(rig, controller)
  const found = new Map<string, Id[]>()
  const setBy = abilities.lights?.setBy
  const states = setBy?.kind === 'channel-meaning' ? setBy.meanings.map(({ meaning }) => meaning) : [null]
  for (const control of surface.controls) {
    if ((abilities.lights?.levels[control.kind] ?? 'none') === 'none') continue
    for (const state of states) {
      const address = lightAddress(rig, controller, showing, control, state)
      if (!address) continue
      const key = lightKey(address.kind, address.channel, address.number)
      found.set(key, [...(found.get(key) ?? []), control.id])
    }
  }
  addressedIn(rig).set(showing, found)
  return found
}

/** What lights show after a message has come in that sets some; the same object where it sets none. */
export function litBy(
  rig: Rig,
  controller: Controller,
  state: ControllerState,
  bytes: readonly number[],
): ControllerState['lights'] {
  const [status = 0, number = 0, value = 0] = bytes
  const kind = (status & 0xf0) === 0xb0 ? 'cc' : (status & 0xe0) === 0x80 ? 'note' : null
  if (kind === null) return state.lights
  const index = (status & 0xf0) === 0x80 ? 0 : value
  const found = addressed(rig, controller, state.showing).get(lightKey(kind, (status & 15) + 1, number))
  if (!found) return state.lights
  return {
    ...state.lights,
    ...Object.fromEntries(found.map((id): [Id, LightSet] => [id, { by: 'index', value: index }])),
  }
}

/** The gestures that are active as the player left them: held, switched on, or chosen among many. */
function activeOf(
  rig: Rig,
  controller: Controller,
  showing: Showing,
  state: LightState,
  only: Id | null,
): ReadonlySet<GestureRef> {
  const active = new Set<GestureRef>()
  const add = (gesture: GestureKey): unknown => active.add(gestureRef(controller.id, gesture))
  for (const control of controlsOf(modelOf(rig, controller)).values()) {
    if (only !== null && control.id !== only) continue
    for (const kind of control.gestures) {
      const gesture = `${control.id}.${kind}`
      const place = shownPlace(controller, showing, gesture)
      const assignment = place && assignmentsAt(controller, place)?.[gesture]
      if (!place || !assignment?.light) continue
      const { setBy } = assignment.light
      if (setBy.kind === 'one-of-many') {
        if (state.chosen[setBy.group] === gesture) add(gesture)
        continue
      }
      const isOn = assignment.messages.some(
        (message, index) =>
          message.kind !== 'off' &&
          keepsState(travelOf(message, control)) &&
          (state.steps[stepName(place, index)] ?? 0) > 0,
      )
      if (isOn) add(gesture)
    }
  }
  for (const { gesture } of Object.values(state.held))
    if (!isOneOfMany(controller, showing, gesture)) add(gesture)
  return active
}

function isOneOfMany(controller: Controller, showing: Showing, gesture: GestureKey): boolean {
  const place = shownPlace(controller, showing, gesture)
  const light = place && assignmentsAt(controller, place)?.[gesture]?.light
  return light?.setBy.kind === 'one-of-many'
}

/** What of a controller's state its lights rest on. */
export type LightState = Pick<ControllerState, 'held' | 'steps' | 'chosen' | 'lights'>

/**
 * Every light of a controller as it is now: set by the template's roles from what is held, switched on, chosen or sent back,
 * or by messages from outside; or that of one control only. `showings` is what every controller shows.
 */
export function lightsNow(
  rig: Rig,
  controller: Controller,
  showings: Readonly<Record<Id, Showing>>,
  state: LightState,
  only: Id | null = null,
): Lit[] {
  const showing = showings[controller.id]
  if (!showing) return []
  const values = new Map(
    Object.entries(state.lights).flatMap(([id, { by, value }]) => (by === 'value' ? [[id, value]] : [])),
  )
  const { lights } = modelOf(rig, controller).abilities
  return lightPicture(
    rig,
    controller,
    showings,
    {
      kind: 'played',
      active: activeOf(rig, controller, showing, state, only),
      values,
    },
    only,
  ).map((lit) => {
    const set = state.lights[lit.control.id]
    const entry =
      set?.by === 'index'
        ? entriesFor(lights, lit.control.kind).find(({ index }) => index === set.value)
        : undefined
    return entry ? { ...lit, entry } : lit
  })
}

/** What every controller shows. */
export const showingsOf = (states: Readonly<Record<Id, ControllerState>>): Record<Id, Showing> =>
  Object.fromEntries(Object.entries(states).map(([id, { showing }]) => [id, showing]))
