import { decodeWire, readMessage, READ_START, WIRE_START } from '../../midi/bytes'
import type { ReadState, WireFault, WireState } from '../../midi/bytes'
import { controlsOf, modelOf, rigIndex, splitGestureKey, type Id, type Rig } from '../../rig'
import { amountOf, type Amount } from '../amount'
import type { Playing } from '../controller-state'
import { chooseElsewhere, comeBackElsewhere, pass, startRunning, stepOf, withController } from '../running'
import type { Step, BenchState, Running, Sent } from '../running'
import { attribute, type Heard } from './attribute'
import { takeOn } from './take-on'

/** What has been heard of one stream of bytes so far. Plain data. */
export interface HeardState {
  wire: WireState
  read: ReadState
  /** Bytes that prepare a message which is still to come: numbers of parameters, banks. */
  before: readonly number[]
  /** The MSB of a value whose LSB is still to come. */
  half: { heard: Heard; bytes: readonly number[]; at: number } | null
  /** Clocks and active sensing that were passed over: they are no control's. */
  ticks: number
}
export const HEARD_START: HeardState = {
  wire: WIRE_START,
  read: READ_START,
  before: [],
  half: null,
  ticks: 0,
}

/** More bytes than this that prepare a message and never do are shown by themselves. */
const MOST_BEFORE = 24

const CLOCK = 0xf8
const SENSING = 0xfe

interface Hearing {
  running: Running
  controller: Id
  heard: HeardState
}

const NO_AMOUNT: Amount = { kind: 'signal' }
const UNKNOWN = { detentsPerTurn: null }

function settle(hearing: Hearing, heard: Heard, bytes: readonly number[], at: number): void {
  const { running } = hearing
  const { rig } = running
  const controller = rigIndex(rig).controllers.get(hearing.controller)
  const state = running.state.controllers[hearing.controller]
  if (!controller || !state) return
  const { place, message, value, key, messageIndex } = heard
  const control =
    (place && controlsOf(modelOf(rig, controller)).get(splitGestureKey(place.gesture).control)) ?? UNKNOWN
  const amount = message ? amountOf(message, value, control) : NO_AMOUNT
  const playing: Playing = { rig, controller, state, sent: [] }
  const change = takeOn(playing, at, heard, amount)
  withController(running, controller.id, playing.state)
  const sent: Sent = { at, place, messageIndex, message, amount, value, key, bytes }
  pass(running, controller, [sent])
  if (!place || change === null) return
  if (change === 'pressed') chooseElsewhere(running, controller, place.gesture, at)
  else comeBackElsewhere(running, controller, place.gesture, at)
}

function flush(hearing: Hearing): void {
  const { half } = hearing.heard
  if (!half) return
  hearing.heard = { ...hearing.heard, half: null }
  settle(hearing, half.heard, half.bytes, half.at)
}

function take(hearing: Hearing, bytes: readonly number[], at: number): void {
  const [status = 0] = bytes
  if (status === CLOCK || status === SENSING) {
    hearing.heard = { ...hearing.heard, ticks: hearing.heard.ticks + 1 }
    return
  }
  const { state: read, reading } = readMessage(hearing.heard.read, bytes)
  hearing.heard = { ...hearing.heard, read }
  const { half } = hearing.heard
  const { rig, state } = hearing.running
  const controller = rigIndex(rig).controllers.get(hearing.controller)
  const own = state.controllers[hearing.controller]
  if (!controller || !own) return
  const heard = attribute(controller, own, reading)
  const isRest =
    half !== null &&
    reading.kind === 'value' &&
    reading.refines &&
    heard?.place?.gesture === half.heard.place?.gesture
  if (!isRest) flush(hearing)
  const all = [...(isRest && half ? half.bytes : []), ...hearing.heard.before, ...bytes]
  if (!heard) {
    if (all.length <= MOST_BEFORE) {
      hearing.heard = { ...hearing.heard, before: all }
      return
    }
    hearing.heard = { ...hearing.heard, before: [] }
    settle(
      hearing,
      { place: null, messageIndex: 0, isElsewhere: false, message: null, value: 0, key: 0, isHalf: false },
      all,
      at,
    )
    return
  }
  hearing.heard = { ...hearing.heard, before: [], half: null }
  if (heard.isHalf) hearing.heard = { ...hearing.heard, half: { heard, bytes: all, at } }
  else settle(hearing, heard, all, at)
}

/** What was heard: what became of the rig, what passed, and what was no message. */
export interface HeardStep extends Step {
  heard: HeardState
  faults: readonly WireFault[]
}

/**
 * Bytes that a real controller has sent at `at` ms, from where an earlier call left off: each message is taken for what the
 * template says is sent there, the simulated controller follows, and it goes along the rig's cables to every destination.
 * What the template does not send goes its way too, and is named so. A layer in which alone something can have been
 * sent is shown from then on.
 */
export function hearRig(
  rig: Rig,
  state: BenchState,
  controller: Id,
  before: HeardState,
  bytes: readonly number[],
  at: number,
): HeardStep {
  const { state: wire, events } = decodeWire(before.wire, bytes, at)
  const hearing: Hearing = {
    running: startRunning(rig, state),
    controller,
    heard: { ...before, wire },
  }
  const faults: WireFault[] = []
  for (const event of events)
    if (event.kind === 'fault') faults.push(event)
    else take(hearing, event.bytes, event.at)
  return { ...stepOf(hearing.running), heard: hearing.heard, faults }
}

/** The same when nothing more comes: an MSB whose LSB never came counts by itself. */
export function hearEnd(rig: Rig, state: BenchState, controller: Id, before: HeardState): HeardStep {
  const hearing: Hearing = { running: startRunning(rig, state), controller, heard: before }
  flush(hearing)
  return { ...stepOf(hearing.running), heard: hearing.heard, faults: [] }
}
