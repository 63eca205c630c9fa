<script setup lang="ts" generic="T">
import type { OptionGroup } from '~/lib/choices'

const model = defineModel<string>({ required: true })
const {
  groups,
  label,
  empty = null,
} = defineProps<{
  groups: ReadonlyArray<OptionGroup<T>>
  label: string
  /** What stands when nothing is picked; null where something always is. */
  empty?: string | null
}>()
</script>

<template>
  <select
    v-model="model"
    :aria-label="label"
    class="bg-raised border-line h-7 max-w-44 rounded-md border px-1"
  >
    <option v-if="empty !== null" value="">{{ empty }}</option>
    <optgroup v-for="group in groups" :key="group.name" :label="group.name">
      <option v-for="option in group.options" :key="option.key" :value="option.key">
        {{ option.label }}
      </option>
    </optgroup>
  </select>
</template>
