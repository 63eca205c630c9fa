import { defineStore } from 'pinia'
import {
  beginPassage,
  keptOn,
  playRig,
  showOnRig,
  switchedOn,
  traceGesture,
  type BenchState,
  type Hand,
  type Passing,
  type Trace,
} from '#core/bench'
import { keysOf } from '#core/mappings'
import { assignmentsAt, shownPlace, type Control, type GestureKey, type Id, type Showing } from '#core/rig'
import { pressedGesture } from '~/lib/bench/figure'
import { noteMoves, type Move } from '~/lib/bench/moves'
import { appendTo, EMPTY_TAPE, type Tape } from '~/lib/bench/tape'
import { useRigStore } from './rig'

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
  }
  watch(
    [() => rigs.id, () => rigs.rig],
    ([id], [before]) => {
      if (id !== before || !state.value || !rigs.rig) restart()
      else state.value = keptOn(rigs.rig, state.value)
    },
    { immediate: true },
  )

  function take(next: { state: BenchState; passed: readonly Passing[] }): void {
    state.value = next.state
    if (next.passed.length === 0 || !rigs.rig) return
    moves.value = noteMoves(rigs.rig, moves.value, next.passed)
    if (!isHeldStill.value) tape.value = appendTo(tape.value, next.passed)
  }
  /** A hand does something with the controller that is shown. */
  function act(hand: Hand): void {
    if (!rigs.rig || !state.value || !controller.value) return
    if ('gesture' in hand) gesture.value = hand.gesture
    // A movement has been made by the time that it is seen: it began so long ago.
    const overMs = 'overMs' in hand ? (hand.overMs ?? 0) : 0
    take(playRig(rigs.rig, state.value, controller.value.id, hand, Math.max(0, now() - overMs)))
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

  /** The keys that a keyboard plays in the layer that shows. */
  function playedKeys(control: Control): { low: number; high: number } | null {
    const pressed = pressedGesture(control)
    const place =
      controller.value && own.value && pressed
        ? shownPlace(controller.value, own.value.showing, pressed)
        : null
    return place && controller.value && pressed
      ? keysOf(assignmentsAt(controller.value, place)?.[pressed]?.messages[0])
      : null
  }

  /** The ways of what is followed: those that arrive first. */
  const traces = computed<readonly Trace[]>(() => {
    const { rig } = rigs
    if (!rig || !controller.value || gesture.value === null || !state.value) return []
    const showing = Object.fromEntries(
      Object.entries(state.value.controllers).map(([id, each]) => [id, each.showing]),
    )
    const scopes = Object.fromEntries(
      Object.entries(state.value.destinations).map(([id, each]) => [id, each.scope]),
    )
    const found = traceGesture(rig, `${controller.value.id}/${gesture.value}`, { showing, scopes })
    return found.toSorted((a, b) => Number(a.broken !== null) - Number(b.broken !== null))
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
  }
})
