<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { KIND_FACTS, layOut, placeFor, usualPlan, type BlockPlan, type ControlKind } from '#core/rig'
import { CONTROL_KINDS, countWords, rowsRefusal } from '~/lib/surface/block-form'

const desk = useDeskStore()
const draw = useDrawStore()
const { add } = useDrawing()

const kind = ref<ControlKind>('knob')
const plan = ref<BlockPlan>(usualPlan('knob'))
const side = ref<'right' | 'below'>('below')
const isOpen = ref(true)

watch(kind, (next) => {
  plan.value = { ...usualPlan(next), rows: plan.value.rows, columns: plan.value.columns }
})

const isLength = (value: number): boolean => Number.isFinite(value) && value >= 0 && value <= 1000
const refusal = computed(() => {
  const { rows, columns, size, gap } = plan.value
  const ofRows = rowsRefusal(rows, columns)
  if (ofRows) return ofRows
  if (!isLength(size.w) || !isLength(size.h) || size.w < 1 || size.h < 1) return 'Sizes go from 1 to 1000 mm.'
  return isLength(gap.across) && isLength(gap.down) ? null : 'Gaps go from 0 to 1000 mm.'
})
const made = computed(() =>
  desk.model && refusal.value === null
    ? layOut(desk.model.surface, plan.value, placeFor(desk.model.surface, desk.selected, side.value))
    : null,
)
watch(
  [made, isOpen],
  () => {
    draw.ghost = isOpen.value ? (made.value?.controls ?? []) : []
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  draw.ghost = []
})

const label = computed(() => `Add ${countWords(kind.value, plan.value.rows * plan.value.columns)}`)
function make(): void {
  if (made.value) add(label.value, made.value.controls, made.value.block ? [made.value.block] : [])
}
</script>

<template>
  <details
    :open="isOpen"
    class="border-line border-t pt-3"
    @toggle="isOpen = ($event.target as HTMLDetailsElement).open"
  >
    <summary class="font-bold">Add controls</summary>
    <form
      class="mt-2 grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5"
      data-testid="draw-add"
      @submit.prevent="make"
    >
      <label for="add-kind" class="text-soft text-xs">Kind</label>
      <select id="add-kind" v-model="kind" class="bg-raised border-line h-7 w-44 rounded-md border px-1.5">
        <option v-for="each in CONTROL_KINDS" :key="each" :value="each">{{ KIND_FACTS[each].plural }}</option>
      </select>
      <label for="add-rows" class="text-soft text-xs">Rows, columns</label>
      <span class="flex items-center gap-2">
        <NumberInput id="add-rows" v-model="plan.rows" /><span class="text-soft">×</span>
        <NumberInput v-model="plan.columns" aria-label="Columns" data-testid="add-columns" />
      </span>
      <label for="add-w" class="text-soft text-xs">Size, mm</label>
      <span class="flex items-center gap-2">
        <NumberInput id="add-w" v-model="plan.size.w" :step="0.5" /><span class="text-soft">×</span>
        <NumberInput v-model="plan.size.h" :step="0.5" aria-label="Height in mm" />
      </span>
      <label for="add-gap" class="text-soft text-xs">Gaps, mm</label>
      <span class="flex items-center gap-2">
        <NumberInput id="add-gap" v-model="plan.gap.across" :step="0.5" /><span class="text-soft">×</span>
        <NumberInput v-model="plan.gap.down" :step="0.5" aria-label="Gap downwards in mm" />
      </span>
      <span class="text-soft text-xs">Where</span>
      <span class="flex gap-1.5">
        <ChipToggle :is-on="side === 'right'" @click="side = 'right'">right of the selection</ChipToggle>
        <ChipToggle :is-on="side === 'below'" @click="side = 'below'">below</ChipToggle>
      </span>
      <span />
      <span>
        <UiButton type="submit" look="strong" :disabled="made === null" data-testid="add-controls"
          ><Plus :size="13" />{{ label }}</UiButton
        >
        <p v-if="refusal" class="text-conflict mt-1 text-xs font-medium" role="alert">{{ refusal }}</p>
      </span>
    </form>
  </details>
</template>
