import {
  CHANNELS,
  controllerClass,
  PAIR_DISTANCE,
  PERCUSSION_CHANNEL,
  SEVEN_MAX,
  type Behaviour,
  type Channel,
  type ChannelTarget,
  type Message,
  type Seven,
} from '../../midi'
import type { RigEdit } from '../edits'
import { modelOf } from '../lookup'
import { freshMessage, sentAddress, withAddress } from '../messages'
import { assignmentsOf, assignmentsOfGesture, powerUpShowing, shownPlace, type Place } from '../places'
import { readingOrder, rowsOf } from '../surface/reading'
import type { Control, Controller, GestureKind, Rig } from '../types'

/** What controls that send nothing yet are to send. */
export interface FirstSending {
  /** Knobs, faders, encoders and all else that moves through a range. */
  moved: 'cc' | 'nothing'
  /** Two wheels bend and modulate, or move through a range as knobs do. */
  wheels: 'play' | 'as-knobs'
  pads: 'notes' | 'drums' | 'held' | 'nothing'
  buttons: 'held' | 'stays' | 'notes' | 'nothing'
}

/** What such controls usually send. */
export const USUAL_SENDING: FirstSending = { moved: 'cc', wheels: 'play', pads: 'notes', buttons: 'held' }
/** What a destination is most likely to learn: controller numbers from all of them. */
export const SENDING_TO_LEARN: FirstSending = {
  moved: 'cc',
  wheels: 'as-knobs',
  pads: 'held',
  buttons: 'held',
}

/** A gesture that sends nothing yet, and where it would. */
export interface SilentGesture {
  control: Control
  gesture: GestureKind
  place: Place
}

/** The first octave of pads: C1 where middle C is C3, and the first bass drum of General MIDI. */
const FIRST_PAD_NOTE = 36
/** The modulation wheel (MIDI 1.0 Detailed Specification, Table III). */
const MODULATION: Seven = 1

/** Controller numbers from the best to the last that will do: free ones first, then those with a purpose of their own. */
const NUMBERS: readonly Seven[] = (
  ['undefined', 'general-purpose', 'second-of-pair', 'standard'] as const
).flatMap((wanted) =>
  Array.from({ length: SEVEN_MAX + 1 }, (_, number) => number)
    .filter((number) => controllerClass(number) === wanted)
    // A run that begins at 20 leaves the scattered ones below for later.
    .sort((a, b) => Number(a < 20) - Number(b < 20) || a - b),
)

/** Notes for pads: from the first pad up, then those below it. */
const NOTES: readonly Seven[] = Array.from(
  { length: SEVEN_MAX + 1 },
  (_, index) => (FIRST_PAD_NOTE + index) % (SEVEN_MAX + 1),
)

/** What a control is played with first; the rest of its gestures is given by hand. */
const FIRST_GESTURES: ReadonlySet<GestureKind> = new Set([
  'turn',
  'slide',
  'press',
  'strike',
  'x',
  'y',
  'tilt',
])

type Sort = 'moved' | 'pads' | 'buttons' | 'keys'

function sortOf({ kind }: Control, gesture: GestureKind): Sort {
  if (kind === 'keybed') return 'keys'
  if (kind === 'pad') return gesture === 'strike' ? 'pads' : 'moved'
  return kind === 'button' || kind === 'footswitch' ? 'buttons' : 'moved'
}

/** The first gestures of a controller that send nothing in any layer, in reading order. */
export function silentGestures(rig: Rig, controller: Controller): SilentGesture[] {
  const model = modelOf(rig, controller)
  const showing = powerUpShowing(controller)
  return readingOrder(model.surface.controls).flatMap((control) => {
    if (control.silent) return []
    return control.gestures.flatMap((gesture): SilentGesture[] => {
      // What a pad senses besides the strike is not what it is first for.
      if (!FIRST_GESTURES.has(gesture) || (control.kind === 'pad' && gesture !== 'strike')) return []
      const key = `${control.id}.${gesture}` as const
      const isSending = [...assignmentsOfGesture(controller, key)].some(({ messages }) =>
        messages.some(({ kind }) => kind !== 'off'),
      )
      const place = isSending ? null : shownPlace(controller, showing, key)
      return place ? [{ control, gesture, place }] : []
    })
  })
}

/** Numbers in use on a channel, whoever sends or keeps them. */
interface Taken {
  cc: Set<Seven>
  note: Set<Seven>
  isBent: boolean
}

/** Do destinations hear what goes to one channel on another? Then a number is taken on all. */
const isMerging = ({ destinations }: Rig): boolean =>
  destinations.some(({ hears }) => hears.playing.channels.kind === 'merged')

function takenOn(rig: Rig, channels: ReadonlySet<Channel>): Taken {
  const taken: Taken = { cc: new Set(), note: new Set(), isBent: false }
  const take = (kind: 'cc' | 'note', low: number, high: number): void => {
    for (let number = low; number <= Math.min(high, SEVEN_MAX); number++) taken[kind].add(number)
  }
  for (const controller of rig.controllers.filter(({ inUse }) => inUse)) {
    for (const { assignment } of assignmentsOf(controller)) {
      for (const message of assignment.messages) {
        const address = sentAddress(message, controller.homeChannel)
        if (address?.scope !== 'channel' || typeof address.channel !== 'number') continue
        if (!channels.has(address.channel)) continue
        const { target } = address
        if (target.kind === 'pitchBend') taken.isBent = true
        else if (target.kind === 'note') take('note', target.low, target.high)
        else if (target.kind === 'cc' || target.kind === 'cc14') {
          take('cc', target.number, target.number)
          if (target.kind === 'cc14') take('cc', target.number + PAIR_DISTANCE, target.number + PAIR_DISTANCE)
        }
      }
    }
  }
  const isHere = (channel: Channel | null): boolean => channel === null || channels.has(channel)
  for (const { kind, message, channel, low, high } of rig.houseRules) {
    if (kind !== 'avoid' || !isHere(channel)) continue
    if (message === 'note') take('note', low, high)
    else if (message === 'cc' || message === 'cc14') take('cc', low, high)
  }
  for (const { claims } of rig.destinations)
    for (const { kind, channel, low, high } of claims)
      if (isHere(channel) && (kind === 'cc' || kind === 'note')) take(kind, low, high)
  return taken
}

/** So many free numbers, in one run where there is one among the free ones. */
function freeRun(count: number, taken: ReadonlySet<Seven>): Seven[] {
  const isFree = (number: Seven): boolean => controllerClass(number) === 'undefined' && !taken.has(number)
  for (const start of NUMBERS) {
    const run = Array.from({ length: count }, (_, index) => start + index)
    if (run.every((number) => number <= SEVEN_MAX && isFree(number))) return run
  }
  return NUMBERS.filter((number) => !taken.has(number)).slice(0, count)
}

export interface FirstNumbers {
  edits: RigEdit[]
  /** Gestures that send something now. */
  given: number
  /** Gestures for which there is no number left on their channel. */
  left: number
}

/**
 * What makes controls that send nothing yet send what such controls usually do, on free numbers of their home channel:
 * wheels bend and modulate, keys play, a block gets a run of numbers.
 */
export function firstNumbers(
  rig: Rig,
  controller: Controller,
  wanted: FirstSending,
  silent: readonly SilentGesture[] = silentGestures(rig, controller),
): FirstNumbers {
  const reach = (channel: Channel): ReadonlySet<Channel> => new Set(isMerging(rig) ? CHANNELS : [channel])
  const home = takenOn(rig, reach(controller.homeChannel))
  const drums = wanted.pads === 'drums' ? takenOn(rig, reach(PERCUSSION_CHANNEL)) : home
  const sorted = (sort: Sort): readonly SilentGesture[] =>
    silent.filter(({ control, gesture }) => sortOf(control, gesture) === sort)
  const sent = new Map<SilentGesture, Message>()
  const send = (at: SilentGesture, target: ChannelTarget, channel: Channel | 'home' = 'home'): Message => {
    const { kind } = at.control
    const address = { scope: 'channel', channel, target } as const
    const message = withAddress(freshMessage('off', kind, at.gesture), address, kind, at.gesture)
    sent.set(at, message)
    return message
  }
  const sendCc = (list: readonly SilentGesture[], behaviour: Behaviour | null): void => {
    const numbers = freeRun(list.length, home.cc)
    for (const [index, number] of numbers.entries()) {
      const at = list[index]
      if (!at) continue
      home.cc.add(number)
      const message = send(at, { kind: 'cc', number })
      if (behaviour && message.kind === 'cc') sent.set(at, { ...message, behaviour })
    }
  }
  const sendNotes = (list: readonly SilentGesture[], taken: Taken, channel: Channel | 'home'): void => {
    const free = NOTES.filter((number) => !taken.note.has(number)).slice(0, list.length)
    for (const [index, number] of free.entries()) {
      const at = list[index]
      if (!at) continue
      taken.note.add(number)
      send(at, { kind: 'note', low: number, high: number }, channel)
    }
  }

  // Keys come first: pads beside them take the notes that they leave.
  const played = takenOn(rig, new Set([controller.homeChannel]))
  for (const at of sorted('keys')) {
    const message = freshMessage('note', at.control.kind, at.gesture)
    const address = sentAddress(message, controller.homeChannel)
    if (address?.target.kind !== 'note') continue
    const { low, high } = address.target
    const keys = Array.from({ length: high - low + 1 }, (_, index) => low + index)
    if (keys.some((number) => played.note.has(number))) continue
    sent.set(at, message)
    for (const number of keys) for (const taken of [played, home]) taken.note.add(number)
  }

  const wheels = sorted('moved').filter(({ control }) => control.kind === 'wheel')
  if (wanted.wheels === 'play' && wanted.moved === 'cc' && wheels.length === 2) {
    const [bend, modulation] = wheels
    if (bend && !home.isBent) send(bend, { kind: 'pitchBend' })
    if (modulation && !home.cc.has(MODULATION)) {
      send(modulation, { kind: 'cc', number: MODULATION })
      home.cc.add(MODULATION)
    }
  }
  const moved = sorted('moved').filter((at) => !sent.has(at))
  if (wanted.moved === 'cc') for (const block of blocksOf(moved)) sendCc(block, null)
  if (wanted.pads === 'notes') sendNotes(fromBelow(sorted('pads')), home, 'home')
  else if (wanted.pads === 'drums') sendNotes(fromBelow(sorted('pads')), drums, PERCUSSION_CHANNEL)
  else if (wanted.pads === 'held')
    for (const block of blocksOf(sorted('pads'))) sendCc(block, { kind: 'momentary' })
  const buttons = sorted('buttons')
  if (wanted.buttons === 'notes') sendNotes(buttons, home, 'home')
  else if (wanted.buttons !== 'nothing')
    for (const block of blocksOf(buttons))
      sendCc(block, { kind: wanted.buttons === 'held' ? 'momentary' : 'toggle' })

  const asked = silent.filter(({ control, gesture }) => {
    const sort = sortOf(control, gesture)
    return sort === 'keys' || wanted[sort] !== 'nothing'
  })
  return {
    edits: [...sent].map(([{ place }, message]) => ({ type: 'message', at: place, index: 0, message })),
    given: sent.size,
    left: asked.length - sent.size,
  }
}

/** As they belong together on the surface, in the order in which they come. */
function blocksOf(silent: readonly SilentGesture[]): SilentGesture[][] {
  const blocks = new Map<string, SilentGesture[]>()
  for (const at of silent) {
    const key = at.control.block ?? at.control.kind
    blocks.set(key, [...(blocks.get(key) ?? []), at])
  }
  return [...blocks.values()]
}

/** Pads are played from the bottom left up. */
function fromBelow(silent: readonly SilentGesture[]): SilentGesture[] {
  const byControl = new Map(silent.map((at) => [at.control.id, at]))
  return rowsOf(silent.map(({ control }) => control))
    .toReversed()
    .flat()
    .flatMap(({ id }) => byControl.get(id) ?? [])
}
