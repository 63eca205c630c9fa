<script setup lang="ts" generic="T">
import type { ChoiceWord, FieldWord } from '~/lib/sentence'

const { fields } = defineProps<{ fields: readonly FieldWord<T>[] }>()
const emit = defineEmits<{ change: [result: T] }>()

function choose(field: ChoiceWord<T>, event: Event): void {
  emit('change', field.set((event.target as HTMLSelectElement).value))
}
</script>

<template>
  <div class="grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5">
    <template v-for="field in fields" :key="field.id">
      <label :for="`field-${field.id}`" class="text-soft text-xs">{{ field.label }}</label>
      <select
        v-if="field.type === 'choice'"
        :id="`field-${field.id}`"
        class="bg-raised border-line h-7 max-w-56 rounded-md border px-1.5"
        :value="field.value"
        @change="choose(field, $event)"
      >
        <option
          v-for="option in field.options"
          :key="option.value"
          :value="option.value"
          :disabled="option.reason !== null && option.value !== field.value"
        >
          {{ option.label }}{{ option.reason ? ` (${option.reason})` : '' }}
        </option>
      </select>
      <NumberField v-else :id="`field-${field.id}`" :word="field" @change="emit('change', $event)" />
    </template>
  </div>
</template>
