<script setup lang="ts" generic="T">
import type { NumberWord } from '~/lib/sentence'

const { word, id } = defineProps<{ word: NumberWord<T>; id: string }>()
const emit = defineEmits<{ change: [result: T] }>()
const { draft, refusal, read } = useNumberDraft(() => word)
watch(
  () => word.value,
  (value) => {
    draft.value = value === null ? '' : String(value)
    refusal.value = null
  },
  { immediate: true },
)
usePendingReset(() => (draft.value = word.value === null ? '' : String(word.value)))
function commit(): void {
  if (draft.value === '' && word.value === null) return
  const next = read()
  if (next) emit('change', next)
}
</script>

<template>
  <div class="flex items-center gap-2">
    <input
      :id="id"
      v-model="draft"
      inputmode="numeric"
      class="bg-raised border-line tag h-7 w-20 rounded-md border px-2"
      :aria-invalid="refusal !== null"
      @keydown.enter.prevent="commit"
      @blur="commit"
    />
    <span v-if="refusal" role="alert" class="text-conflict text-xs font-medium">{{ refusal }}</span>
    <span v-else class="text-soft text-xs">{{ word.low }} to {{ word.high }}</span>
  </div>
</template>
