import { defineStore } from 'pinia'
import type { Passing } from '#core/bench'
import { doneBy, movedBy, MOVEMENT_START, type Movement } from '#core/listen'
import { joinInOrder, type JoinTarget } from '#core/mappings'
import { decodeWire, WIRE_START } from '#core/midi/bytes'
import {
  findGesture,
  gestureName,
  gestureRef,
  powerUpShowing,
  shownPlace,
  splitGestureKey,
  splitGestureRef,
  type GestureRef,
  type Id,
  type RigEdit,
} from '#core/rig'
import { useBenchStore } from './bench'
import { usePendingEditStore } from './pending-edit'
import { useRigStore } from './rig'

/** Something that waits for a control to be moved. */
export interface Wanted {
  name: string
  target: JoinTarget
}
/** What was joined last, with what came along with the movement. */
export interface JoinedLast {
  name: string
  target: JoinTarget
  gesture: GestureRef
  others: readonly GestureRef[]
  /** The mappings that it made. */
  made: readonly Id[]
}

const TICK_MS = 100

/** Join what is picked in a destination to the controls that are moved, one after the other. Off until it is switched on. */
export const useJoinByMovingStore = defineStore('join-by-moving', () => {
  const bench = useBenchStore()
  const rigs = useRigStore()
  const pending = usePendingEditStore()

  const wanted = shallowRef<readonly Wanted[]>([])
  const count = ref(0)
  const destination = ref<Id | null>(null)
  const scope = ref<Id | null>(null)
  const last = shallowRef<JoinedLast | null>(null)
  const refusal = ref<string | null>(null)
  const isOn = computed(() => destination.value !== null)

  let movements = new Map<Id, Movement>()
  function hear(passed: readonly Passing[]): void {
    for (const { controller, bytes, at, place } of passed) {
      if (!place) continue
      const gesture = gestureRef(controller, place.gesture)
      for (const event of decodeWire(WIRE_START, bytes, at).events)
        if (event.kind === 'message')
          movements.set(
            controller,
            movedBy(movements.get(controller) ?? MOVEMENT_START, { at, bytes: event.bytes, gesture }),
          )
    }
  }

  /** What joins a gesture to a target; empty where it is joined already, null where it cannot be. */
  function editsFor(gesture: GestureRef, target: JoinTarget): readonly RigEdit[] | null {
    const { rig } = rigs
    const { controller: id, gesture: key } = splitGestureRef(gesture)
    const controller = rig?.controllers.find((each) => each.id === id)
    const showing = bench.state?.controllers[id]?.showing ?? (controller && powerUpShowing(controller))
    const place = controller && showing ? shownPlace(controller, showing, key) : null
    return rig && place && destination.value
      ? joinInOrder(rig, [place], destination.value, [target], scope.value).edits
      : null
  }
  function join(
    label: string,
    name: string,
    target: JoinTarget,
    gesture: GestureRef,
    others: readonly GestureRef[],
    before: readonly RigEdit[],
  ): boolean {
    const edits = editsFor(gesture, target)
    if (!edits || edits.length === 0) {
      refusal.value = edits
        ? `${nameOf(gesture)} moves ${name} already. Move another control.`
        : `${nameOf(gesture)} is in no layer that shows. Choose its layer, or move another control.`
      return false
    }
    const known = new Set(rigs.rig?.mappings.map(({ id }) => id))
    refusal.value = null
    if (!pending.edit(label, [...before, ...edits], { refused: (why) => (refusal.value = why) })) return false
    const made = rigs.rig?.mappings.flatMap(({ id }) => (known.has(id) ? [] : [id])) ?? []
    last.value = { name, target, gesture, others, made }
    return true
  }
  function nameOf(ref: GestureRef): string {
    const found = rigs.rig ? findGesture(rigs.rig, ref) : null
    return found ? gestureName(found.control, splitGestureKey(splitGestureRef(ref).gesture).gesture) : ref
  }

  function tick(): void {
    for (const [id, before] of movements) {
      const { movement, meant } = doneBy(before, bench.now())
      movements.set(id, movement)
      const [next, ...rest] = wanted.value
      if (!meant || !next) continue
      if (!join(`Join ${next.name} by moving`, next.name, next.target, meant.gesture, meant.others, []))
        continue
      wanted.value = rest
      if (rest.length === 0) return stop()
    }
  }
  /** Take another movement that came along, in place of the one that was taken. */
  function takeInstead(gesture: GestureRef): void {
    const now = last.value
    if (!now || !destination.value) return
    const others = [now.gesture, ...now.others.filter((each) => each !== gesture)]
    const before = now.made.map((mapping): RigEdit => ({ type: 'mapping-remove', mapping }))
    join(`Join ${now.name} to another movement`, now.name, now.target, gesture, others, before)
  }

  let timer: ReturnType<typeof setInterval> | undefined
  let stopHearing = (): void => undefined
  /** What is still to be joined is left; what was joined last can still be changed. */
  function stop(): void {
    clearInterval(timer)
    stopHearing()
    wanted.value = []
  }
  function begin(id: Id, inScope: Id | null, targets: readonly Wanted[]): void {
    stop()
    movements = new Map()
    destination.value = id
    scope.value = inScope
    wanted.value = targets
    count.value = targets.length
    last.value = null
    refusal.value = null
    bench.start()
    stopHearing = bench.onPassed(hear)
    timer = setInterval(tick, TICK_MS)
  }
  function close(): void {
    stop()
    destination.value = null
    last.value = null
  }
  watch(() => rigs.id, close)

  return { isOn, wanted, count, last, refusal, nameOf, takeInstead, begin, close }
})
