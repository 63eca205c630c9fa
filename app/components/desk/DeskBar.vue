<script setup lang="ts">
import { Layers, PencilRuler, Plus, SlidersHorizontal, Table2 } from '@lucide/vue'
import type { Stack } from '#core/rig'
import { kept } from '~/lib/kept'

const desk = useDeskStore()
const preferences = usePreferencesStore()
const NONE = ''
const adding = useAddingStore()
const TOOLS = [
  { panel: 'draw', name: 'Draw the surface', icon: PencilRuler },
  { panel: 'templates', name: 'Templates, stacks and layers', icon: Layers },
  { panel: 'controller', name: 'The controller itself', icon: SlidersHorizontal },
] as const

interface Option {
  value: string
  label: string
  hint?: string
}
// Every edit of an assignment makes new stacks; the pickers change only with what they offer.
const templateOptions = computed<Option[]>((before) => {
  const slots = desk.controller?.slots ?? []
  const options = (desk.controller?.templates ?? []).map(({ id, name }): Option => {
    const slot = slots.find(({ template }) => template === id)
    return { value: id, label: name, ...(slot ? { hint: `slot ${slot.number}` } : {}) }
  })
  return kept(before, options)
})
const template = computed({
  get: () => desk.template?.id ?? NONE,
  set: (id) => desk.chooseTemplate(id),
})
const layerOptions = ({ layers, powerUp }: Stack): Option[] => [
  ...layers.map(({ id, name }) => ({
    value: id,
    label: name,
    ...(id === powerUp ? { hint: 'at power-up' } : {}),
  })),
  ...(powerUp === null ? [{ value: NONE, label: 'none shown', hint: 'at power-up' }] : []),
]
const stacks = computed<Array<{ id: string; name: string; options: Option[] }>>((before) =>
  (desk.template?.stacks ?? []).map((stack, index) =>
    kept(before?.[index], { id: stack.id, name: stack.name, options: layerOptions(stack) }),
  ),
)
const shownLayer = (stack: string): string => desk.shown?.layers[stack] ?? NONE
</script>

<template>
  <div class="border-line flex min-h-12 shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-b px-4 py-1.5">
    <ControllerTabs
      :controllers="desk.controllers"
      :shown="desk.controller"
      @choose="desk.chooseController($event)"
    />
    <UiButton
      look="plain"
      class="px-1.5!"
      label="Add a controller"
      data-testid="add-controller"
      @click="adding.what = 'controller'"
      ><Plus :size="15"
    /></UiButton>
    <span class="bg-line mx-1 h-6 w-px" />
    <UiSelect v-model="template" label="Template" caption="Template" :options="templateOptions" />
    <UiSelect
      v-for="stack in stacks"
      :key="stack.id"
      :label="`Layer of ${stack.name}`"
      :caption="stack.name"
      :model-value="shownLayer(stack.id)"
      :options="stack.options"
      @update:model-value="desk.chooseLayer(stack.id, $event || null)"
    />
    <div class="ml-auto flex gap-0.5" role="group" aria-label="Change this controller">
      <UiButton
        :look="preferences.upperView === 'ledger' ? 'strong' : 'plain'"
        class="px-2!"
        label="The assignments as a table"
        :aria-pressed="preferences.upperView === 'ledger'"
        data-tool="ledger"
        @click="preferences.upperView = preferences.upperView === 'ledger' ? 'surface' : 'ledger'"
        ><Table2 :size="15"
      /></UiButton>
      <UiButton
        v-for="tool in TOOLS"
        :key="tool.panel"
        :look="desk.panel === tool.panel ? 'strong' : 'plain'"
        class="px-2!"
        :label="tool.name"
        :aria-pressed="desk.panel === tool.panel"
        :data-tool="tool.panel"
        @click="desk.panel = desk.panel === tool.panel ? 'selection' : tool.panel"
        ><component :is="tool.icon" :size="15"
      /></UiButton>
    </div>
  </div>
</template>
