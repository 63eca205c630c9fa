<script setup lang="ts" generic="T">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import type { ChoiceWord } from '~/lib/sentence'

const { word } = defineProps<{ word: ChoiceWord<T> }>()
const emit = defineEmits<{ change: [result: T] }>()
</script>

<template>
  <Listbox
    v-slot="{ open }"
    as="span"
    class="relative inline-block"
    :model-value="word.value"
    @update:model-value="(value: string) => value !== word.value && emit('change', word.set(value))"
  >
    <ListboxButton
      class="word"
      :data-open="open"
      :aria-label="`${word.label}: ${word.text}`"
      :data-word="word.id"
    >
      {{ word.text }}
    </ListboxButton>
    <ListboxOptions
      class="bg-raised border-line shadow-float absolute left-0 z-30 mt-1 max-h-64 overflow-auto rounded-md border py-1 text-sm"
    >
      <ListboxOption
        v-for="option in word.options"
        :key="option.value"
        v-slot="{ active, selected, disabled }"
        :value="option.value"
        :disabled="option.reason !== null && option.value !== word.value"
      >
        <div
          class="flex items-baseline gap-3 px-3 py-1 leading-5 whitespace-nowrap"
          :class="[
            active && 'bg-marker text-on-marker',
            selected && 'font-bold',
            disabled && 'text-soft cursor-not-allowed',
          ]"
        >
          {{ option.label }}
          <span v-if="option.reason" class="ml-auto text-xs italic">{{ option.reason }}</span>
        </div>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
