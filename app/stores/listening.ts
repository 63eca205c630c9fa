import { defineStore } from 'pinia'
import type { Passing } from '#core/bench'
import {
  companionsOf,
  guessFor,
  listen,
  LISTEN_START,
  messageFor,
  primaryOf,
  type Ask,
  type Guess,
  type ListenEvent,
  type ListenState,
} from '#core/listen'
import { decodeWire, WIRE_START } from '#core/midi/bytes'
import {
  assignmentsAt,
  controlsOf,
  modelOf,
  shownPlace,
  type GestureKey,
  type Id,
  type Message,
  type Place,
} from '#core/rig'

/** What was asked for is done when nothing more came for so long, in ms. */
const QUIET_MS = 2200
/** Nothing came at all for so long: something else is wrong. */
const NOTHING_MS = 8000
const LOOK_EVERY_MS = 200
/** So many that were heard before can be gone back to. */
const MOST_RECENT = 6

/** Finding out what controls are by what they send. Off until it is switched on. */
export const useListeningStore = defineStore('listening', () => {
  const bench = useBenchStore()
  const rigs = useRigStore()
  const isOn = ref(false)
  /** What was heard of each controller. */
  const states = shallowRef<Readonly<Record<Id, ListenState>>>({})
  const asking = ref<{ ask: Ask; sender: string; controller: Id } | null>(null)
  /** The player was asked, and nothing came. */
  const isSilent = ref(false)
  /** The senders that were heard, the last one first. */
  const recent = ref<readonly string[]>([])
  /** What is looked at; null for what was heard last. */
  const chosen = ref<string | null>(null)
  /** The gesture that each sender belongs to, as far as the template says so, and which of its messages it is. */
  const owners = shallowRef<Readonly<Record<string, { gesture: GestureKey; index: number }>>>({})
  let lastAt = 0

  const state = computed(() => (bench.controller && states.value[bench.controller.id]) ?? null)
  const sender = computed(() => asking.value?.sender ?? chosen.value ?? recent.value[0] ?? null)
  const guess = computed<Guess | null>(() =>
    state.value && sender.value ? guessFor(state.value, sender.value) : null,
  )
  /** What else goes with it. */
  const companions = computed(() =>
    state.value && sender.value ? companionsOf(state.value, sender.value) : [],
  )

  function tell(id: Id, event: ListenEvent): void {
    states.value = { ...states.value, [id]: listen(states.value[id] ?? LISTEN_START, event) }
  }
  function hear(passed: readonly Passing[]): void {
    const id = bench.controller?.id
    for (const { controller, bytes, at, place, messageIndex: index } of passed) {
      if (controller !== id) continue
      lastAt = performance.now()
      for (const event of decodeWire(WIRE_START, bytes, at).events)
        if (event.kind === 'message') tell(controller, { kind: 'message', at, bytes: event.bytes })
      const now = states.value[controller]
      const last = now?.last ? primaryOf(now, now.last) : null
      if (last && place && owners.value[last]?.gesture !== place.gesture)
        owners.value = { ...owners.value, [last]: { gesture: place.gesture, index } }
      if (last && recent.value[0] !== last)
        recent.value = [last, ...recent.value.filter((each) => each !== last)].slice(0, MOST_RECENT)
    }
  }
  function told(key: string, bytes: readonly number[]): void {
    const id = bench.controller?.id
    if (id && key.startsWith(`${id}/`)) tell(id, { kind: 'told', at: bench.now(), bytes })
  }
  let stop = (): void => undefined
  function turn(on: boolean): void {
    isOn.value = on
    stop()
    const ends = on ? [bench.onPassed(hear), bench.onTold(told)] : []
    stop = () => {
      for (const end of ends) end()
    }
    if (!on) finish()
  }
  /** Begin anew: what was heard so far is forgotten. */
  function forget(): void {
    finish()
    states.value = {}
    recent.value = []
    owners.value = {}
    chosen.value = null
    isSilent.value = false
  }
  watch([() => rigs.id, () => bench.controller?.id], () => forget())

  let timer: ReturnType<typeof setInterval> | undefined
  /** Ask the player to do something with what is looked at. */
  function ask(what: Ask): void {
    const id = bench.controller?.id
    if (!id || !sender.value) return
    const of = sender.value
    finish()
    isSilent.value = false
    asking.value = { ask: what, sender: of, controller: id }
    tell(id, { kind: 'asked', ask: what, sender: of })
    const began = performance.now()
    lastAt = began
    timer = setInterval(() => {
      const isHeard = (states.value[id]?.asked?.points.length ?? 0) > 0
      if (performance.now() - lastAt > (isHeard ? QUIET_MS : NOTHING_MS)) finish()
    }, LOOK_EVERY_MS)
  }
  /** The player has done it. */
  function finish(): void {
    clearInterval(timer)
    const now = asking.value
    if (!now) return
    isSilent.value = states.value[now.controller]?.asked?.points.length === 0
    chosen.value = now.sender
    asking.value = null
    tell(now.controller, { kind: 'answered' })
  }
  function look(at: string): void {
    finish()
    chosen.value = at
  }
  // What is moved next is looked at next, unless the player was asked about something.
  watch(
    () => recent.value[0],
    () => {
      if (!asking.value) chosen.value = null
    },
  )

  /** Where a gesture of the controller stands now, with what is written there. */
  function writtenAt(gesture: GestureKey): { place: Place; index: number; message: Message | null } | null {
    const place =
      bench.controller && bench.own ? shownPlace(bench.controller, bench.own.showing, gesture) : null
    if (!place || !bench.controller) return null
    // Of several messages it is the one that is looked at; what is written for another gesture is its first.
    const own = sender.value ? owners.value[sender.value] : undefined
    const index = own?.gesture === gesture ? own.index : 0
    return {
      place,
      index,
      message: assignmentsAt(bench.controller, place)?.[gesture]?.messages[index] ?? null,
    }
  }
  /** What would be written for a gesture; null while that is not known for sure. */
  const messageOf = (before: Message | null): Message | null =>
    guess.value && bench.controller ? messageFor(guess.value, before, bench.controller.homeChannel) : null

  /** The gestures of the controller, as they lie. */
  const gestures = computed<readonly GestureKey[]>(() =>
    rigs.rig && bench.controller
      ? [...controlsOf(modelOf(rigs.rig, bench.controller)).values()].flatMap(({ id, gestures: kinds }) =>
          kinds.map((kind) => `${id}.${kind}`),
        )
      : [],
  )

  return {
    isOn,
    guess,
    companions,
    sender,
    recent,
    asking,
    isSilent,
    gestures,
    /** The gesture of what is looked at; null where the template does not send this. */
    owner: computed(() => (sender.value && owners.value[sender.value]?.gesture) ?? null),
    answered: computed(() => (state.value && asking.value ? (state.value.asked?.points.length ?? 0) : 0)),
    turn,
    forget,
    ask,
    finish,
    look,
    writtenAt,
    messageOf,
  }
})
