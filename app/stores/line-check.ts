import { wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import { outgoing, type Passing } from '#core/bench'
import { disturbed, UNDISTURBED, type Disturbance, type LineReport } from '#core/bench/line-check'
import {
  portKey,
  powerUpShowing,
  showingIn,
  type GestureKey,
  type Id,
  type Rig,
  type Showing,
} from '#core/rig'
import type { Came, LineChecker } from '~/workers/line-check'
import { useBenchStore } from './bench'
import { usePortsStore } from './ports'
import { useRigStore } from './rig'

/** Checking before a show that what stands on the table is what is written: one controller at a time. */
export const useLineCheckStore = defineStore('line-check', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const ports = usePortsStore()
  const controllerId = ref<Id | null>(null)
  const report = shallowRef<LineReport | null>(null)
  const failure = ref<string | null>(null)
  /** The passage that everything is to show; null for what shows at power-up. */
  const passageId = ref<Id | null>(null)
  /** The cable that it is heard behind, whose rules are expected to have been at work; null where it is heard at its port. */
  const behindId = ref<Id | null>(null)
  /** How simulated hardware stands, to try the check on: by controller. */
  const disturbances = ref<Readonly<Record<Id, Disturbance>>>({})
  let worker: Worker | null = null
  let checker: Remote<LineChecker> | null = null
  let waiting: Came[] = []
  let isAsking = false
  let stopHearing: () => void = () => undefined

  const isOn = computed(() => controllerId.value !== null)
  const states = computed(() => new Map(report.value?.lines.map((line) => [line.gesture, line.state])))

  /** What every controller is to show while it is checked. */
  function showings(): Record<Id, Showing> {
    const passage = rigs.rig?.passages.find(({ id }) => id === passageId.value)
    return Object.fromEntries(
      (rigs.rig?.controllers ?? []).map((each) => {
        const atPowerUp = powerUpShowing(each)
        return [each.id, passage ? showingIn(passage, each, atPowerUp) : atPowerUp]
      }),
    )
  }

  function stop(): void {
    stopHearing()
    stopHearing = () => undefined
    worker?.terminate()
    worker = null
    checker = null
    waiting = []
    isAsking = false
    controllerId.value = null
  }

  async function start(id: Id): Promise<void> {
    const { rig } = rigs
    if (!rig) return
    stop()
    failure.value = null
    report.value = null
    const own = new Worker(new URL('../workers/line-check.worker.ts', import.meta.url), { type: 'module' })
    own.onerror = (event) => {
      failure.value = event.message || 'The line check could not start. Reload the page.'
      stop()
    }
    worker = own
    checker = wrap<LineChecker>(own)
    controllerId.value = id
    bench.start()
    stopHearing = bench.onPassed(hear)
    const first = await checker.begin({
      rig: toRaw(rig),
      controller: id,
      showings: showings(),
      behind: behindId.value,
    })
    if (worker === own) report.value = first
  }

  /** What a message is as it comes in: real hardware's as it is, simulated one's as its cable or its state makes it. */
  function cameOf(rig: Rig, passing: Passing): ReadonlyArray<{ controller: Id; bytes: readonly number[] }> {
    const { controller, bytes, place } = passing
    if (ports.realControllers.has(controller) || place === null) return [{ controller, bytes }]
    const cable = rig.cables.find(({ id }) => id === behindId.value)
    return cable
      ? outgoing(rig, passing, new Set([portKey(cable.to)])).map((out) => ({ controller, bytes: out.bytes }))
      : [disturbed(rig, passing, disturbances.value[controller] ?? UNDISTURBED)]
  }
  function hear(passed: readonly Passing[]): void {
    const { rig } = rigs
    if (!rig) return
    for (const passing of passed) {
      for (const { controller, bytes } of cameOf(rig, passing))
        if (controller === controllerId.value) waiting.push({ bytes, at: passing.at })
    }
    void tell()
  }
  /** One question at a time: what comes meanwhile goes with the next. */
  async function tell(): Promise<void> {
    if (isAsking || waiting.length === 0 || !checker) return
    const own = worker
    isAsking = true
    try {
      while (waiting.length > 0 && worker === own) {
        const came = waiting
        waiting = []
        const next = await checker.hear(came)
        if (worker === own && next) report.value = next
      }
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
    } finally {
      if (worker === own) isAsking = false
    }
  }
  async function blame(key: string, gesture: GestureKey | null): Promise<void> {
    const next = await checker?.blame(key, gesture)
    if (next) report.value = next
  }

  /** The player says what the hardware no longer has, or that it has it after all. */
  async function miss(gestures: readonly GestureKey[], isGone: boolean): Promise<void> {
    const next = await checker?.miss(gestures, isGone)
    if (next) report.value = next
  }

  const disturbanceOf = (id: Id): Disturbance => disturbances.value[id] ?? UNDISTURBED
  function disturb(id: Id, change: Partial<Disturbance>): void {
    disturbances.value = { ...disturbances.value, [id]: { ...disturbanceOf(id), ...change } }
  }
  /** Two controllers are in one another's ports; null puts both back. */
  function swapPorts(id: Id, other: Id | null): void {
    const before = disturbanceOf(id).port
    if (before !== null) disturb(before, { port: null })
    disturb(id, { port: other })
    if (other !== null) disturb(other, { port: id })
  }

  // A check is of the rig as it was when it began.
  watch(
    () => rigs.id,
    () => {
      stop()
      report.value = null
      disturbances.value = {}
      behindId.value = null
    },
  )

  return {
    controllerId,
    report,
    failure,
    passageId,
    behindId,
    isOn,
    states,
    start,
    stop,
    blame,
    miss,
    showings,
    disturbanceOf,
    disturb,
    swapPorts,
  }
})
