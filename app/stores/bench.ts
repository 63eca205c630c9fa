import { defineStore } from 'pinia'
import {
  beginPassage,
  comeInRig,
  enterScope,
  keptOn,
  lightsNow,
  misbehave,
  outgoing,
  playRig,
  selectIn,
  showOnRig,
  switchedOn,
  traceGesture,
  type BenchState,
  type Hand,
  type Misbehaviour,
  type Passing,
  type Step,
  type Trace,
} from '#core/bench'
import { keysOf } from '#core/mappings'
import type { Message } from '#core/midi'
import {
  assignmentsAt,
  gestureRef,
  placeRef,
  portKey,
  shownPlace,
  type Control,
  type GestureKey,
  type GestureRef,
  type Id,
  type Showing,
} from '#core/rig'
import { pressedGesture } from '~/lib/bench/figure'
import { mapped, sameOr } from '~/lib/same-or'
import { createHearing } from '~/lib/bench/hearing'
import { lightsFor } from '~/lib/bench/lights-out'
import { noteMoves, type Move } from '~/lib/bench/moves'
import { appendTo, EMPTY_TAPE, type Tape } from '~/lib/bench/tape'
import { useRigStore } from './rig'

/** Real ports that stand for some of the rig's. */
export interface Outside {
  /** The ports of the rig, by key, that are sent to. */
  outlets: ReadonlySet<string>
  /** The controllers that are heard themselves. */
  real: ReadonlySet<Id>
  send: (key: string, bytes: readonly number[]) => void
}
const NOWHERE: Outside = { outlets: new Set(), real: new Set(), send: () => undefined }

/** What was heard so short a time ago, in ms, still goes on. */
const GOES_ON_MS = 500

/** Leaning in and touching come with a press: they are followed only where they send something, and not at their end. */
const isWorthFollowing = (hand: Extract<Hand, { gesture: GestureKey }>, { passed }: Step): boolean =>
  !/\.(pressure|touch)$/.test(hand.gesture) ||
  (passed.length > 0 && hand.kind !== 'let-go' && !(hand.kind === 'move' && hand.to === 0))

/** The rig as it is played: simulated controllers and destinations, what passed, and what moves. */
export const useBenchStore = defineStore('bench', () => {
  const rigs = useRigStore()
  const state = shallowRef<BenchState | null>(null)
  const tape = shallowRef<Tape>(EMPTY_TAPE)
  /** What moved, newest first. */
  const moves = shallowRef<readonly Move[]>([])
  const controllerId = ref<Id | null>(null)
  const passageId = ref<Id | null>(null)
  /** What is followed: a movement of the controller that is shown. */
  const gesture = ref<GestureKey | null>(null)
  const isHeldStill = ref(false)

  const began = performance.now()
  /** Ms since the Bench was opened. */
  const now = (): number => performance.now() - began

  /** How often controllers made one another send in a ring. */
  const ringsCut = ref(0)
  /** How many bytes that came in were no message. */
  const faults = ref(0)
  /** How many clocks and active sensings came in: they are no control's, and not on the tape. */
  const ticks = ref(0)
  /** What real hardware has moved just now, in the order in which it was heard. */
  const heard = shallowRef<readonly GestureRef[]>([])
  /** When what is followed was heard last: it is followed as long as it goes on, whatever else moves. */
  let followedAt = -Infinity
  function followHeard(of: GestureKey, at: number): void {
    if (of !== gesture.value && at - followedAt < GOES_ON_MS) return
    gesture.value = of
    followedAt = at
  }
  const hearing = createHearing({
    now: () => (rigs.rig && state.value ? { rig: rigs.rig, state: state.value } : null),
    take: (step) => {
      faults.value += step.faults
      ticks.value += step.ticks
      take(step)
      const last = step.passed.at(-1)
      if (!last) return
      heard.value = [...new Set(step.passed.flatMap(({ place }) => (place ? [placeRef(place)] : [])))]
      if (last.place && last.controller === controller.value?.id) followHeard(last.place.gesture, last.at)
    },
  })

  const controllers = computed(() => rigs.rig?.controllers.filter(({ inUse }) => inUse) ?? [])
  const controller = computed(
    () => controllers.value.find(({ id }) => id === controllerId.value) ?? controllers.value[0] ?? null,
  )
  const own = computed(() => (controller.value && state.value?.controllers[controller.value.id]) ?? null)

  function restart(): void {
    state.value = rigs.rig ? switchedOn(rigs.rig) : null
    tape.value = EMPTY_TAPE
    moves.value = []
    passageId.value = null
    hearing.forget()
    ringsCut.value = 0
    faults.value = 0
    ticks.value = 0
  }
  watch(
    [() => rigs.id, () => rigs.rig],
    ([id], [before]) => {
      if (id !== before || !state.value || !rigs.rig) restart()
      else state.value = keptOn(rigs.rig, state.value)
    },
    { immediate: true },
  )

  let outside = NOWHERE
  /** Let real ports stand for some of the rig's from now on. */
  function connect(next: Outside): void {
    outside = next
    lightSent.clear()
    sendLights()
  }
  /** What each light of real controllers was told last. */
  const lightSent = new Map<string, string>()
  /** Tell real controllers what their lights are to show, as far as it has changed. */
  function sendLights(): void {
    const { rig } = rigs
    if (!rig || !state.value || outside.outlets.size === 0) return
    for (const { controller: of, port, messages } of lightsFor(rig, state.value, outside.outlets))
      for (const { control, bytes } of messages) {
        const key = `${of} ${control}`
        const text = bytes.join(' ')
        if (lightSent.get(key) === text) continue
        lightSent.set(key, text)
        outside.send(port, bytes)
      }
  }
  /** What has passed leaves by the real ports that it arrives at. What is real at both ends has its own cable. */
  function sendOut(passed: readonly Passing[]): void {
    if (!rigs.rig || outside.outlets.size === 0) return
    for (const passing of passed)
      if (!outside.real.has(passing.controller))
        for (const { port, bytes } of outgoing(rigs.rig, passing, outside.outlets))
          outside.send(portKey(port), bytes)
  }

  function take(next: Step): void {
    state.value = next.state
    if (next.isCut) ringsCut.value++
    if (next.passed.length > 0 && rigs.rig) {
      moves.value = noteMoves(rigs.rig, moves.value, next.passed)
      if (!isHeldStill.value) tape.value = appendTo(tape.value, next.passed)
      sendOut(next.passed)
    }
    sendLights()
  }

  /** Bytes have come from a real controller, at a time of `performance.now()`. */
  const hear = (id: Id, stream: string, bytes: Uint8Array, at: number): void =>
    hearing.hear(id, stream, bytes, Math.max(0, at - began))
  /** Bytes have come from outside for a simulated controller, at a time of `performance.now()`. */
  function comeIn(id: Id, bytes: Uint8Array, at: number): void {
    if (rigs.rig && state.value)
      take(comeInRig(rigs.rig, state.value, id, [...bytes], Math.max(0, at - began)))
  }
  function ask(id: Id, does: readonly Misbehaviour[]): void {
    if (state.value) state.value = misbehave(state.value, id, does)
  }
  function enter(id: Id, scope: Id | null): void {
    if (state.value) state.value = enterScope(state.value, id, scope)
  }

  function select(id: Id, what: string): void {
    if (state.value) state.value = selectIn(state.value, id, what)
  }

  /** A hand does something with the controller that is shown. */
  function act(hand: Hand): void {
    if (!rigs.rig || !state.value || !controller.value) return
    // A movement has been made by the time that it is seen: it began so long ago.
    const overMs = 'overMs' in hand ? (hand.overMs ?? 0) : 0
    const at = Math.max(0, now() - overMs)
    const next = playRig(rigs.rig, state.value, controller.value.id, hand, at)
    if ('gesture' in hand && isWorthFollowing(hand, next)) gesture.value = hand.gesture
    take(next)
  }
  function show(showing: Showing): void {
    if (!rigs.rig || !state.value || !controller.value) return
    take(showOnRig(rigs.rig, state.value, controller.value.id, showing, now()))
  }
  function begin(id: Id): void {
    const passage = rigs.rig?.passages.find((each) => each.id === id)
    passageId.value = passage?.id ?? null
    if (passage && rigs.rig && state.value) take(beginPassage(rigs.rig, state.value, passage, now()))
  }
  /** Let go of everything that is held anywhere. */
  function silence(): void {
    if (!rigs.rig) return
    for (const { id } of controllers.value)
      for (const { gesture: held, key } of Object.values(state.value?.controllers[id]?.held ?? {}))
        if (state.value)
          take(playRig(rigs.rig, state.value, id, { kind: 'let-go', gesture: held, key }, now()))
  }
  function clear(): void {
    tape.value = EMPTY_TAPE
    moves.value = []
  }
  /** Go to a controller, and follow one of its movements. */
  function follow(id: Id, of: GestureKey | null): void {
    controllerId.value = id
    if (of !== null) gesture.value = of
  }

  /** What a control sends when it is pressed, in the layer that shows. */
  function pressedMessage(control: Control): Message | undefined {
    const pressed = pressedGesture(control)
    const place =
      controller.value && own.value && pressed
        ? shownPlace(controller.value, own.value.showing, pressed)
        : null
    return place && controller.value && pressed
      ? assignmentsAt(controller.value, place)?.[pressed]?.messages[0]
      : undefined
  }
  /** The keys that a keyboard plays in the layer that shows. */
  const playedKeys = (control: Control): { low: number; high: number } | null =>
    keysOf(pressedMessage(control))
  /** Is each key bent and leaned into by itself? */
  function isZone(control: Control): boolean {
    const message = pressedMessage(control)
    return message?.kind === 'note' && message.keys.kind === 'zone'
  }

  /** What every controller shows, and the scope of every destination: the same objects until one of them changes. */
  const showings = computed<Readonly<Record<Id, Showing>>>((before) =>
    sameOr(
      before,
      mapped(state.value?.controllers, ({ showing }) => showing),
    ),
  )
  const scopes = computed<Readonly<Record<Id, Id | null>>>((before) =>
    sameOr(
      before,
      mapped(state.value?.destinations, ({ scope }) => scope),
    ),
  )
  const selected = computed<Readonly<Record<Id, string | null>>>((before) =>
    sameOr(
      before,
      mapped(state.value?.destinations, (each) => each.selected),
    ),
  )
  // Lights rest on few things of much that changes while something is moved.
  const held = computed(() => own.value?.held)
  const steps = computed(() => own.value?.steps)
  const chosenLights = computed(() => own.value?.chosen)
  const setLights = computed(() => own.value?.lights)
  /** The lights of the controller that is shown, as they are now. */
  const lights = computed(() =>
    rigs.rig && controller.value && held.value && steps.value && chosenLights.value && setLights.value
      ? lightsNow(rigs.rig, controller.value, showings.value, {
          held: held.value,
          steps: steps.value,
          chosen: chosenLights.value,
          lights: setLights.value,
        })
      : [],
  )

  /** The ways of each movement that was followed; anew when anything changes that they rest on. */
  const known = computed(() => {
    void rigs.rig
    void showings.value
    void scopes.value
    void selected.value
    return new Map<string, readonly Trace[]>()
  })
  /** The ways of what is followed: those that arrive first. */
  const traces = computed<readonly Trace[]>(() => {
    const { rig } = rigs
    if (!rig || !controller.value || gesture.value === null || !state.value) return []
    const ref = gestureRef(controller.value.id, gesture.value)
    const before = known.value.get(ref)
    if (before) return before
    const found = traceGesture(rig, ref, {
      showing: showings.value,
      scopes: scopes.value,
      selected: selected.value,
    }).toSorted((a, b) => Number(a.broken !== null) - Number(b.broken !== null))
    known.value.set(ref, found)
    return found
  })

  return {
    state,
    tape,
    moves,
    controllers,
    controller,
    controllerId,
    passageId,
    gesture,
    isHeldStill,
    own,
    traces,
    now,
    act,
    show,
    begin,
    silence,
    clear,
    restart,
    follow,
    keysOf: playedKeys,
    isZone,
    lights,
    ringsCut,
    faults,
    ticks,
    heard,
    connect,
    hear,
    comeIn,
    misbehave: ask,
    enter,
    select,
  }
})
