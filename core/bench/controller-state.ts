import type { Keys, SentMessage } from '../midi'
import {
  assignmentsAt,
  controlsOf,
  modelOf,
  placeKey,
  powerUpShowing,
  shownPlace,
  splitGestureKey,
  type Control,
  type Controller,
  type GestureKey,
  type Id,
  type Place,
  type Rig,
  type Showing,
} from '../rig'
import type { Amount } from './amount'
import type { Held } from './choosing'

/** One message that has left a controller. */
export interface Played {
  /** ms. */
  at: number
  place: Place
  messageIndex: number
  /** As it goes out: its channel a number, its key the one that was struck. */
  message: SentMessage
  amount: Amount
  /** What it carries: a value of its range, clicks, or a velocity with 0 to let go. */
  value: number
  /** The key that was struck; 0 where there is none. */
  key: number
  bytes: readonly number[]
}

/** Everything that a controller remembers. Plain data. */
export interface ControllerState {
  showing: Showing
  /** Where each movement stands, 0–1; of an endless encoder what it has been turned to. */
  positions: Readonly<Record<GestureKey, number>>
  /** What is held down, by gesture and key. */
  held: Readonly<Record<string, Held>>
  /** When each gesture was pressed last, in ms. */
  pressedAt: Readonly<Record<GestureKey, number>>
  /** Of toggles and lists: which of their values came last. */
  steps: Readonly<Record<string, number>>
  /** The last value of each message. */
  sent: Readonly<Record<string, number>>
  /** The parameter that was selected last on each channel. */
  selected: Readonly<Record<number, string>>
  octaves: Readonly<Record<GestureKey, number>>
  /** Of zones: the member that each held key plays on, and the one that was given last. */
  members: Readonly<Record<string, number>>
  /** Of lights of which one of many is bright: the gesture that was pressed last, by the group. */
  chosen: Readonly<Record<string, GestureKey>>
  /** What lights were set to from outside, by control: an index of the palette, or a value that a destination sent back. */
  lights: Readonly<Record<Id, LightSet>>
}

export interface LightSet {
  by: 'index' | 'value'
  value: number
}

/** A controller as it is when it is switched on: what its template shows at power-up, everything at rest. */
export const poweredUp = (controller: Controller, template?: Id): ControllerState => ({
  showing: powerUpShowing(controller, template),
  positions: {},
  held: {},
  pressedAt: {},
  steps: {},
  sent: {},
  selected: {},
  octaves: {},
  members: {},
  chosen: {},
  lights: {},
})

export type Zone = Extract<Keys, { kind: 'zone' }>

/** One message of an assignment. */
export interface Spoken {
  message: SentMessage
  index: number
}

/** A controller while something is done with it. */
export interface Playing {
  rig: Rig
  controller: Controller
  state: ControllerState
  sent: Played[]
}

export const controlAt = ({ rig, controller }: Playing, gesture: GestureKey): Control | null =>
  controlsOf(modelOf(rig, controller)).get(splitGestureKey(gesture).control) ?? null

/** Where a movement stands, 0–1: one that has not been moved yet at its low end, or in its centre where it rests there. */
export const standsAt = (
  { positions }: ControllerState,
  gesture: GestureKey,
  control: Control | null,
): number => positions[gesture] ?? (control?.restsInCentre ? 0.5 : 0)

/** What a gesture sends at a place, message by message. */
export function messagesAt({ controller }: Playing, place: Place): Array<Spoken> {
  const messages = assignmentsAt(controller, place)?.[place.gesture]?.messages ?? []
  return messages.flatMap((message, index) => (message.kind === 'off' ? [] : [{ message, index }]))
}

/** The name under which something held is kept. */
export const heldName = (gesture: GestureKey, key = 0): string => `${gesture} ${key}`

/** The name under which a toggle or list keeps which of its values came last. */
export const stepName = (place: Place, index: number): string => `${placeKey(place)}#${index}`

/** Where what a gesture sends stands now; null where no layer shows. */
export const placeOf = ({ controller, state }: Playing, gesture: GestureKey): Place | null =>
  shownPlace(controller, state.showing, gesture)
