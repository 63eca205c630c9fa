import { defineStore } from 'pinia'
import {
  lightsNow,
  traceGesture,
  type ControllerState,
  type Hand,
  type Misbehaviour,
  type Passing,
  type Trace,
} from '#core/bench'
import { keysOf } from '#core/mappings'
import type { Message } from '#core/midi'
import {
  assignmentsAt,
  gestureRef,
  shownPlace,
  type Control,
  type GestureKey,
  type GestureRef,
  type Id,
  type Showing,
} from '#core/rig'
import { pressedGesture } from '~/lib/bench/figure'
import { noteMoves, type Move } from '~/lib/bench/moves'
import { playAway, type PlayedAway } from '~/lib/bench/play-away'
import { appendTo, EMPTY_TAPE, type Tape } from '~/lib/bench/tape'
import { mapped, sameOr } from '~/lib/same-or'
import type { Order } from '~/workers/player'
import { createHearer, NOTHING_SEEN, viewAfter, type BenchView, type News } from '~/workers/player-news'
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

/** The rig as it is played: simulated controllers and destinations, what passed, and what moves. A worker plays it. */
export const useBenchStore = defineStore('bench', () => {
  const rigs = useRigStore()
  /** How everything stands; null until the worker has said so. */
  const state = shallowRef<BenchView | null>(null)
  const tape = shallowRef<Tape>(EMPTY_TAPE)
  /** What moved, newest first. */
  const moves = shallowRef<readonly Move[]>([])
  const controllerId = ref<Id | null>(null)
  const passageId = ref<Id | null>(null)
  /** What is followed: a movement of the controller that is shown. */
  const gesture = ref<GestureKey | null>(null)
  const isHeldStill = ref(false)
  /** Why nothing is played any more; null while it is. */
  const failure = ref<string | null>(null)

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

  const controllers = computed(() => rigs.rig?.controllers.filter(({ inUse }) => inUse) ?? [])
  const controller = computed(
    () => controllers.value.find(({ id }) => id === controllerId.value) ?? controllers.value[0] ?? null,
  )
  const own = computed<ControllerState | null>(
    () => (controller.value && state.value?.controllers[controller.value.id]) ?? null,
  )

  let outside = NOWHERE
  let player: PlayedAway | null = null
  let hearer = createHearer()
  /** News of what was under way before everything began anew come with the number of an earlier beginning. */
  let epoch = 0
  /** The rig that the worker has. */
  let loaded: Id | null = null

  function forget(): void {
    epoch++
    tape.value = EMPTY_TAPE
    moves.value = []
    passageId.value = null
    for (const count of [ringsCut, faults, ticks]) count.value = 0
  }
  function load(keeps: boolean): void {
    if (!rigs.rig) return
    if (!keeps) forget()
    loaded = rigs.id
    player?.order({ kind: 'load', rig: toRaw(rigs.rig), epoch, keeps })
  }
  /** Start playing where nothing is played yet. */
  function start(): void {
    if (player || failure.value !== null || !rigs.rig) return
    hearer = createHearer()
    player = playAway({
      heard: take,
      send: (outs) => {
        for (const [key, bytes] of outs) {
          outside.send(key, bytes)
          for (const listener of toldListeners) listener(key, bytes)
        }
      },
      failed: (why) => {
        player = null
        failure.value = why
        state.value = null
      },
    })
    state.value = null
    seen = NOTHING_SEEN
    player.order({ kind: 'connect', outlets: [...outside.outlets], real: [...outside.real] })
    load(false)
  }
  function order(what: Order): void {
    start()
    player?.order(what)
  }
  /** Begin anew, with a new worker where the one before has failed. */
  function restart(): void {
    failure.value = null
    if (!player) return start()
    forget()
    player.order({ kind: 'restart', epoch })
  }
  watch(
    () => rigs.revision,
    () => {
      if (!player) return
      if (rigs.change.kind === 'loaded' || loaded !== rigs.id) load(loaded === rigs.id)
      else player.order({ kind: 'patch', patches: JSON.stringify(rigs.change.patches) })
    },
    { flush: 'sync' },
  )

  let seen: BenchView = NOTHING_SEEN
  /** What the worker tells, since the last picture. */
  function take(all: readonly News[]): void {
    const passed: Passing[] = []
    const moved = new Set<GestureRef>()
    for (const news of all) {
      // What is told rests on what was told before, whichever beginning it belongs to.
      const came = hearer(news)
      seen = viewAfter(seen, news.change)
      if (news.epoch !== epoch || !rigs.rig) continue
      for (const each of came) passed.push(each)
      for (const ref of news.heard) moved.add(ref)
      ringsCut.value += news.ringsCut
      faults.value += news.faults
      ticks.value += news.ticks
      const { followed, followedHeard } = news
      if (followed?.controller === controller.value?.id && followed) gesture.value = followed.gesture
      if (followedHeard && followedHeard.controller === controller.value?.id)
        followHeard(followedHeard.gesture, followedHeard.at)
    }
    if (all.at(-1)?.epoch !== epoch || !rigs.rig) return
    state.value = seen
    if (moved.size > 0) heard.value = [...moved]
    if (passed.length === 0) return
    for (const listener of listeners) listener(passed)
    moves.value = noteMoves(rigs.rig, moves.value, passed)
    if (!isHeldStill.value) tape.value = appendTo(tape.value, passed)
  }

  const listeners = new Set<(passed: readonly Passing[]) => void>()
  /** Be told what passes, from now on; gives what ends it. */
  function onPassed(listener: (passed: readonly Passing[]) => void): () => void {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }

  const toldListeners = new Set<(key: string, bytes: readonly number[]) => void>()
  /** Be told what real hardware is told, with the key of its port, from now on; gives what ends it. */
  function onTold(listener: (key: string, bytes: readonly number[]) => void): () => void {
    toldListeners.add(listener)
    return () => toldListeners.delete(listener)
  }

  /** Let real ports stand for some of the rig's from now on. */
  function connect(next: Outside): void {
    outside = next
    const what: Order = { kind: 'connect', outlets: [...next.outlets], real: [...next.real] }
    // Without a real port there is nothing that would have to be played for it.
    if (next.outlets.size > 0) order(what)
    else player?.order(what)
  }
  const whenHeard = (at: number): number => Math.max(0, at - began)
  /** Bytes have come from a real controller, at a time of `performance.now()`. */
  const hear = (id: Id, stream: string, bytes: Uint8Array, at: number): void =>
    order({ kind: 'hear', controller: id, stream, bytes: [...bytes], at: whenHeard(at) })
  /** Bytes have come from outside for a simulated controller, at a time of `performance.now()`. */
  const comeIn = (id: Id, bytes: Uint8Array, at: number): void =>
    order({ kind: 'come-in', controller: id, bytes: [...bytes], at: whenHeard(at) })
  const misbehave = (destination: Id, does: readonly Misbehaviour[]): void =>
    order({ kind: 'misbehave', destination, does: [...does] })
  const enter = (destination: Id, scope: Id | null): void => order({ kind: 'enter', destination, scope })
  const select = (destination: Id, selected: string): void => order({ kind: 'select', destination, selected })

  /**
   * A hand does something with the controller that is shown. `isAlone`: it is sent for a destination to learn it, to real ones too
   * though the controller is real itself.
   */
  function act(hand: Hand, isAlone = false): void {
    if (!controller.value) return
    // A movement has been made by the time that it is seen: it began so long ago.
    const overMs = 'overMs' in hand ? (hand.overMs ?? 0) : 0
    order({
      kind: 'hand',
      controller: controller.value.id,
      hand,
      at: Math.max(0, now() - overMs),
      isAlone,
    })
  }
  function show(showing: Showing): void {
    if (controller.value)
      order({ kind: 'show', controller: controller.value.id, showing: toRaw(showing), at: now() })
  }
  function begin(id: Id): void {
    const passage = rigs.rig?.passages.find((each) => each.id === id)
    passageId.value = passage?.id ?? null
    if (passage) order({ kind: 'begin', passage: passage.id, at: now() })
  }
  /** Let go of everything that is held anywhere. */
  const silence = (): void => player?.order({ kind: 'silence', at: now() })
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
    if (!rig || !controller.value || gesture.value === null) return []
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
    failure,
    own,
    traces,
    now,
    start,
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
    onPassed,
    onTold,
    hear,
    comeIn,
    misbehave,
    enter,
    select,
  }
})
