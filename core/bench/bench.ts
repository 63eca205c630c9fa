import { deliveryOf, DIN_BYTES_PER_MS, type Bus } from '../addresses'
import { keepsState, travelOf, type SentMessage } from '../midi'
import {
  controlsOf,
  gestureRef,
  modelOf,
  rigIndex,
  showingIn,
  splitGestureKey,
  type Control,
  type Controller,
  type Id,
  type Passage,
  type Rig,
} from '../rig'
import { valueOf, type Amount } from './amount'
import { afterChoice, choicesOf } from './choosing'
import { play, showOn } from './controller'
import { poweredUp, type ControllerState, type Played } from './controller-state'
import { AT_REST, receive, type DestinationState, type Effect } from './destination'
import type { Hand } from './hands'

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
export interface Passing extends Played {
  controller: Id
  arrived: readonly Arrived[]
}

/** The rig as it is when everything is switched on. */
export const switchedOn = (rig: Rig): BenchState => ({
  controllers: Object.fromEntries(
    rig.controllers.filter(({ inUse }) => inUse).map((each) => [each.id, poweredUp(each)]),
  ),
  destinations: Object.fromEntries(rig.destinations.map(({ id }) => [id, AT_REST])),
  busyUntil: {},
})

/**
 * The same after an edit of the rig: what is new is switched on, what is gone is left out, and what shows a template that is gone
 * is switched on anew.
 */
export function keptOn(rig: Rig, before: BenchState): BenchState {
  const fresh = switchedOn(rig)
  const isThere = (id: Id, state: ControllerState): boolean =>
    rigIndex(rig)
      .controllers.get(id)
      ?.templates.some((template) => template.id === state.showing.template) === true
  return {
    controllers: Object.fromEntries(
      Object.entries(fresh.controllers).map(([id, state]) => {
        const old = before.controllers[id]
        return [id, old && isThere(id, old) ? old : state]
      }),
    ),
    destinations: Object.fromEntries(
      Object.entries(fresh.destinations).map(([id, state]) => [id, before.destinations[id] ?? state]),
    ),
    busyUntil: before.busyUntil,
  }
}

interface Running {
  rig: Rig
  state: BenchState
  passed: Passing[]
}

const withController = (running: Running, id: Id, controller: ControllerState): void => {
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

/** Does a message only say that something was let go? A toggle that goes off was pressed. */
const isLetGo = (amount: Amount, message: SentMessage, control: Control): boolean =>
  amount.kind === 'blow'
    ? amount.velocity === 0
    : amount.kind === 'share' && amount.of === 0 && !keepsState(travelOf(message, control))

function arriveAt(running: Running, controller: Controller, played: Played, at: number): Arrived[] {
  const { rig } = running
  const control = controlsOf(modelOf(rig, controller)).get(splitGestureKey(played.place.gesture).control)
  if (!control) return []
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

function pass(running: Running, controller: Controller, sent: readonly Played[]): void {
  for (const played of sent) {
    const at = throughOut(running, controller, played.at, played.bytes.length)
    running.passed.push({
      ...played,
      controller: controller.id,
      arrived: arriveAt(running, controller, played, at),
    })
  }
}

/** A gesture may choose what other controllers show. */
function chooseElsewhere(running: Running, controller: Controller, hand: Hand, at: number): void {
  if (hand.kind !== 'press') return
  const { rig } = running
  for (const choice of choicesOf(rig, gestureRef(controller.id, hand.gesture)))
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
function doWith(
  rig: Rig,
  state: BenchState,
  id: Id,
  act: (controller: Controller, before: ControllerState) => ReturnType<typeof play>,
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

/**
 * A hand does something with a controller at `at` ms: what is sent, along the rig's cables to every destination, and what moves
 * there. Reproducible: the same state and hands give the same messages at the same times.
 */
export const playRig = (rig: Rig, state: BenchState, controllerId: Id, hand: Hand, at: number): Step =>
  doWith(
    rig,
    state,
    controllerId,
    (controller, before) => play(rig, controller, before, hand, at),
    (running, controller) => chooseElsewhere(running, controller, hand, at),
  )

/** Put a controller to another template or layers by hand, as its own buttons do. */
export const showOnRig = (
  rig: Rig,
  state: BenchState,
  controllerId: Id,
  showing: ControllerState['showing'],
  at: number,
): Step =>
  doWith(rig, state, controllerId, (controller, before) => showOn(rig, controller, before, showing, at))

/** Begin a passage: every controller shows and every destination is in what it says; the rest stays. */
export function beginPassage(rig: Rig, state: BenchState, passage: Passage, at: number): Step {
  let now = state
  const passed: Passing[] = []
  for (const controller of rig.controllers) {
    const before = now.controllers[controller.id]
    if (!before) continue
    const next = showOnRig(rig, now, controller.id, showingIn(passage, controller, before.showing), at)
    now = next.state
    passed.push(...next.passed)
  }
  const scopes = Object.fromEntries(passage.scopes.map(({ destination, scope }) => [destination, scope]))
  return {
    state: {
      ...now,
      destinations: Object.fromEntries(
        Object.entries(now.destinations).map(([id, each]) => [
          id,
          id in scopes ? { ...each, scope: scopes[id] ?? null } : each,
        ]),
      ),
    },
    passed,
  }
}
