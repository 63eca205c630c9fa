<script setup lang="ts">
import { Copy, Plus, Trash2 } from '@lucide/vue'
import type { Id, Layer, RigEdit, Stack } from '#core/rig'
import { freeId } from '#core/rig'
import { gesturesAmong, gesturesFree } from '~/lib/stacks'

const { stack } = defineProps<{ stack: Stack }>()
const desk = useDeskStore()
const edit = useEdit()
const takeAway = useRemoval()

const at = computed(() => ({ controller: desk.controller?.id ?? '', template: desk.template?.id ?? '' }))
const set = (label: string, change: Extract<RigEdit, { type: 'stack-set' }>['set']): boolean =>
  edit(label, [{ type: 'stack-set', ...at.value, stack: stack.id, set: change }])

const toAdd = computed(() => (desk.template ? gesturesFree(desk.template, desk.selected) : []))
const toTake = computed(() => gesturesAmong(stack.gestures, desk.selected))
const controlsIn = computed(
  () => new Set(stack.gestures.map((gesture) => gesture.slice(0, gesture.indexOf('.')))),
)
const selectMembers = (): void => desk.selectMany([...controlsIn.value])

function addLayer(copy: Layer | null): void {
  const layers = desk.template?.stacks.flatMap((each) => each.layers) ?? []
  const id = freeId('layer', layers)
  const name = copy ? `${copy.name} copy` : `Layer ${stack.layers.length + 1}`
  const layer: Layer = { id, name, colour: null, assignments: copy?.assignments ?? {} }
  if (
    edit(`Add ${name}`, [{ type: 'layer-add', ...at.value, stack: stack.id, layer, at: stack.layers.length }])
  ) {
    desk.chooseLayer(stack.id, id)
  }
}
const powerUp = computed({
  get: (): Id | '' => stack.powerUp ?? '',
  set: (id) => void set('At power-up', { powerUp: id === '' ? null : id }),
})
</script>

<template>
  <section class="border-line border-t pt-3" :data-stack="stack.id">
    <div class="flex items-center gap-1">
      <InlineName
        class="flex-1 text-base font-bold!"
        :value="stack.name"
        label="Name of the stack"
        @change="set(`Name it ${$event}`, { name: $event })"
      />
      <UiButton look="plain" @click="selectMembers">{{ controlsIn.size }} controls</UiButton>
      <UiButton
        look="plain"
        class="px-1.5!"
        label="Dissolve the stack: its power-up layer stays as it is"
        @click="edit(`Dissolve ${stack.name}`, [{ type: 'stack-remove', ...at, stack: stack.id }])"
        ><Trash2 :size="13"
      /></UiButton>
    </div>
    <div class="flex flex-wrap items-center gap-1.5 text-xs">
      <ChipToggle :is-on="stack.mode === 'replace'" @click="set('One layer at a time', { mode: 'replace' })"
        >one layer at a time</ChipToggle
      >
      <ChipToggle :is-on="stack.mode === 'lie-over'" @click="set('Layers lie over', { mode: 'lie-over' })"
        >lie over, unset shows through</ChipToggle
      >
      <UiButton
        v-if="toAdd.length > 0"
        @click="set('Put into the stack', { gestures: [...stack.gestures, ...toAdd] })"
        >Put the selection in</UiButton
      >
      <UiButton
        v-if="toTake.length > 0 && toTake.length < stack.gestures.length"
        @click="
          set('Take out of the stack', {
            gestures: stack.gestures.filter((gesture) => !toTake.includes(gesture)),
          })
        "
        >Take the selection out</UiButton
      >
    </div>
    <ol class="mt-1.5">
      <li v-for="(layer, index) in stack.layers" :key="layer.id" class="flex items-center">
        <input
          type="radio"
          class="accent-ink"
          :name="`layer-${stack.id}`"
          :checked="desk.shown?.layers[stack.id] === layer.id"
          :aria-label="`Show ${layer.name}`"
          @change="desk.chooseLayer(stack.id, layer.id)"
        />
        <input
          type="color"
          class="ml-1.5 size-4 cursor-pointer rounded"
          :value="layer.colour ?? '#8b9089'"
          :aria-label="`Colour of ${layer.name}`"
          @change="
            edit(`Colour of ${layer.name}`, [
              {
                type: 'layer-set',
                ...at,
                layer: layer.id,
                set: { colour: ($event.target as HTMLInputElement).value },
              },
            ])
          "
        />
        <InlineName
          class="flex-1"
          :value="layer.name"
          label="Name of the layer"
          @change="
            edit(`Name it ${$event}`, [{ type: 'layer-set', ...at, layer: layer.id, set: { name: $event } }])
          "
        />
        <MoveButtons
          :index="index"
          :count="stack.layers.length"
          @move="edit('Move a layer', [{ type: 'layer-move', ...at, layer: layer.id, to: $event }])"
        />
        <UiButton look="plain" class="px-1!" :label="`Duplicate ${layer.name}`" @click="addLayer(layer)"
          ><Copy :size="13"
        /></UiButton>
        <UiButton
          look="plain"
          class="px-1!"
          :label="`Delete ${layer.name}`"
          :disabled="stack.layers.length === 1"
          @click="takeAway(`Delete ${layer.name}`, [{ type: 'layer-remove', ...at, layer: layer.id }])"
          ><Trash2 :size="13"
        /></UiButton>
      </li>
    </ol>
    <div class="mt-1 flex items-center gap-2">
      <UiButton data-testid="add-layer" @click="addLayer(null)"><Plus :size="13" />Layer</UiButton>
      <label class="text-soft ml-auto flex items-center gap-1.5 text-xs">
        At power-up
        <select
          v-model="powerUp"
          class="bg-raised border-line text-ink h-7 max-w-36 rounded-md border px-1.5"
        >
          <option value="">none shows</option>
          <option v-for="layer in stack.layers" :key="layer.id" :value="layer.id">{{ layer.name }}</option>
        </select>
      </label>
    </div>
    <CopyLayerForm v-if="stack.layers.length > 1" :stack="stack" class="mt-2" />
    <StackChoices :stack="stack" class="mt-2" />
  </section>
</template>
