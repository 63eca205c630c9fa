import {
  beginPassage,
  comeInRig,
  enterScope,
  hearEnd,
  hearRig,
  HEARD_START,
  keptOn,
  misbehave,
  outgoing,
  playRig,
  selectIn,
  showOnRig,
  switchedOn,
  type BenchState,
  type Hand,
  type HeardState,
  type Misbehaviour,
  type Passing,
  type Step,
} from '#core/bench'
import {
  patched,
  placeRef,
  portKey,
  type GestureKey,
  type GestureRef,
  type Id,
  type Patch,
  type Rig,
  type Showing,
} from '#core/rig'
import { lightsFor } from '~/lib/bench/lights-out'
import {
  changeOf,
  createTeller,
  NOTHING_SEEN,
  type BenchView,
  type News,
  type Outs,
  type ToldPassing,
} from './player-news'

/** What the page asks of the rig that is played. Times are in ms since the Bench was opened. */
export type Order =
  /** With `keeps`, everything stays as it was played, as far as the rig still has it. */
  | { kind: 'load'; rig: Rig; epoch: number; keeps: boolean }
  /** Patches as JSON text: thousands of them cross faster so. */
  | { kind: 'patch'; patches: string }
  | { kind: 'restart'; epoch: number }
  /** `isAlone`: sent by the application itself, though the controller is real. */
  | { kind: 'hand'; controller: Id; hand: Hand; at: number; isAlone?: boolean }
  | { kind: 'show'; controller: Id; showing: Showing; at: number }
  | { kind: 'begin'; passage: Id; at: number }
  /** Let go of everything that is held anywhere. */
  | { kind: 'silence'; at: number }
  | { kind: 'misbehave'; destination: Id; does: readonly Misbehaviour[] }
  | { kind: 'enter'; destination: Id; scope: Id | null }
  | { kind: 'select'; destination: Id; selected: string }
  /** A real controller has sent bytes, in a stream of its own. */
  | { kind: 'hear'; controller: Id; stream: string; bytes: readonly number[]; at: number }
  /** A real program has sent bytes to a simulated controller. */
  | { kind: 'come-in'; controller: Id; bytes: readonly number[]; at: number }
  /** Real ports stand for these of the rig, by key, and these controllers are heard themselves. */
  | { kind: 'connect'; outlets: readonly string[]; real: readonly Id[] }

interface Around {
  tell: (news: News) => void
  /** Tell at once what is to leave by real ports, which cannot wait for a picture. */
  send: (outs: Outs) => void
  /** Do something after so many ms. */
  after: (ms: number, does: () => void) => void
  /** Ms, for how often the page is told. */
  now: () => number
}

/** The page is told so often at most, in ms: it draws no more often. */
const TELL_EVERY_MS = 16
/** An MSB waits so long for its LSB, in ms; then it counts by itself. */
const HALF_MS = 30

/** Leaning in and touching come with a press: they are followed only where they send something, and not at their end. */
const isWorthFollowing = (hand: Extract<Hand, { gesture: GestureKey }>, { passed }: Step): boolean =>
  !/\.(pressure|touch)$/.test(hand.gesture) ||
  (passed.length > 0 && hand.kind !== 'let-go' && !(hand.kind === 'move' && hand.to === 0))

/** News that is still added to. */
type Untold = {
  -readonly [K in Exclude<keyof News, 'change' | 'messages' | 'places' | 'passed' | 'heard'>]: News[K]
} & {
  passed: ToldPassing[]
  heard: Set<GestureRef>
}
const nothing = (epoch: number): Untold => ({
  epoch,
  passed: [],
  heard: new Set(),
  followed: null,
  followedHeard: null,
  ringsCut: 0,
  faults: 0,
  ticks: 0,
})

/** The rig as it is played, to be run in a worker: takes orders and tells the page what came of them. */
export function createPlayer({ tell, send, after, now }: Around): (order: Order) => void {
  let rig: Rig | null = null
  let state: BenchState | null = null
  let seen: BenchView = NOTHING_SEEN
  let streams = new Map<string, { controller: Id; heard: HeardState }>()
  let outside = { outlets: new Set<string>() as ReadonlySet<string>, real: new Set<Id>() as ReadonlySet<Id> }
  /** What each light of real controllers was told last. */
  const lightSent = new Map<string, string>()
  const teller = createTeller()
  let untold: Untold = nothing(0)
  let toldAt = -Infinity
  let isWaiting = false

  function tellNow(): void {
    isWaiting = false
    toldAt = now()
    const view: BenchView = state ?? NOTHING_SEEN
    const change = changeOf(seen, view)
    seen = view
    tell({ ...untold, heard: [...untold.heard], change, ...teller.takeFresh() })
    untold = nothing(untold.epoch)
  }
  function tellSoon(): void {
    if (isWaiting) return
    const wait = toldAt + TELL_EVERY_MS - now()
    if (wait <= 0) return tellNow()
    isWaiting = true
    after(wait, tellNow)
  }

  let outs: Array<readonly [string, readonly number[]]> = []
  function sendNow(): void {
    if (outs.length > 0) send(outs)
    outs = []
  }
  const out = (port: string, bytes: readonly number[]): void => {
    outs.push([port, bytes])
  }
  /** Tell real controllers what their lights are to show, as far as it has changed. */
  function sendLights(): void {
    if (!rig || !state || outside.outlets.size === 0) return
    for (const { controller, port, messages } of lightsFor(rig, state, outside.outlets))
      for (const { control, bytes } of messages) {
        const key = `${controller} ${control}`
        const text = bytes.join(' ')
        if (lightSent.get(key) === text) continue
        lightSent.set(key, text)
        out(port, bytes)
      }
  }
  /** What has passed leaves by the real ports that it arrives at. What is real at both ends has its own cable. */
  function sendOut(passed: readonly Passing[], isAlone: boolean): void {
    if (!rig || outside.outlets.size === 0) return
    for (const passing of passed)
      if (isAlone || !outside.real.has(passing.controller))
        for (const { port, bytes } of outgoing(rig, passing, outside.outlets)) out(portKey(port), bytes)
  }
  function take(step: Step, isAlone = false): void {
    state = step.state
    untold.ringsCut += Number(step.isCut)
    for (const passing of step.passed) untold.passed.push(teller.told(passing))
    sendOut(step.passed, isAlone)
    sendLights()
  }

  function takeHeard(step: Step): void {
    take(step)
    for (const { place } of step.passed) if (place) untold.heard.add(placeRef(place))
    const last = step.passed.at(-1)
    if (last?.place)
      untold.followedHeard = { controller: last.controller, gesture: last.place.gesture, at: last.at }
  }
  function hear({ controller, stream, bytes, at }: Extract<Order, { kind: 'hear' }>): void {
    if (!rig || !state) return
    const before = streams.get(stream)?.heard ?? HEARD_START
    const step = hearRig(rig, state, controller, before, bytes, at)
    streams.set(stream, { controller, heard: step.heard })
    untold.faults += step.faults.length
    untold.ticks += step.heard.ticks - before.ticks
    takeHeard(step)
    if (step.heard.half && step.heard.half !== before.half)
      after(HALF_MS, () => endHalf(stream, step.heard.half))
  }
  function endHalf(stream: string, half: HeardState['half']): void {
    const known = streams.get(stream)
    if (!rig || !state || !known || known.heard.half !== half) return
    const step = hearEnd(rig, state, known.controller, known.heard)
    streams.set(stream, { ...known, heard: step.heard })
    takeHeard(step)
    sendNow()
    tellSoon()
  }

  function restart(epoch: number): void {
    state = rig ? switchedOn(rig) : null
    streams = new Map()
    untold = nothing(epoch)
    sendLights()
  }
  function load(next: Rig, epoch: number, keeps: boolean): void {
    rig = next
    if (!keeps || !state) return restart(epoch)
    state = keptOn(next, state)
    sendLights()
  }
  function connect({ outlets, real }: Extract<Order, { kind: 'connect' }>): void {
    outside = { outlets: new Set(outlets), real: new Set(real) }
    lightSent.clear()
    sendLights()
  }
  function perform(order: Exclude<Order, { kind: 'load' | 'restart' | 'connect' }>): void {
    if (!rig || !state) return
    switch (order.kind) {
      case 'patch':
        rig = patched(rig, JSON.parse(order.patches) as Patch[])
        state = keptOn(rig, state)
        return sendLights()
      case 'hand': {
        const { controller, hand, at } = order
        const step = playRig(rig, state, controller, hand, at)
        if ('gesture' in hand && isWorthFollowing(hand, step))
          untold.followed = { controller, gesture: hand.gesture }
        return take(step, order.isAlone)
      }
      case 'show':
        return take(showOnRig(rig, state, order.controller, order.showing, order.at))
      case 'begin': {
        const passage = rig.passages.find(({ id }) => id === order.passage)
        if (passage) take(beginPassage(rig, state, passage, order.at))
        return
      }
      case 'silence':
        for (const [id, { held }] of Object.entries(state.controllers))
          for (const { gesture, key } of Object.values(held))
            take(playRig(rig, state, id, { kind: 'let-go', gesture, key }, order.at))
        return
      case 'misbehave':
        state = misbehave(state, order.destination, order.does)
        return
      case 'enter':
        state = enterScope(state, order.destination, order.scope)
        return
      case 'select':
        state = selectIn(state, order.destination, order.selected)
        return
      case 'hear':
        return hear(order)
      case 'come-in':
        return take(comeInRig(rig, state, order.controller, order.bytes, order.at))
    }
  }
  return (order) => {
    if (order.kind === 'load') load(order.rig, order.epoch, order.keeps)
    else if (order.kind === 'restart') restart(order.epoch)
    else if (order.kind === 'connect') connect(order)
    else perform(order)
    sendNow()
    tellSoon()
  }
}
