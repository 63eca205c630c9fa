import { defineStore } from 'pinia'
import {
  readRecipe,
  recipeIn,
  rowsOf,
  syxMessages,
  templateEdits,
  withRows,
  writeRecipe,
  writeRequest,
  type RecipeRow,
  type Where,
  type Written,
} from '#core/bench/recipes'
import { modelOf, type Controller, type Id, type Recipe, type Template } from '#core/rig'
import { readFailure } from '~/lib/read-failure'
import { useBenchStore } from './bench'
import { usePortsStore } from './ports'
import { useRigStore } from './rig'

/** What a recipe made of a file. */
export interface ReadFile {
  name: string
  where: Partial<Where>
  rows: ReadonlyArray<Partial<RecipeRow>>
  messages: number
}

/** Hardware answers within so long, and has said all when nothing more came for so long, in ms. */
const ANSWER_MS = 4000
const QUIET_MS = 700
const LOOK_MS = 50
const SYSEX = 0xf0

/** Recipes of the open rig: how real hardware takes its template. */
export const useRecipesStore = defineStore('recipes', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const ports = usePortsStore()
  const chosenId = ref<Id | null>(null)
  const slot = ref(1)
  const file = shallowRef<ReadFile | null>(null)
  const failure = ref<string | null>(null)
  const isSending = ref(false)
  const isFetching = ref(false)

  /** Those of the controller that is shown, and those of any. */
  const recipes = computed(() =>
    (rigs.rig?.recipes ?? []).filter(({ model }) => model === null || model === bench.controller?.model),
  )
  const chosen = computed(
    () => recipes.value.find(({ id }) => id === chosenId.value) ?? recipes.value[0] ?? null,
  )
  const controller = computed<Controller | null>(() => bench.controller)
  const template = computed<Template | null>(
    () =>
      controller.value?.templates.find(({ id }) => id === bench.own?.showing.template) ??
      controller.value?.templates[0] ??
      null,
  )
  function written(recipe: Recipe): Written {
    const { rig } = rigs
    const own = recipeIn(recipe)
    if (!own.ok) return { ok: false, why: own.problems.join(' ') }
    if (!rig || !controller.value || !template.value)
      return { ok: false, why: 'There is no template to write.' }
    const rows = rowsOf(modelOf(rig, controller.value), controller.value, template.value, rig.lightRoles)
    const sent = rows.filter(({ kind }) => kind !== 'off')
    return writeRecipe(own.recipe, sent, { slot: slot.value, device: controller.value.deviceNumber })
  }

  /** Read a .syx file by the recipe that is chosen. */
  async function read(incoming: File): Promise<void> {
    file.value = null
    failure.value = null
    if (!chosen.value) return
    try {
      const split = syxMessages(new Uint8Array(await incoming.arrayBuffer()))
      if (!split.ok) {
        failure.value = `“${incoming.name}”, byte ${split.byte}: ${split.message}`
        return
      }
      readMessages(chosen.value, incoming.name, split.messages)
    } catch (error) {
      failure.value = readFailure(error)
    }
  }
  /** What a recipe makes of messages that are called so. */
  function readMessages(recipe: Recipe, name: string, messages: ReadonlyArray<readonly number[]>): void {
    const own = recipeIn(recipe)
    if (!own.ok) {
      failure.value = own.problems.join(' ')
      return
    }
    const found = readRecipe(own.recipe, messages)
    if (found.ok) file.value = { name, where: found.where, rows: found.rows, messages: messages.length }
    else failure.value = `“${name}”, message ${found.message}, byte ${found.byte}: ${found.why}`
  }
  /** The edits that write what was read into the template that is shown. */
  function edits() {
    const { rig } = rigs
    if (!rig || !controller.value || !template.value || !file.value) return []
    const after = withRows(modelOf(rig, controller.value), controller.value, template.value, file.value.rows)
    return templateEdits(controller.value, template.value, after)
  }

  /** The port of the rig by which the real hardware hears; null where it is simulated. */
  const outlet = computed(
    () =>
      ports.rigPorts.find(
        (port) =>
          port.ref.owner === controller.value?.id &&
          port.work === 'lights' &&
          ports.stands(port.key)?.isThere,
      ) ?? null,
  )
  const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))
  /** Send the template to the real hardware, message by message, with the pause that it wants. */
  async function send(recipe: Recipe): Promise<void> {
    const out = outlet.value
    const made = written(recipe)
    if (!out || !made.ok || isSending.value) return
    isSending.value = true
    try {
      for (const bytes of made.messages) {
        ports.send(out.key, bytes)
        await pause(recipe.waitMs)
      }
    } finally {
      isSending.value = false
    }
  }

  /** Ask the real hardware for the template in the slot, and read what it answers. */
  async function fetchBack(recipe: Recipe): Promise<void> {
    const out = outlet.value
    const own = controller.value
    if (!out || !own || isFetching.value) return
    file.value = null
    const request = writeRequest(recipe.request, { slot: slot.value, device: own.deviceNumber })
    failure.value = request.ok ? null : request.why
    if (!request.ok) return
    isFetching.value = true
    bench.start()
    const came: number[][] = []
    const began = performance.now()
    let last = began
    const stop = bench.onPassed((passed) => {
      for (const { controller: from, bytes } of passed) {
        if (from !== own.id || bytes[0] !== SYSEX) continue
        came.push([...bytes])
        last = performance.now()
      }
    })
    const isWaiting = (): boolean =>
      came.length === 0 ? performance.now() - began < ANSWER_MS : performance.now() - last < QUIET_MS
    try {
      for (const bytes of request.messages) ports.send(out.key, bytes)
      while (isWaiting()) await pause(LOOK_MS)
    } finally {
      stop()
      isFetching.value = false
    }
    if (controller.value?.id !== own.id) return
    if (came.length > 0) readMessages(recipe, `What ${own.name} sent`, came)
    else
      failure.value = `${own.name} did not answer within ${ANSWER_MS / 1000} s. Look under Ports whether its out is chosen and SysEx is allowed, and whether the hardware has to be told first that it may send.`
  }

  watch([() => rigs.id, () => controller.value?.id, chosen], () => {
    file.value = null
    failure.value = null
  })
  return {
    recipes,
    chosen,
    chosenId,
    controller,
    template,
    slot,
    file,
    failure,
    isSending,
    isFetching,
    outlet,
    written,
    read,
    edits,
    send,
    fetchBack,
  }
})
