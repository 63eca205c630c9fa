<script setup lang="ts" generic="T">
import type { NumberWord } from '~/lib/sentence'

const { word } = defineProps<{ word: NumberWord<T> }>()
const emit = defineEmits<{ change: [result: T] }>()

const isEditing = ref(false)
const { draft, refusal, read } = useNumberDraft(() => word)
const input = useTemplateRef('input')
const button = useTemplateRef('button')

async function open(): Promise<void> {
  draft.value = word.value === null ? '' : String(word.value)
  refusal.value = null
  isEditing.value = true
  await nextTick()
  input.value?.select()
}

async function leave(keepFocus: boolean): Promise<void> {
  isEditing.value = false
  refusal.value = null
  if (!keepFocus) return
  await nextTick()
  button.value?.focus()
}

function commit(keepFocus: boolean): void {
  if (!isEditing.value) return
  const next = read()
  if (next === undefined) return
  if (next !== null) emit('change', next)
  void leave(keepFocus)
}
</script>

<template>
  <span class="relative inline-block">
    <button
      v-if="!isEditing"
      ref="button"
      type="button"
      class="word"
      :aria-label="`${word.label}: ${word.text}`"
      :data-word="word.id"
      @click="open"
    >
      {{ word.text }}
    </button>
    <input
      v-else
      ref="input"
      v-model="draft"
      inputmode="numeric"
      class="word bg-marker! text-on-marker w-20"
      :aria-label="`${word.label}, ${word.low} to ${word.high}`"
      :aria-invalid="refusal !== null"
      :data-word="word.id"
      @keydown.enter.prevent="commit(true)"
      @keydown.esc.prevent.stop="leave(true)"
      @blur="refusal === null ? commit(false) : leave(false)"
    />
    <span
      v-if="refusal !== null"
      role="alert"
      class="bg-conflict-soft text-conflict border-conflict shadow-float absolute top-full left-0 z-30 mt-1 w-max max-w-72 rounded-md border px-2 py-1 text-xs leading-4 font-medium"
      >{{ refusal }}</span
    >
  </span>
</template>
