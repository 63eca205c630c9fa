import { defineStore } from 'pinia'
import {
  readRecipe,
  recipeIn,
  rowsOf,
  syxMessages,
  templateEdits,
  withRows,
  writeRecipe,
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

  const recipes = computed(() => rigs.rig?.recipes ?? [])
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
      const own = recipeIn(chosen.value)
      if (!own.ok) {
        failure.value = own.problems.join(' ')
        return
      }
      const found = readRecipe(own.recipe, split.messages)
      if (found.ok)
        file.value = {
          name: incoming.name,
          where: found.where,
          rows: found.rows,
          messages: split.messages.length,
        }
      else failure.value = `“${incoming.name}”, message ${found.message}, byte ${found.byte}: ${found.why}`
    } catch (error) {
      failure.value = readFailure(error)
    }
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
    outlet,
    written,
    read,
    edits,
    send,
  }
})
