import { proxy, wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import type { AllocateRequest, ChannelPolicy, Plan, Progress } from '#core/allocate'
import type { Id } from '#core/rig'
import type { Allocation, CauseLine, ToldPlan } from '~/workers/allocation'
import { useDeskStore } from './desk'
import { useRigStore } from './rig'

export type PlanKind = AllocateRequest['kind']
export type PlanScope = 'rig' | 'controller' | 'selection'

/** Search steps of a plan that was stopped: what is found at once, with how good it is known to be. */
const STOPPED_STEPS = 0
const STEPS = 400_000

/** A plan for the open rig: what is asked for, and what is proposed. Nothing is changed until it is made. */
export const usePlanStore = defineStore('plan', () => {
  const rigs = useRigStore()
  const desk = useDeskStore()

  const isOpen = ref(false)
  const kind = ref<PlanKind>('repair')
  const scope = ref<PlanScope>('rig')
  const policy = ref<ChannelPolicy['kind']>('keep-if-room')
  const channels = ref<number[]>([])
  const shareLayers = ref(false)
  /** To move away from: controller numbers or notes, on one channel or on all (null); or all of a channel. */
  const away = ref<{ message: 'cc' | 'note' | 'all'; channel: number | null; low: number; high: number }>({
    message: 'cc',
    channel: null,
    low: 0,
    high: 13,
  })
  const roomFor = ref<Id | null>(null)
  /** Whom the controller shown on the Desk stands in for. */
  const missing = ref<Id | null>(null)
  const struck = ref<string[]>([])

  const plan = shallowRef<Plan | null>(null)
  /** What it cures and what it leaves, by cause. */
  const cures = shallowRef<readonly CauseLine[]>([])
  const leaves = shallowRef<readonly CauseLine[]>([])
  /** The revision of the rig that the plan was made for. */
  const plannedFor = ref(-1)
  const progress = shallowRef<Progress | null>(null)
  const isBusy = ref(false)
  /** Is the plan the one that was found at once, and a better one looked for? */
  const isFirst = ref(false)
  const failure = ref<string | null>(null)

  let worker: Worker | null = null
  let planner: Remote<Allocation> | null = null
  let asked = 0

  function quit(): void {
    worker?.terminate()
    worker = null
    planner = null
  }

  const connect = (): Remote<Allocation> => {
    if (!planner) {
      worker = new Worker(new URL('../workers/allocation.worker.ts', import.meta.url), { type: 'module' })
      worker.onerror = (event) => {
        failure.value = event.message || 'The planner could not start. Reload the page and try again.'
        isBusy.value = false
        quit()
      }
      planner = wrap<Allocation>(worker)
    }
    return planner
  }

  /** The first controller that is put away, other than the one on the Desk. */
  const absent = computed(
    () => rigs.rig?.controllers.find(({ id, inUse }) => !inUse && id !== desk.controller?.id)?.id ?? null,
  )

  const policyAsked = (): ChannelPolicy =>
    policy.value === 'among'
      ? { kind: 'among', channels: channels.value.length > 0 ? [...channels.value] : [1] }
      : { kind: policy.value }

  const awayAsked = () =>
    away.value.message === 'all' ? { ...away.value, low: 0, high: 127 } : { ...away.value }

  function request(steps: number): AllocateRequest {
    const owner = desk.controller?.id
    const options = {
      controllers: scope.value === 'controller' && owner ? [owner] : [],
      gestures: scope.value === 'selection' ? [...desk.selectedRefs] : [],
      policy: policyAsked(),
      rules: [],
      shareLayers: shareLayers.value,
      struck: [...struck.value],
      steps,
    }
    switch (kind.value) {
      case 'avoid':
        return { kind: 'avoid', ...options, away: [awayAsked()] }
      case 'make-room':
        return { kind: 'make-room', ...options, controller: roomFor.value ?? owner ?? '' }
      case 'stand-in':
        return {
          kind: 'stand-in',
          ...options,
          controller: owner ?? '',
          for: missing.value ?? absent.value ?? '',
        }
      default:
        return { kind: kind.value, ...options }
    }
  }

  async function run(steps = STEPS): Promise<void> {
    const { rig, revision } = rigs
    if (!rig) return
    const mine = ++asked
    if (isBusy.value) quit()
    isBusy.value = true
    progress.value = null
    failure.value = null
    isFirst.value = false
    try {
      const show = (found: ToldPlan, isBetterSought: boolean): void => {
        plan.value = found.plan
        cures.value = found.cures
        leaves.value = found.leaves
        plannedFor.value = revision
        isFirst.value = isBetterSought
      }
      const listener = proxy({
        progress: (now: Progress) => {
          if (mine === asked) progress.value = now
        },
        first: (found: ToldPlan) => {
          if (mine === asked) show(found, true)
        },
      })
      const result = await connect().plan(rig, request(steps), listener)
      if (mine !== asked) return
      if (result.ok) show(result, false)
      else {
        plan.value = null
        failure.value = result.message
      }
    } catch (error) {
      if (mine === asked) failure.value = error instanceof Error ? error.message : String(error)
    }
    if (mine === asked) isBusy.value = false
  }

  /** Leave it at what is found so far. */
  function stop(): void {
    if (!isFirst.value) return void run(STOPPED_STEPS)
    asked++
    isFirst.value = false
    isBusy.value = false
    quit()
  }

  /** Keep one line of the plan from being made, or let it be made again; the rest is planned anew. */
  function strike(key: string): void {
    struck.value = struck.value.includes(key)
      ? struck.value.filter((other) => other !== key)
      : [...struck.value, key]
    void run()
  }

  function open(what?: PlanKind): void {
    if (what) kind.value = what
    isOpen.value = true
    struck.value = []
    void run()
  }

  function close(): void {
    asked++
    isOpen.value = false
    isBusy.value = false
    plan.value = null
    failure.value = null
    quit()
  }

  watch([kind, scope, policy, channels, shareLayers, away, roomFor, missing], () => {
    struck.value = []
    plan.value = null
    if (isOpen.value) void run()
  })
  watch(() => rigs.id, close)

  /** Does the plan speak of the rig as it is now? */
  const isCurrent = computed(() => plan.value !== null && plannedFor.value === rigs.revision)

  return {
    isOpen,
    kind,
    scope,
    policy,
    channels,
    shareLayers,
    away,
    roomFor,
    missing,
    absent,
    struck,
    plan,
    cures,
    leaves,
    progress,
    isBusy,
    isFirst,
    failure,
    isCurrent,
    run,
    stop,
    strike,
    open,
    close,
  }
})
