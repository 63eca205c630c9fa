import { defineStore } from 'pinia'
import {
  answer,
  ANSWER_MS,
  compareTemplates,
  fetchSlot,
  heard,
  storeSlot,
  templateMark,
  waited,
  type Hardware,
  type HardwareTrouble,
  type Next,
  type Outcome,
} from '#core/bench/slots'
import { modelOf, type Controller, type Id, type Slot, type Template } from '#core/rig'
import { useBenchStore } from './bench'
import { usePendingEditStore } from './pending-edit'
import { useRigStore } from './rig'

/** What was found in a slot when it was fetched; the template null where it is empty. */
export interface Fetched {
  template: Template | null
}

/** What is under way: which slot, what is done, and how far it is. */
export interface UnderWay {
  slot: number
  what: 'fetch' | 'store'
  through: number
  count: number | null
}

/** So many kept templates a slot has. */
const MOST_KEPT = 8

/** The memory slots of the controller on the Bench: fetched and stored over the exchange that simulated hardware speaks. */
export const useSlotsStore = defineStore('slots', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const pending = usePendingEditStore()
  /** The simulated hardware, as long as the rig is open. */
  const memories = shallowRef<Readonly<Record<Id, Hardware>>>({})
  const fetched = shallowRef<Readonly<Record<string, Fetched>>>({})
  const underWay = shallowRef<UnderWay | null>(null)
  const failure = ref<{ slot: number; why: string } | null>(null)
  let run = 0

  const controller = computed(() => bench.controller)
  const count = computed(() =>
    rigs.rig && controller.value ? modelOf(rigs.rig, controller.value).abilities.slots : 0,
  )
  const key = (id: Id, slot: number): string => `${id} ${slot}`
  const slotOf = ({ slots }: Controller, number: number): Slot | undefined =>
    slots.find((each) => each.number === number)

  /** The hardware as it stands on the table: what the rig says that it holds, and as delivered where it says nothing. */
  function hardwareOf(owner: Controller): Hardware {
    const known = memories.value[owner.id]
    if (known) return known
    const [first] = owner.templates
    const delivered: Template = {
      id: 'delivered',
      name: 'As delivered',
      base: { ...first?.base },
      stacks: [],
    }
    const held = Array.from({ length: count.value }, (_, index): [number, Template] => {
      const id = slotOf(owner, index + 1)?.template
      return [index + 1, owner.templates.find((each) => each.id === id) ?? delivered]
    })
    return {
      device: owner.deviceNumber,
      model: owner.model,
      slots: count.value,
      held: Object.fromEntries(held),
      incoming: null,
      does: new Set(),
    }
  }
  const setHardware = (id: Id, next: Hardware): void => {
    memories.value = { ...memories.value, [id]: next }
  }
  function trouble(what: HardwareTrouble, isOn: boolean): void {
    if (!controller.value) return
    const now = hardwareOf(controller.value)
    const does = new Set(now.does)
    if (isOn) does.add(what)
    else does.delete(what)
    setHardware(controller.value.id, { ...now, does })
  }

  const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

  /** Let a transfer run to its end, message by message. Null where it was stopped. */
  async function carryOut(owner: Controller, first: Next, own: number): Promise<Outcome | null> {
    let next = first
    for (;;) {
      const { transfer } = next
      if (run !== own) return null
      underWay.value = {
        slot: transfer.slot,
        what: transfer.what,
        through: transfer.through,
        count: transfer.count,
      }
      if (next.outcome) return next.outcome
      let replies: ReadonlyArray<readonly number[]> = []
      if (next.send) {
        const answered = answer(hardwareOf(owner), next.send)
        setHardware(owner.id, answered.hardware)
        ;({ replies } = answered)
      }
      next = { transfer, send: null, outcome: null }
      for (const reply of replies) {
        next = heard(next.transfer, reply, performance.now())
        if (next.send || next.outcome) break
      }
      if (next.send || next.outcome) {
        // The page stays at hand between messages.
        if (next.transfer.through % MESSAGES_AT_ONCE === 0) await pause(0)
        continue
      }
      await pause(ANSWER_MS)
      next = waited(next.transfer, performance.now())
    }
  }

  async function fetchOne(owner: Controller, slot: number, own: number): Promise<boolean> {
    const outcome = await carryOut(
      owner,
      fetchSlot(owner.deviceNumber, owner.model, slot, performance.now()),
      own,
    )
    if (!outcome) return false
    if (outcome.kind === 'fetched') {
      fetched.value = { ...fetched.value, [key(owner.id, slot)]: { template: outcome.template } }
      return true
    }
    if (outcome.kind === 'failed') failure.value = { slot, why: outcome.why }
    return false
  }

  /** Do something with several slots, one after the other; a failure ends it. */
  async function each(
    slots: readonly number[],
    does: (owner: Controller, slot: number, own: number) => Promise<boolean>,
  ): Promise<void> {
    const owner = controller.value
    if (!owner || underWay.value) return
    const own = ++run
    failure.value = null
    try {
      for (const slot of slots) if (run !== own || !(await does(owner, slot, own))) break
    } finally {
      if (run === own) underWay.value = null
    }
  }
  const fetch = (slots: readonly number[]): Promise<void> => each(slots, fetchOne)

  /** What a slot is to hold by the rig; null where that is left open. */
  const wanted = (owner: Controller, slot: number): Template | null =>
    owner.templates.find(({ id }) => id === slotOf(owner, slot)?.template) ?? null

  /** Store templates in slots; what is there is fetched first, and kept in the rig. */
  const store = (all: ReadonlyArray<{ slot: number; template: Template }>): Promise<void> =>
    each(
      all.map(({ slot }) => slot),
      async (owner, slot, own) => {
        const template = all.find((one) => one.slot === slot)?.template
        if (!template || !(await fetchOne(owner, slot, own))) return false
        const was = fetched.value[key(owner.id, slot)]?.template ?? null
        if (was && templateMark(was) !== templateMark(template) && !keep(owner.id, slot, was)) return false
        const outcome = await carryOut(
          owner,
          storeSlot(owner.deviceNumber, owner.model, slot, template, performance.now()),
          own,
        )
        if (outcome?.kind !== 'stored') {
          if (outcome?.kind === 'failed')
            failure.value = {
              slot,
              why: outcome.isUntouched
                ? `${outcome.why} What was in the slot is still there.`
                : `${outcome.why} The slot may hold the old or the new one: fetch it to see. The old one is kept here.`,
            }
          return false
        }
        fetched.value = { ...fetched.value, [key(owner.id, slot)]: { template } }
        const known = owner.templates.find(({ id }) => id === template.id)
        return pending.edit(`Stored “${template.name}” in slot ${slot} of ${owner.name}`, [
          {
            type: 'slot-set',
            controller: owner.id,
            number: slot,
            set: {
              ...(known ? { template: known.id } : {}),
              storedAt: new Date().toISOString(),
              mark: templateMark(template),
            },
          },
        ])
      },
    )
  /** Keep what was in a slot, unless it is kept already. */
  function keep(id: Id, number: number, template: Template): boolean {
    const owner = rigs.rig?.controllers.find((one) => one.id === id)
    const kept = (owner && slotOf(owner, number)?.kept) ?? []
    const mark = templateMark(template)
    if (owner?.templates.some((one) => templateMark(one) === mark)) return true
    if (kept.some((one) => templateMark(one.template) === mark)) return true
    return pending.edit(`Kept what was in slot ${number} of ${owner?.name ?? ''}`, [
      {
        type: 'slot-set',
        controller: id,
        number,
        set: { kept: [{ at: new Date().toISOString(), template }, ...kept].slice(0, MOST_KEPT) },
      },
    ])
  }
  function stop(): void {
    run++
    underWay.value = null
  }

  watch(
    () => rigs.id,
    () => {
      stop()
      memories.value = {}
      fetched.value = {}
      failure.value = null
    },
  )
  watch(
    () => controller.value?.id,
    () => {
      stop()
      failure.value = null
    },
  )

  /** What was fetched from a slot of the controller that is shown; undefined while nothing was. */
  const fetchedIn = (slot: number): Fetched | undefined =>
    controller.value ? fetched.value[key(controller.value.id, slot)] : undefined
  function differences(slot: number, will: Template | null) {
    const found = fetchedIn(slot)
    return rigs.rig && controller.value && found
      ? compareTemplates(modelOf(rigs.rig, controller.value), found.template, will)
      : null
  }
  const troubles = computed(() =>
    controller.value ? hardwareOf(controller.value).does : new Set<HardwareTrouble>(),
  )

  return {
    controller,
    count,
    underWay,
    failure,
    troubles,
    fetchedIn,
    differences,
    wanted,
    slotOf,
    fetch,
    store,
    stop,
    trouble,
  }
})

/** So many messages go through before the page is let in between. */
const MESSAGES_AT_ONCE = 16
