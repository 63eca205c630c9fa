<script setup lang="ts">
import { ChevronRight, X } from '@lucide/vue'
import { mappingParameter } from '#core/mappings'
import type { Mapping } from '#core/rig'
import { mappingRow } from '~/lib/mapping/row'

const { mapping } = defineProps<{ mapping: Mapping }>()
const rigs = useRigStore()
const desk = useDeskStore()
const edit = useEdit()

const target = computed(() => (rigs.rig ? mappingParameter(rigs.rig, mapping) : null))
const row = computed(() =>
  rigs.rig ? mappingRow(rigs.rig, mapping, desk.gesture ? desk.placeOf(desk.gesture) : null) : null,
)
const name = computed(() => row.value?.name ?? '')
const isOpen = ref(false)
const remove = (): boolean =>
  edit(`Part from ${name.value}`, [{ type: 'mapping-remove', mapping: mapping.id }])
</script>

<template>
  <li
    class="bg-raised border-line flex flex-wrap items-start gap-2 rounded-md border px-2.5 py-1.5"
    data-testid="mapping"
  >
    <div class="min-w-0 flex-1">
      <div class="font-medium">{{ name }}</div>
      <div v-if="row" class="text-soft text-xs">
        {{ row.manner }};
        <span :class="row.isTrouble && 'text-advice font-medium'"
          >{{ row.state }} <span v-if="row.listensAt" class="tag">{{ row.listensAt }}</span></span
        >
      </div>
      <div v-if="row?.offer" class="mt-1.5 mb-0.5">
        <UiButton @click="edit(row.offer.about, [row.offer.edit])">{{ row.offer.label }}</UiButton>
      </div>
    </div>
    <UiButton
      look="plain"
      :label="`Range, curve and manner of ${name}`"
      :aria-expanded="isOpen"
      class="-mr-2 px-1!"
      data-testid="mapping-open"
      @click="isOpen = !isOpen"
      ><ChevronRight :size="14" :class="isOpen && 'rotate-90'"
    /></UiButton>
    <UiButton look="plain" :label="`Part from ${name}`" class="-mr-1.5 px-1.5!" @click="remove"
      ><X :size="14"
    /></UiButton>
    <LazyMappingEditor
      v-if="isOpen && target"
      class="w-full"
      :mapping="mapping"
      :destination="target.destination"
      :parameter="target.parameter"
    />
  </li>
</template>
