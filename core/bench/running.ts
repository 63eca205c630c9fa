import { deliveryOf, DIN_BYTES_PER_MS, type Bus, type Delivery } from '../addresses'
import { keepsState, travelOf, type SentMessage } from '../midi'
import {
  controlsOf,
  gestureRef,
  memoOfTwo,
  modelOf,
  rigIndex,
  splitGestureKey,
  splitGestureRef,
  type Choice,
  type Destination,
  type Mapping,
  type Controller,
  type GestureKey,
  type GestureRef,
  type Showing,
  type Id,
  type Place,
  type Rig,
} from '../rig'
import { valueOf, type Amount } from './amount'
import { afterChoice, choicesOf } from './choosing'
import { choicesSetOff, comeIn } from './coming-in'
import { showOn } from './controller'
import type { ControllerState, Played } from './controller-state'
import { feedbackOf } from './feedback'
import type { Misbehaviour } from './misbehave'
import { leadsIn, outgoing, sysexMessage } from './outgoing'
import { AT_REST, receive, type DestinationState, type Effect } from './destination'

/** The whole rig as it is being played: every controller and destination, and how busy the cables are. Plain data. */
export interface BenchState {
  controllers: Readonly<Record<Id, ControllerState>>
  destinations: Readonly<Record<Id, DestinationState>>
  /** Until when the DIN out of each controller is busy, in ms. */
  busyUntil: Readonly<Record<Id, number>>
  /** What other controllers showed before a gesture that is held made them show something else, by gesture. */
  comesBack: Readonly<Record<GestureRef, Readonly<Record<Id, Showing>>>>
  /** What each destination is asked to do wrong. */
  misbehaving: Readonly<Record<Id, readonly Misbehaviour[]>>
  /** The mappings as they were when everything was switched on. */
  taught: readonly Mapping[]
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

/** What of the state changes with nearly every message. */
type OwnedTable = 'controllers' | 'destinations' | 'busyUntil'

/** The rig while something is done with it. */
export interface Running {
  rig: Rig
  state: BenchState
  /** The tables of the state that were copied for this run, and are written to in place. */
  owned: Set<OwnedTable>
  passed: Passing[]
  /** How many controllers have sent because another one did, one inside the other. */
  depth: number
  isCut: boolean
}

/** A message that makes controllers send in turn is followed through so many of them: what goes on longer is a ring. */
export const MOST_ROUNDS = 16

export const startRunning = (rig: Rig, state: BenchState): Running => ({
  rig,
  state,
  owned: new Set(),
  passed: [],
  depth: 0,
  isCut: false,
})
export const stepOf = ({ state, passed, isCut }: Running): Step => ({ state, passed, isCut })

/** A table of the state to be written to: copied once, so that a movement of many messages does not copy it for each. */
function own<K extends OwnedTable>(running: Running, table: K): Record<Id, BenchState[K][Id]> {
  if (!running.owned.has(table)) {
    running.owned.add(table)
    running.state = { ...running.state, [table]: { ...running.state[table] } }
  }
  return running.state[table] as Record<Id, BenchState[K][Id]>
}

export const withController = (running: Running, id: Id, controller: ControllerState): void => {
  own(running, 'controllers')[id] = controller
}

/** When a message of so many bytes is through the controller's out. DIN cables carry one after the other. */
function throughOut(running: Running, controller: Controller, at: number, bytes: number): number {
  if (modelOf(running.rig, controller).abilities.connection !== 'din') return at
  const until = Math.max(at, running.state.busyUntil[controller.id] ?? 0) + bytes / DIN_BYTES_PER_MS
  own(running, 'busyUntil')[controller.id] = until
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

/** Is one message the same as another? What has come along cables need not be the very same object. */
export const isSameMessage = (a: SentMessage, b: SentMessage): boolean =>
  a === b || JSON.stringify(a) === JSON.stringify(b)

/** What of a message arrives at a bus; whether it is as it was sent, or what cables made of it. */
interface Come {
  bus: Bus
  message: SentMessage
  isAsSent: boolean
}

/** What became of the very same message before, by controller: cables do not change while it is played. */
const knownComes = memoOfTwo((_delivery: Delivery, _message: SentMessage) => new Map<Id, readonly Come[]>())
function comesOf(rig: Rig, controller: Id, sent: SentMessage): readonly Come[] {
  const delivery = deliveryOf(rig)
  const known = knownComes(delivery, sent)
  const before = known.get(controller)
  if (before) return before
  const found = delivery
    .arrivals(controller, sent)
    .flatMap(({ bus, messages }) =>
      messages.map((message) => ({ bus, message, isAsSent: isSameMessage(message, sent) })),
    )
  known.set(controller, found)
  return found
}

function arriveAt(running: Running, controller: Controller, played: Sent, at: number): Arrived[] {
  const { rig } = running
  const control = played.place
    ? controlsOf(modelOf(rig, controller)).get(splitGestureKey(played.place.gesture).control)
    : UNKNOWN
  if (!control || !played.message) return []
  const there: Arrived[] = []
  for (const { bus, message, isAsSent } of comesOf(rig, controller.id, played.message)) {
    const destination = rigIndex(rig).destinations.get(bus.destination)
    if (!destination) continue
    // What a cable has changed says the same amount in its own way.
    const value = isAsSent ? played.value : valueOf(message, played.amount, control)
    const stood = running.state.destinations[destination.id] ?? AT_REST
    const does = running.state.misbehaving[destination.id] ?? []
    const { state, effects } = receive(
      rig,
      destination,
      stood,
      { bus, message, value, isLetGo: isLetGo(played.amount, message, control) },
      { does, taught: running.state.taught },
    )
    own(running, 'destinations')[destination.id] = state
    if (!does.includes('no-feedback')) sendBack(running, destination, effects)
    if (effects.length === 0) continue
    const same = there.findIndex((each) => each.bus === bus.id && each.destination === bus.destination)
    const before = there[same]
    if (before) there[same] = { ...before, effects: [...before.effects, ...effects] }
    else there.push({ destination: bus.destination, bus: bus.id, at, effects })
  }
  return there
}

/** The controls that a destination tells what their parameters stand at. */
function sendBack(running: Running, destination: Destination, effects: readonly Effect[]): void {
  for (const { gesture, bytes } of feedbackOf(running.rig, destination, effects)) {
    const { controller: id, gesture: key } = splitGestureRef(gesture)
    const controller = rigIndex(running.rig).controllers.get(id)
    const before = running.state.controllers[id]
    if (controller && before)
      withController(running, id, comeIn(running.rig, controller, before, bytes, key).state)
  }
}

/** Bytes come in at a controller: its lights, what it chooses by them, and what it answers. */
export function comeInAt(
  running: Running,
  controller: Controller,
  bytes: readonly number[],
  at: number,
  feedbackTo: 'whoever' | null = null,
): void {
  const before = running.state.controllers[controller.id]
  if (!before) return
  if (running.depth >= MOST_ROUNDS) {
    running.isCut = true
    return
  }
  running.depth++
  const { state, replies } = comeIn(running.rig, controller, before, bytes, feedbackTo)
  withController(running, controller.id, state)
  for (const choice of choicesSetOff(running.rig, controller.id, bytes)) choose(running, choice, at)
  pass(
    running,
    controller,
    replies.map((reply) => ({
      at,
      place: null,
      messageIndex: 0,
      message: sysexMessage(reply),
      amount: { kind: 'signal' },
      value: 0,
      key: 0,
      bytes: reply,
    })),
  )
  running.depth--
}

/** What reaches the ins of controllers goes in there. */
function comeInElsewhere(running: Running, controller: Controller, sent: Sent, at: number): void {
  if (!leadsIn(running.rig, controller.id)) return
  for (const { port, bytes } of outgoing(
    running.rig,
    { ...sent, controller: controller.id },
    'controllers',
  )) {
    const other = rigIndex(running.rig).controllers.get(port.owner)
    if (other) comeInAt(running, other, bytes, at)
  }
}

/** Bring what a controller has sent to every destination, and to the ins of other controllers. */
export function pass(running: Running, controller: Controller, sent: readonly Sent[]): void {
  for (const played of sent) {
    const at = throughOut(running, controller, played.at, played.bytes.length)
    const { place, messageIndex, message, amount, value, key, bytes } = played
    running.passed.push({
      at: played.at,
      place,
      messageIndex,
      message,
      amount,
      value,
      key,
      bytes,
      controller: controller.id,
      arrived: arriveAt(running, controller, played, at),
    })
    comeInElsewhere(running, controller, played, at)
  }
}

/** A choice is made: the controllers that it is about show something else; all but `except`, which has seen to itself. */
function choose(running: Running, choice: Choice, at: number, except: Id | null = null): void {
  const { rig } = running
  for (const id of new Set(choice.targets.map((target) => target.controller))) {
    const other = rigIndex(rig).controllers.get(id)
    const before = running.state.controllers[id]
    if (!other || !before || id === except) continue
    const { state, sent } = showOn(rig, other, before, afterChoice(choice, other, before.showing), at)
    withController(running, id, state)
    pass(running, other, sent)
  }
}

/** A gesture that is pressed may choose what other controllers show, for good or while it is held. */
export function chooseElsewhere(
  running: Running,
  controller: Controller,
  gesture: GestureKey,
  at: number,
): void {
  const ref = gestureRef(controller.id, gesture)
  for (const choice of choicesOf(running.rig, ref)) {
    if (choice.how === 'while-held') {
      const others = choice.targets.flatMap(({ controller: id }): Array<[Id, Showing]> => {
        const showing = running.state.controllers[id]?.showing
        return showing && id !== controller.id ? [[id, showing]] : []
      })
      const known = running.state.comesBack[ref]
      running.state = {
        ...running.state,
        comesBack: { ...running.state.comesBack, [ref]: { ...Object.fromEntries(others), ...known } },
      }
    }
    choose(running, choice, at, controller.id)
  }
}

/** A gesture is let go: what it made other controllers show while it was held goes back to what was there. */
export function comeBackElsewhere(
  running: Running,
  controller: Controller,
  gesture: GestureKey,
  at: number,
): void {
  const ref = gestureRef(controller.id, gesture)
  const { [ref]: before, ...others } = running.state.comesBack
  if (!before) return
  running.state = { ...running.state, comesBack: others }
  const targets = choicesOf(running.rig, ref).flatMap((choice) =>
    choice.how === 'while-held' ? choice.targets : [],
  )
  for (const [id, was] of Object.entries(before)) {
    const other = rigIndex(running.rig).controllers.get(id)
    const now = running.state.controllers[id]
    if (!other || !now) continue
    // Only what the gesture has changed: other stacks stay as they were put meanwhile.
    const stacks = targets.flatMap((target) =>
      target.controller === id && target.kind === 'layers' ? [target.stack] : [],
    )
    const isTemplate = targets.some((target) => target.controller === id && target.kind === 'template')
    const showing = isTemplate
      ? was
      : {
          ...now.showing,
          layers: {
            ...now.showing.layers,
            ...Object.fromEntries(stacks.map((stack) => [stack, was.layers[stack] ?? null])),
          },
        }
    const { state, sent } = showOn(running.rig, other, now, showing, at)
    withController(running, id, state)
    pass(running, other, sent)
  }
}

/** What becomes of the rig, and what passed. */
export interface Step {
  state: BenchState
  passed: readonly Passing[]
  /** Did controllers make one another send in a ring, which was cut after `MOST_ROUNDS`? */
  isCut: boolean
}

/** Let one controller do something, and bring what it sends to every destination. Nothing where it is not in use. */
export function doWith(
  rig: Rig,
  state: BenchState,
  id: Id,
  act: (controller: Controller, before: ControllerState) => { state: ControllerState; sent: readonly Sent[] },
  then: (running: Running, controller: Controller) => void = () => undefined,
): Step {
  const running = startRunning(rig, state)
  const controller = rigIndex(rig).controllers.get(id)
  const before = state.controllers[id]
  if (!controller || !before) return { state, passed: [], isCut: false }
  const { state: after, sent } = act(controller, before)
  withController(running, id, after)
  pass(running, controller, sent)
  then(running, controller)
  return stepOf(running)
}
