import { defineStore } from 'pinia'
import type { Passing } from '#core/bench'
import {
  addedTo,
  drawnBy,
  drawnLabel,
  finishWalk,
  knownIn,
  knownMessage,
  senderIn,
  startWalk,
  walk as walkOn,
  type Known,
  type Walk,
  type WalkEvent,
} from '#core/listen'
import type { Channel } from '#core/midi'
import { decodeWire, WIRE_START } from '#core/midi/bytes'
import {
  controlName,
  modelOf,
  powerUpShowing,
  type Block,
  type Control,
  type Id,
  type Showing,
} from '#core/rig'
import { useBenchStore } from './bench'
import { useDeskStore } from './desk'
import { useDrawStore } from './draw'
import { usePendingEditStore } from './pending-edit'
import { useRigStore } from './rig'

/** What is done with the controls that are moved: they are drawn, or it is learned what those that stand there send. */
export type Job = 'draw' | 'learn'
/** Where it is done: what a controller shows is chosen there. */
export type Where = 'desk' | 'bench'

const TICK_MS = 100
/** After so long without a message, in ms, the player is told what to look at. */
export const SILENT_MS = 12_000

/** Going along real hardware, control after control. Off until it is switched on. */
export const useMovingStore = defineStore('moving', () => {
  const bench = useBenchStore()
  const desk = useDeskStore()
  const rigs = useRigStore()
  const pending = usePendingEditStore()
  const draw = useDrawStore()

  const job = ref<Job | null>(null)
  const where = ref<Where>('desk')
  const controllerId = ref<Id | null>(null)
  const walk = shallowRef<Walk | null>(null)
  /** Keys that a keyboard of the template plays are taken as switches. */
  const takesKeys = ref(false)
  /** What is known of each control, by its id; anew when a hand is done with something. */
  const known = shallowRef<ReadonlyMap<Id, readonly Known[]>>(new Map())
  /** What was drawn, the last one last. */
  const drawn = shallowRef<readonly Id[]>([])
  const isSilent = ref(false)
  const refusal = ref<string | null>(null)

  const controller = computed(() => rigs.rig?.controllers.find(({ id }) => id === controllerId.value) ?? null)
  const model = computed(() => (rigs.rig && controller.value ? modelOf(rigs.rig, controller.value) : null))
  const showing = computed<Showing | null>(() => {
    const own = controller.value
    if (!own) return null
    const chosen = where.value === 'bench' ? bench.state?.controllers[own.id]?.showing : desk.showing[own.id]
    return chosen ?? powerUpShowing(own)
  })
  const next = computed(() => walk.value?.steps[walk.value.next] ?? null)
  /** What is not drawn yet, in its place. */
  const ghosts = computed<readonly Control[]>(() => {
    if (job.value !== 'draw' || !walk.value) return []
    const there = new Set(model.value?.surface.controls.map(({ id }) => id))
    return walk.value.steps.filter(({ id }) => !there.has(id))
  })
  watchEffect(() => {
    const id = controllerId.value
    draw.waiting =
      id !== null && ghosts.value.length > 0
        ? { controller: id, controls: ghosts.value, next: next.value?.id ?? null, choose: moveTo }
        : null
  })
  /** Something is being heard that nothing is known of yet. */
  const isHearing = computed(() => (walk.value?.act ?? null) !== null)

  let lastAt = 0
  function tell(event: WalkEvent): void {
    if (walk.value) walk.value = walkOn(walk.value, event)
  }
  function hear(passed: readonly Passing[]): void {
    for (const { controller: id, bytes, at, place, message } of passed) {
      if (id !== controllerId.value) continue
      lastAt = bench.now()
      isSilent.value = false
      const isKey = takesKeys.value && message?.kind === 'note'
      const isKnown = job.value === 'draw' && place !== null && !isKey
      for (const event of decodeWire(WIRE_START, bytes, at).events)
        if (event.kind === 'message') tell({ kind: 'message', at, bytes: event.bytes, isKnown })
    }
  }

  function told(key: string, bytes: readonly number[]): void {
    if (controllerId.value !== null && key.startsWith(`${controllerId.value}/`))
      tell({ kind: 'told', at: bench.now(), bytes })
  }

  /** Everything that was to be drawn since drawing began, with its block. */
  const wanted = new Map<Id, { control: Control; block: Block | null }>()
  /** What was known of a control, for as long as nothing more is heard of it. */
  const looked = new Map<Id, { of: string; known: readonly Known[] }>()
  function lookAt(now: Walk): void {
    const heardOf = new Map<Id, string>()
    for (const { control, sender } of Object.values(now.belongs)) {
      const from = senderIn(now.heard, sender)
      heardOf.set(
        control,
        `${heardOf.get(control) ?? ''} ${sender} ${from?.trail.heard} ${from?.answers.length}`,
      )
    }
    known.value = new Map(
      [...wanted.values()].map(({ control }) => {
        const of = heardOf.get(control.id) ?? ''
        const before = looked.get(control.id)
        const all = before?.of === of ? before.known : knownIn(now, control)
        looked.set(control.id, { of, known: all })
        return [control.id, all]
      }),
    )
  }

  /** What was heard of a control when it was written down last: only what is new is written again. */
  const writtenOf = new Map<Id, string>()
  /** What was heard of a control, as it would be written where nothing is. */
  const factsOf = (all: readonly Known[], home: Channel): string =>
    JSON.stringify(all.map((each) => [each.gesture, knownMessage(each, null, home)]))
  /** Draw what has been heard, each control as a step of its own. */
  function write(): void {
    for (const { control, block } of wanted.values()) {
      const all = known.value.get(control.id) ?? []
      if (!rigs.rig || !controller.value || !showing.value || all.length === 0) continue
      const facts = factsOf(all, controller.value.homeChannel)
      if (writtenOf.get(control.id) === facts) continue
      const edits = drawnBy(
        { rig: rigs.rig, controller: controller.value, showing: showing.value },
        control,
        block,
        all,
      )
      writtenOf.set(control.id, facts)
      if (edits.length === 0) continue
      refusal.value = null
      const isMade = pending.edit(drawnLabel(control), edits, { refused: (why) => (refusal.value = why) })
      if (isMade && !drawn.value.includes(control.id)) drawn.value = [...drawn.value, control.id]
    }
  }
  /** What was drawn and has been undone since is next again. */
  function forgetUndone(): void {
    const there = new Set(model.value?.surface.controls.map(({ id }) => id))
    for (const id of drawn.value.filter((each) => !there.has(each))) {
      drawn.value = drawn.value.filter((each) => each !== id)
      writtenOf.delete(id)
      tell({ kind: 'forget', control: id })
    }
  }

  let seen: Walk | null = null
  function tick(): void {
    const now = bench.now()
    tell({ kind: 'time', at: now })
    isSilent.value = now - lastAt > SILENT_MS && next.value !== null
    if (!walk.value || walk.value.act !== null || walk.value === seen) return
    const isSettled = seen === null || walk.value.belongs !== seen.belongs || walk.value.presses === null
    if (!isSettled) return
    lookAt(walk.value)
    if (job.value === 'draw') {
      forgetUndone()
      write()
    }
    seen = walk.value
  }
  watch(
    () => rigs.revision,
    () => {
      if (job.value === 'draw') forgetUndone()
    },
  )

  let timer: ReturnType<typeof setInterval> | undefined
  let stopHearing = (): void => undefined
  /** What was begun is done as far as it is. */
  function finish(): void {
    if (!walk.value) return
    walk.value = finishWalk(walk.value)
    lookAt(walk.value)
    if (job.value === 'draw') write()
  }
  function end(): void {
    clearInterval(timer)
    stopHearing()
    job.value = null
    walk.value = null
  }
  function stop(): void {
    finish()
    end()
  }
  /** Begin to go along these controls of a controller. What was drawn before stays known. */
  function begin(what: Job, at: Where, id: Id, controls: readonly Control[], own: Block | null = null): void {
    const isMore = job.value === 'draw' && what === 'draw' && controllerId.value === id
    finish()
    const before = isMore ? walk.value : null
    end()
    if (!before) {
      drawn.value = []
      known.value = new Map()
      for (const each of [wanted, writtenOf, looked]) each.clear()
    }
    for (const control of controls) wanted.set(control.id, { control, block: own })
    job.value = what
    where.value = at
    controllerId.value = id
    refusal.value = null
    seen = null
    isSilent.value = false
    lastAt = bench.now()
    walk.value = before ? startWalk(controls, before) : startWalk(controls, { adds: what === 'draw' })
    bench.start()
    const ends = [bench.onPassed(hear), bench.onTold(told)]
    stopHearing = () => {
      for (const end of ends) end()
    }
    timer = setInterval(tick, TICK_MS)
  }
  // What was heard belongs to the rig that was open: nothing of it is drawn in another.
  watch(() => rigs.id, end, { flush: 'sync' })

  function goTo(index: number): void {
    tell({ kind: 'go', to: index })
    lastAt = bench.now()
  }
  /** Go to a place by its control. */
  function moveTo(id: Id): void {
    const index = walk.value?.steps.findIndex((each) => each.id === id) ?? -1
    if (index >= 0) goTo(index)
  }
  const blockOf = ({ id }: Control): Block | null => wanted.get(id)?.block ?? null
  /** The next control is there, and sends nothing. */
  function addSilent(control: Control): void {
    if (!rigs.rig || !controller.value || !showing.value || !walk.value) return
    const on = { rig: rigs.rig, controller: controller.value, showing: showing.value }
    const edits = addedTo(on, { ...control, silent: true }, blockOf(control), control.gestures)
    if (!pending.edit(drawnLabel(control), edits, { refused: (why) => (refusal.value = why) })) return
    drawn.value = [...drawn.value, control.id]
    goTo(walk.value.next + 1)
  }
  /** The control that was drawn last goes again. */
  function takeBack(): void {
    const last = drawn.value.at(-1)
    if (last === undefined || !model.value) return
    const control = model.value.surface.controls.find(({ id }) => id === last)
    pending.edit(`Take ${control ? controlName(control) : 'a control'} back`, [
      { type: 'controls-remove', model: model.value.id, controls: [last] },
    ])
  }

  return {
    job,
    where,
    controller,
    model,
    showing,
    walk,
    takesKeys,
    known,
    drawn,
    ghosts,
    next,
    isHearing,
    isSilent,
    refusal,
    begin,
    stop,
    goTo,
    moveTo,
    addSilent,
    takeBack,
  }
})
