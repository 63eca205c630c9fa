import { SEVEN_MAX, travelOf, type Message, type SentMessage, type Travel } from '../midi'
import type { Place } from '../rig'
import { indexAt, type Amount } from './amount'
import { controlAt, messagesAt, stepName, type Playing, type Spoken } from './controller-state'
import { send, sentName } from './send'

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
export function moveOne(
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
  const name = stepName(place, index)
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

/** When a message of what is pressed is sent. */
export type Phase = 'press' | 'release' | 'long-press' | 'double-press' | 'layer-shown'

/** Everything that a gesture sends at a place at one phase of being pressed. */
export function sendPhase(
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
