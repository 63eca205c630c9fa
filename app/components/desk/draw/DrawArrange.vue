<script setup lang="ts">
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceBetween,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceBetween,
} from '@lucide/vue'
import { align, distribute, type Axis, type Edge } from '#core/rig'

const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const { place, set } = useDrawing()

const EDGES = [
  { edge: 'left', icon: AlignStartVertical, name: 'Left edges on one line' },
  { edge: 'centre', icon: AlignCenterVertical, name: 'Middles on one upright line' },
  { edge: 'right', icon: AlignEndVertical, name: 'Right edges on one line' },
  { edge: 'top', icon: AlignStartHorizontal, name: 'Tops on one line' },
  { edge: 'middle', icon: AlignCenterHorizontal, name: 'Middles on one level line' },
  { edge: 'bottom', icon: AlignEndHorizontal, name: 'Bottoms on one line' },
] as const satisfies ReadonlyArray<{ edge: Edge; icon: unknown; name: string }>
const AXES = [
  { axis: 'across', icon: AlignHorizontalSpaceBetween, name: 'Equal gaps across' },
  { axis: 'down', icon: AlignVerticalSpaceBetween, name: 'Equal gaps down' },
] as const satisfies ReadonlyArray<{ axis: Axis; icon: unknown; name: string }>

const isMany = computed(() => desk.selected.length > 1)
const block = computed(() => {
  const [first] = desk.selected
  return first && desk.selected.every((control) => control.block === first.block) ? first.block : null
})

/** The four numbers of one control's place. */
const FIELDS = [
  { key: 'x', name: 'Left' },
  { key: 'y', name: 'Top' },
  { key: 'w', name: 'Width' },
  { key: 'h', name: 'Height' },
] as const
function setPlace(key: (typeof FIELDS)[number]['key'], value: number): void {
  if (Number.isFinite(value)) set('Place', ({ place: now }) => ({ place: { ...now, [key]: value } }))
}

function makeBlock(): void {
  const { model } = desk
  if (!model || !rigs.rig) return
  const taken = new Set(model.surface.blocks.map(({ id }) => id))
  let number = 1
  while (taken.has(`block-${number}`)) number++
  edit('Make a block', [
    {
      type: 'block-add',
      model: model.id,
      block: {
        id: `block-${number}`,
        label: `Block ${number}`,
        rows: 1,
        columns: Math.min(128, desk.selected.length),
      },
      controls: [...desk.selectedIds],
    },
  ])
}
function breakBlock(): void {
  if (desk.model && block.value !== null)
    edit('Break the block up', [{ type: 'block-break', model: desk.model.id, block: block.value }])
}
</script>

<template>
  <div>
    <div v-if="isMany" class="flex flex-wrap gap-1">
      <UiButton
        v-for="{ edge, icon, name } in EDGES"
        :key="edge"
        class="px-1.5!"
        :label="name"
        @click="place(name, align(desk.selected, edge))"
      >
        <component :is="icon" :size="15" />
      </UiButton>
      <UiButton
        v-for="{ axis, icon, name } in AXES"
        :key="axis"
        class="px-1.5!"
        :label="name"
        @click="place(name, distribute(desk.selected, axis))"
      >
        <component :is="icon" :size="15" />
      </UiButton>
    </div>
    <div v-else class="grid grid-cols-4 gap-1.5">
      <label v-for="field in FIELDS" :key="field.key" class="text-soft text-xs">
        {{ field.name }}
        <input
          type="number"
          step="0.5"
          class="bg-raised border-line tag text-ink mt-0.5 h-7 w-full rounded-md border px-1.5"
          :value="desk.selected[0]?.place[field.key]"
          @change="setPlace(field.key, Number(($event.target as HTMLInputElement).value))"
        />
      </label>
    </div>
    <div class="mt-2 flex gap-1.5">
      <UiButton v-if="isMany" @click="makeBlock">Make a block</UiButton>
      <UiButton
        v-if="block !== null && !isMany"
        @click="set('Take out of its block', () => ({ block: null }))"
        >Take out of its block</UiButton
      >
      <UiButton v-if="block !== null" @click="breakBlock">Break the block up</UiButton>
    </div>
  </div>
</template>
