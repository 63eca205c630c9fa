import { deliveryOf, DIN_BYTES_PER_MS, type Bus } from '../addresses'
import { keepsState, travelOf, type SentMessage } from '../midi'
import {
  controlsOf,
  gestureRef,
  modelOf,
  rigIndex,
  splitGestureKey,
  type Controller,
  type GestureKey,
  type Id,
  type Place,
  type Rig,
} from '../rig'
import { valueOf, type Amount } from './amount'
import { afterChoice, choicesOf } from './choosing'
import { showOn } from './controller'
import type { ControllerState, Played } from './controller-state'
import { AT_REST, receive, type DestinationState, type Effect } from './destination'

/** The whole rig as it is being played: every controller and destination, and how busy the cables are. Plain data. */
export interface BenchState {
  controllers: Readonly<Record<Id, ControllerState>>
  destinations: Readonly<Record<Id, DestinationState>>
  /** Until when the DIN out of each controller is busy, in ms. */
  busyUntil: Readonly<Record<Id, number>>
}

/** What one destination made of one message. */
export interface Arrived {
  destination: Id
  bus: Id
  /** When it was there, in ms: later than it was sent where a DIN cable is crowded. */
  at: number
  effects: readonly Effect[]
}

/** One message that left a controller, with everything that became of it. */
export interface Passing extends Omit<Played, 'place' | 'message'> {
  controller: Id
  /** What sent it; null where nothing that the template shows sends this, as real hardware may. */
  place: Place | null
  /** Null for what has no address: time code, song positions and their like. */
  message: SentMessage | null
  arrived: readonly Arrived[]
}

/** The rig while something is done with it. */
export interface Running {
  rig: Rig
  state: BenchState
  passed: Passing[]
}

export const withController = (running: Running, id: Id, controller: ControllerState): void => {
  running.state = {
    ...running.state,
    controllers: { ...running.state.controllers, [id]: controller },
  }
}

/** When a message of so many bytes is through the controller's out. DIN cables carry one after the other. */
function throughOut(running: Running, controller: Controller, at: number, bytes: number): number {
  if (modelOf(running.rig, controller).abilities.connection !== 'din') return at
  const until = Math.max(at, running.state.busyUntil[controller.id] ?? 0) + bytes / DIN_BYTES_PER_MS
  running.state = {
    ...running.state,
    busyUntil: { ...running.state.busyUntil, [controller.id]: until },
  }
  return until
}

/** What of a control its values depend on. */
type Turned = Parameters<typeof travelOf>[1]
const UNKNOWN: Turned = { detentsPerTurn: null }

/** Does a message only say that something was let go? A toggle that goes off was pressed. */
const isLetGo = (amount: Amount, message: SentMessage, control: Turned): boolean =>
  amount.kind === 'blow'
    ? amount.velocity === 0
    : amount.kind === 'share' && amount.of === 0 && !keepsState(travelOf(message, control))

/** What has left a controller, before anything became of it. */
export type Sent = Omit<Passing, 'controller' | 'arrived'>

function arriveAt(running: Running, controller: Controller, played: Sent, at: number): Arrived[] {
  const { rig } = running
  const control = played.place
    ? controlsOf(modelOf(rig, controller)).get(splitGestureKey(played.place.gesture).control)
    : UNKNOWN
  if (!control || !played.message) return []
  const there = new Map<Bus, Effect[]>()
  for (const { bus, messages } of deliveryOf(rig).arrivals(controller.id, played.message))
    for (const message of messages) {
      const destination = rigIndex(rig).destinations.get(bus.destination)
      if (!destination) continue
      // What a cable has changed says the same amount in its own way.
      const value = message === played.message ? played.value : valueOf(message, played.amount, control)
      const before = running.state.destinations[destination.id] ?? AT_REST
      const { state, effects } = receive(rig, destination, before, {
        bus,
        message,
        value,
        isLetGo: isLetGo(played.amount, message, control),
      })
      running.state = {
        ...running.state,
        destinations: { ...running.state.destinations, [destination.id]: state },
      }
      there.set(bus, [...(there.get(bus) ?? []), ...effects])
    }
  return [...there].flatMap(([bus, effects]) =>
    effects.length > 0 ? [{ destination: bus.destination, bus: bus.id, at, effects }] : [],
  )
}

/** Bring what a controller has sent to every destination. */
export function pass(running: Running, controller: Controller, sent: readonly Sent[]): void {
  for (const played of sent) {
    const at = throughOut(running, controller, played.at, played.bytes.length)
    running.passed.push({
      ...played,
      controller: controller.id,
      arrived: arriveAt(running, controller, played, at),
    })
  }
}

/** A gesture that is pressed may choose what other controllers show. */
export function chooseElsewhere(
  running: Running,
  controller: Controller,
  gesture: GestureKey,
  at: number,
): void {
  const { rig } = running
  for (const choice of choicesOf(rig, gestureRef(controller.id, gesture)))
    for (const id of new Set(choice.targets.map((target) => target.controller))) {
      const other = rigIndex(rig).controllers.get(id)
      const before = running.state.controllers[id]
      if (!other || !before || id === controller.id) continue
      const { state, sent } = showOn(rig, other, before, afterChoice(choice, other, before.showing), at)
      withController(running, id, state)
      pass(running, other, sent)
    }
}

/** What becomes of the rig, and what passed. */
export interface Step {
  state: BenchState
  passed: readonly Passing[]
}

/** Let one controller do something, and bring what it sends to every destination. Nothing where it is not in use. */
export function doWith(
  rig: Rig,
  state: BenchState,
  id: Id,
  act: (controller: Controller, before: ControllerState) => { state: ControllerState; sent: readonly Sent[] },
  then: (running: Running, controller: Controller) => void = () => undefined,
): Step {
  const running: Running = { rig, state, passed: [] }
  const controller = rigIndex(rig).controllers.get(id)
  const before = state.controllers[id]
  if (!controller || !before) return { state, passed: [] }
  const { state: after, sent } = act(controller, before)
  withController(running, id, after)
  pass(running, controller, sent)
  then(running, controller)
  return { state: running.state, passed: running.passed }
}
