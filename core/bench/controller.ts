import {
  bytesOf,
  channelOf,
  isChannelMessage,
  keyAlone,
  keysFacet,
  leavesNumberOut,
  memberChannels,
  SEVEN_MAX,
  travelOf,
  type Keys,
  type Message,
  type SentMessage,
  type Travel,
} from '../midi'
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
import { indexAt, type Amount } from './amount'
import { chosenBy, restored, type Held } from './choosing'
import type { Hand } from './hands'

/** A control is read so often while it moves (ms): what it passes in between is never sent. */
export const READ_EVERY_MS = 4
/** Held so long, a press is a long one (ms). */
export const LONG_PRESS_MS = 500
/** A second press within so long is a double press (ms). */
export const DOUBLE_PRESS_MS = 300
/** Clicks that follow one another faster than this are turned fast (ms). */
const FAST_CLICK_MS = 25
const GAIN = { none: 1, gentle: 2, strong: 4 } as const
/** The device number that a simulated controller has: all. */
const DEVICE = 0x7f
/** The clicks of an encoder in one turn, where the rig does not say. */
const USUAL_DETENTS = 24

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
})

type Zone = Extract<Keys, { kind: 'zone' }>

/** One message of an assignment. */
interface Spoken {
  message: SentMessage
  index: number
}

interface Playing {
  rig: Rig
  controller: Controller
  state: ControllerState
  sent: Played[]
}

const controlAt = ({ rig, controller }: Playing, gesture: GestureKey): Control | null =>
  controlsOf(modelOf(rig, controller)).get(splitGestureKey(gesture).control) ?? null

/** What bends a pitch rests in its middle, and goes back there when it is let go. */
export const restsInMiddle = (
  controller: Controller,
  { showing }: ControllerState,
  gesture: GestureKey,
): boolean => {
  const place = shownPlace(controller, showing, gesture)
  const messages = place ? (assignmentsAt(controller, place)?.[gesture]?.messages ?? []) : []
  return messages.some(({ kind }) => kind === 'pitchBend')
}

/** Where a movement stands, 0–1. */
export const standsAt = (controller: Controller, state: ControllerState, gesture: GestureKey): number =>
  state.positions[gesture] ?? (restsInMiddle(controller, state, gesture) ? 0.5 : 0)

/** The key under which something held is kept. */
const heldKey = (gesture: GestureKey, key = 0): string => `${gesture} ${key}`

/** What a gesture sends at a place, message by message. */
function messagesAt({ controller }: Playing, place: Place): Array<Spoken> {
  const messages = assignmentsAt(controller, place)?.[place.gesture]?.messages ?? []
  return messages.flatMap((message, index) => (message.kind === 'off' ? [] : [{ message, index }]))
}

/** The member of its zone that a key plays on: the next in turn, and the same until it is let go. */
function memberOf(playing: Playing, zone: Zone, gesture: GestureKey, key: number): number {
  const members = memberChannels(zone)
  const control = splitGestureKey(gesture).control
  const [name, lastName] = [`${control} ${key}`, `${control} last`]
  const { members: given } = playing.state
  const index = (given[name] ?? (given[lastName] ?? -1) + 1) % members.length
  if (given[name] === undefined)
    playing.state = { ...playing.state, members: { ...given, [name]: index, [lastName]: index } }
  return members[index] ?? zone.manager
}

/** A message as it goes out: its channel a number, and of several keys the note of the one that is struck. */
function placedOn(playing: Playing, message: SentMessage, gesture: GestureKey, key: number): SentMessage {
  if (!isChannelMessage(message)) return message
  const channel = channelOf(message, playing.controller.homeChannel) ?? playing.controller.homeChannel
  if (!('keys' in message) || message.keys.kind === 'one') return { ...message, channel }
  const { keys } = message
  const number = keysFacet.played(keys, key + 12 * (playing.state.octaves[gesture] ?? 0))
  return {
    ...message,
    channel: keys.kind === 'zone' ? memberOf(playing, keys, gesture, key) : channel,
    keys: { kind: 'one', number },
  }
}

/** Does a keyboard have this key? What plays one note has no keys of its own. */
const hasKey = (message: SentMessage, key: number): boolean =>
  !('keys' in message) || message.keys.kind === 'one' || keyAlone(message, key) !== null

/** The name of what a message said last: each key speaks for itself. */
const sentName = (place: Place, { message, index }: Spoken, key: number): string =>
  `${placeKey(place)}#${index}${'keys' in message && message.keys.kind !== 'one' ? ` ${key}` : ''}`

/** Send one value of a message, unless the control has said it already. */
function send(
  playing: Playing,
  at: number,
  place: Place,
  { message, index }: Spoken,
  value: number,
  amount: Amount,
  key: number,
  isRepeated: boolean,
): void {
  const name = sentName(place, { message, index }, key)
  const before = playing.state.sent[name]
  if ((!isRepeated && before === value) || !hasKey(message, key)) return
  const out = placedOn(playing, message, place.gesture, key)
  const channel = isChannelMessage(out) && typeof out.channel === 'number' ? out.channel : 1
  const isParameter = out.kind === 'nrpn' || out.kind === 'rpn'
  const parameter = isParameter ? `${out.kind} ${out.number}` : ''
  // A number is left out only while it is the one that this channel was told last.
  const isSelected = playing.state.selected[channel] === parameter
  const previous = isParameter && !isSelected ? null : (before ?? null)
  const bytes = bytesOf(out, { channel, value, previous, key, device: DEVICE })
  if (bytes.length === 0) return
  playing.state = {
    ...playing.state,
    sent: { ...playing.state.sent, [name]: value },
    selected: isParameter
      ? { ...playing.state.selected, [channel]: leavesNumberOut(out) ? parameter : '' }
      : playing.state.selected,
  }
  playing.sent.push({ at, place, messageIndex: index, message: out, amount, value, key, bytes })
}

const curved = (force: number, curve: 'linear' | 'soft' | 'hard'): number =>
  curve === 'linear' ? force : curve === 'soft' ? Math.sqrt(force) : force * force

/** How hard a note is struck, 1–127: never 0, which would let it go. */
function velocityOf(message: Message, force: number): number {
  if (message.kind !== 'note') return SEVEN_MAX
  const { velocity } = message
  if (velocity.kind === 'fixed') return Math.max(1, velocity.value)
  const share = curved(Math.min(1, Math.max(0, force)), velocity.curve)
  return Math.max(1, Math.round(velocity.low + share * (velocity.high - velocity.low)))
}

/** Pressure counts from its threshold on; below it, it is none. */
function beyondThreshold(message: SentMessage, position: number): number {
  if (!('threshold' in message) || message.threshold === 0) return position
  const least = message.threshold / SEVEN_MAX
  return position <= least ? 0 : (position - least) / (1 - least)
}

/** A movement from one place of its way to another, as one message says it: a value that stays is not sent. */
function moveOne(
  playing: Playing,
  at: number,
  place: Place,
  each: Spoken,
  travel: Travel,
  way: { from: number; to: number },
  key: number,
): void {
  if (travel.kind !== 'sweep') return
  const indexOf = (position: number): number => indexAt(beyondThreshold(each.message, position), travel.count)
  const share = beyondThreshold(each.message, way.to)
  const value = travel.at(indexOf(way.to))
  const isFirst = playing.state.sent[sentName(place, each, key)] === undefined
  if (isFirst && value === travel.at(indexOf(way.from)) && travel.count > 1) return
  send(playing, at, place, each, value, { kind: 'share', of: share }, key, false)
}

/** What is pressed down, as one message says it. */
function pressOne(
  playing: Playing,
  at: number,
  place: Place,
  each: Spoken,
  travel: Travel,
  force: number,
  key: number,
): void {
  const { message, index } = each
  const name = `${placeKey(place)}#${index}`
  switch (travel.kind) {
    case 'strike': {
      const velocity = velocityOf(message, force)
      return send(playing, at, place, each, velocity, { kind: 'blow', velocity }, key, true)
    }
    case 'points': {
      const last =
        playing.state.steps[name] ?? (travel.isKept ? (isList(message) ? -1 : 0) : travel.values.length - 2)
      const step = (last + 1) % travel.values.length
      const value = travel.values[step] ?? 0
      if (travel.isKept) playing.state = { ...playing.state, steps: { ...playing.state.steps, [name]: step } }
      const isNote = message.kind === 'note'
      const share = travel.values.length < 2 ? 1 : step / (travel.values.length - 1)
      const amount: Amount = isNote ? { kind: 'blow', velocity: value } : { kind: 'share', of: share }
      return send(playing, at, place, each, value, amount, key, true)
    }
    case 'signal':
      return send(playing, at, place, each, 0, { kind: 'signal' }, key, true)
    case 'sweep':
      return moveOne(playing, at, place, each, travel, { from: 0, to: force }, key)
    case 'clicks':
      return send(playing, at, place, each, 1, { kind: 'clicks', by: 1 }, key, true)
    case 'nothing':
      return
  }
}

const isList = (message: Message): boolean => 'behaviour' in message && message.behaviour.kind === 'list'

/** What is let go, as one message says it. */
function releaseOne(
  playing: Playing,
  at: number,
  place: Place,
  each: Spoken,
  travel: Travel,
  key: number,
): void {
  const { message } = each
  switch (travel.kind) {
    case 'strike':
      if (message.kind === 'note' && message.behaviour.kind === 'momentary')
        send(playing, at, place, each, 0, { kind: 'blow', velocity: 0 }, key, true)
      return
    case 'points':
      if (!travel.isKept && travel.values.length > 1)
        send(playing, at, place, each, travel.values[0] ?? 0, { kind: 'share', of: 0 }, key, true)
      return
    case 'sweep': {
      const isLatched = 'behaviour' in message && message.behaviour.kind === 'latch'
      if (!isLatched) moveOne(playing, at, place, each, travel, { from: 1, to: 0 }, key)
      return
    }
    case 'clicks':
    case 'signal':
    case 'nothing':
  }
}

type Phase = 'press' | 'release' | 'long-press' | 'double-press' | 'layer-shown'

/** Everything that a gesture sends at a place at one phase of being pressed. */
function sendPhase(
  playing: Playing,
  at: number,
  place: Place,
  phase: Phase,
  force: number,
  key: number,
): void {
  const control = controlAt(playing, place.gesture)
  if (!control || control.silent) return
  for (const each of messagesAt(playing, place)) {
    const { moment } = each.message
    const travel = travelOf(each.message, control)
    if (moment === 'move') {
      if (phase === 'press') pressOne(playing, at, place, each, travel, force, key)
      if (phase === 'release') releaseOne(playing, at, place, each, travel, key)
    } else if (moment === phase) pressOne(playing, at, place, each, travel, 1, key)
  }
}

const placeOf = ({ controller, state }: Playing, gesture: GestureKey): Place | null =>
  shownPlace(controller, state.showing, gesture)

/** Show other layers or another template, and send what is sent when a layer is shown. */
function show(playing: Playing, at: number, showing: Showing): void {
  if (showing === playing.state.showing) return
  const { rig, controller } = playing
  const gestures = [...controlsOf(modelOf(rig, controller)).values()].flatMap(({ id, gestures: kinds }) =>
    kinds.map((kind) => `${id}.${kind}`),
  )
  const before = gestures.map((gesture) => placeOf(playing, gesture))
  playing.state = { ...playing.state, showing }
  gestures.forEach((gesture, index) => {
    const place = placeOf(playing, gesture)
    const was = before[index]
    if (place && (!was || placeKey(place) !== placeKey(was)))
      sendPhase(playing, at, place, 'layer-shown', 1, 0)
  })
}

function press(playing: Playing, at: number, gesture: GestureKey, force: number, key: number): void {
  const name = heldKey(gesture, key)
  if (playing.state.held[name]) return
  const place = placeOf(playing, gesture)
  const last = playing.state.pressedAt[gesture]
  const isDouble = last !== undefined && at - last <= DOUBLE_PRESS_MS
  if (place) {
    sendPhase(playing, at, place, 'press', force, key)
    if (isDouble) sendPhase(playing, at, place, 'double-press', force, key)
  }
  const chosen = chosenBy(playing.rig, playing.controller, playing.state.showing, gesture)
  playing.state = {
    ...playing.state,
    pressedAt: { ...playing.state.pressedAt, [gesture]: isDouble ? -Infinity : at },
    held: {
      ...playing.state.held,
      [name]: {
        gesture,
        key,
        at,
        isLong: false,
        place: chosen.isChange ? place : null,
        before: chosen.before,
      },
    },
  }
  show(playing, at, chosen.showing)
}

function letGo(playing: Playing, at: number, gesture: GestureKey, key: number): void {
  const name = heldKey(gesture, key)
  const held = playing.state.held[name]
  if (!held) return
  // Who changes its own layer by being pressed lets go where it was pressed; else the layer that shows now speaks.
  const place = held.place ?? placeOf(playing, gesture)
  if (place) sendPhase(playing, at, place, 'release', 0, key)
  const { [name]: _, ...others } = playing.state.held
  const { [`${splitGestureKey(gesture).control} ${key}`]: __, ...members } = playing.state.members
  playing.state = { ...playing.state, held: others, members }
  show(playing, at, restored(playing.state.showing, held))
}

/** Presses that have become long ones by now. */
function growLong(playing: Playing, until: number): void {
  for (const [name, held] of Object.entries(playing.state.held)) {
    const at = held.at + LONG_PRESS_MS
    if (held.isLong || at > until) continue
    playing.state = { ...playing.state, held: { ...playing.state.held, [name]: { ...held, isLong: true } } }
    const place = placeOf(playing, held.gesture)
    if (place) sendPhase(playing, at, place, 'long-press', 1, held.key)
  }
}

/** From here on what is moved rather than pressed counts as pressed. */
const MOVED_DOWN = 0.5

function move(playing: Playing, at: number, gesture: GestureKey, to: number, key: number): void {
  const position = Math.min(1, Math.max(0, to))
  const before = standsAt(playing.controller, playing.state, gesture)
  playing.state = { ...playing.state, positions: { ...playing.state.positions, [gesture]: position } }
  const place = placeOf(playing, gesture)
  const control = controlAt(playing, gesture)
  if (!place || !control || control.silent) return
  let isPressable = false
  for (const each of messagesAt(playing, place)) {
    const travel = travelOf(each.message, control)
    if (travel.kind === 'sweep' && each.message.moment === 'move')
      moveOne(playing, at, place, each, travel, { from: before, to: position }, key)
    else if (travel.kind === 'clicks') {
      const detents = control.detentsPerTurn ?? USUAL_DETENTS
      clicks(
        playing,
        at,
        place,
        each,
        travel,
        Math.round(position * detents) - Math.round(before * detents),
        false,
      )
    } else isPressable = true
  }
  if (!isPressable) return
  if (before < MOVED_DOWN && position >= MOVED_DOWN) press(playing, at, gesture, position, key)
  if (before >= MOVED_DOWN && position < MOVED_DOWN) letGo(playing, at, gesture, key)
}

function clicks(
  playing: Playing,
  at: number,
  place: Place,
  each: Spoken,
  travel: Extract<Travel, { kind: 'clicks' }>,
  by: number,
  isFast: boolean,
): void {
  if (by === 0) return
  const sent = by * (isFast ? GAIN[travel.acceleration] : 1)
  // An increment is one step, however fast.
  const times = travel.encoding === 'increments' ? Math.abs(sent) : 1
  const value = travel.encoding === 'increments' ? Math.sign(sent) : sent
  for (let time = 0; time < times; time++)
    send(playing, at, place, each, value, { kind: 'clicks', by: value }, 0, true)
}

/** One click of an encoder: relative messages say so, absolute ones go on by the share of the way that it is. */
function click(playing: Playing, at: number, gesture: GestureKey, by: 1 | -1, isFast: boolean): void {
  const place = placeOf(playing, gesture)
  const control = controlAt(playing, gesture)
  if (!place || !control || control.silent) return
  const detents = control.detentsPerTurn ?? USUAL_DETENTS
  let share = 0
  for (const each of messagesAt(playing, place)) {
    const travel = travelOf(each.message, control)
    if (travel.kind === 'clicks') clicks(playing, at, place, each, travel, by, isFast)
    if (travel.kind === 'sweep')
      share = travel.turns === null ? 1 / Math.max(1, travel.count - 1) : 1 / (detents * travel.turns)
  }
  if (share > 0)
    move(playing, at, gesture, standsAt(playing.controller, playing.state, gesture) + by * share, 0)
}

function perform(playing: Playing, hand: Hand, at: number): void {
  switch (hand.kind) {
    case 'move': {
      const overMs = hand.overMs ?? 0
      const from = standsAt(playing.controller, playing.state, hand.gesture)
      const readings = Math.max(1, Math.ceil(overMs / READ_EVERY_MS))
      for (let reading = 1; reading <= readings; reading++)
        move(
          playing,
          at + (overMs * reading) / readings,
          hand.gesture,
          from + ((hand.to - from) * reading) / readings,
          hand.key ?? 0,
        )
      return
    }
    case 'click': {
      const count = Math.abs(hand.by)
      const each = (hand.overMs ?? 0) / Math.max(1, count)
      const isFast = hand.overMs !== undefined && count > 1 && each < FAST_CLICK_MS
      for (let index = 0; index < count; index++)
        click(playing, at + each * index, hand.gesture, hand.by > 0 ? 1 : -1, isFast)
      return
    }
    case 'press':
      return press(playing, at, hand.gesture, hand.force ?? 1, hand.key ?? 0)
    case 'let-go':
      return letGo(playing, at, hand.gesture, hand.key ?? 0)
    case 'octave':
      playing.state = {
        ...playing.state,
        octaves: { ...playing.state.octaves, [hand.gesture]: hand.octaves },
      }
      return
    case 'wait':
  }
}

/**
 * What a controller with this template sends when a hand does something at `at` ms, and what it remembers then. What was held
 * long enough by now is sent first. The same state and hands give the same bytes at the same times.
 */
export function play(
  rig: Rig,
  controller: Controller,
  state: ControllerState,
  hand: Hand,
  at: number,
): { state: ControllerState; sent: readonly Played[] } {
  const playing: Playing = { rig, controller, state, sent: [] }
  growLong(playing, at)
  perform(playing, hand, at)
  return { state: playing.state, sent: playing.sent }
}

/** As `play`, for what the rig's other controllers choose on this one, and for passages: show this from now on. */
export function showOn(
  rig: Rig,
  controller: Controller,
  state: ControllerState,
  showing: Showing,
  at: number,
): { state: ControllerState; sent: readonly Played[] } {
  const playing: Playing = { rig, controller, state, sent: [] }
  show(playing, at, showing)
  return { state: playing.state, sent: playing.sent }
}
