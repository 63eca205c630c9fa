import { travelOf, type Travel } from '../midi'
import {
  controlsOf,
  modelOf,
  placeKey,
  splitGestureKey,
  type Controller,
  type GestureKey,
  type Place,
  type Rig,
  type Showing,
} from '../rig'
import { chosenBy, restored } from './choosing'
import { chosenAfter } from './lights'
import {
  controlAt,
  heldName,
  messagesAt,
  placeOf,
  standsAt,
  type ControllerState,
  type Played,
  type Playing,
  type Spoken,
} from './controller-state'
import { express } from './express'
import type { Hand } from './hands'
import { moveOne, sendPhase } from './phases'
import { send } from './send'

/** A control is read so often while it moves (ms): what it passes in between is never sent. */
export const READ_EVERY_MS = 4
/** Held so long, a press is a long one (ms). */
export const LONG_PRESS_MS = 500
/** A second press within so long is a double press (ms). */
export const DOUBLE_PRESS_MS = 300
/** Clicks that follow one another faster than this are turned fast (ms). */
const FAST_CLICK_MS = 25
const GAIN = { none: 1, gentle: 2, strong: 4 } as const
/** The clicks of an encoder in one turn, where the rig does not say. */
const USUAL_DETENTS = 24

/** Show other layers or another template, and send what is sent when a layer is shown. */
export function show(playing: Playing, at: number, showing: Showing): void {
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
  const name = heldName(gesture, key)
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
    chosen: place ? chosenAfter(playing, place) : playing.state.chosen,
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
  const name = heldName(gesture, key)
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
  const before = standsAt(playing.state, gesture, controlAt(playing, gesture))
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
    move(playing, at, gesture, standsAt(playing.state, gesture, controlAt(playing, gesture)) + by * share, 0)
}

function perform(playing: Playing, hand: Hand, at: number): void {
  switch (hand.kind) {
    case 'move': {
      const overMs = hand.overMs ?? 0
      const from = standsAt(playing.state, hand.gesture, controlAt(playing, hand.gesture))
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
    case 'nudge': {
      const { gesture, by, overMs } = hand
      const from = standsAt(playing.state, gesture, controlAt(playing, gesture))
      return perform(playing, { kind: 'move', gesture, to: from + by, overMs: overMs ?? 0 }, at)
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
    case 'express':
      return express(playing, at, hand.gesture, hand.key, hand.what, hand.to)
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
