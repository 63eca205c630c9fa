<script setup lang="ts">
import { parseValueList, printValueList } from '#core/rig'

/** The values that a control steps through, one a press. */
const { values } = defineProps<{ values: readonly number[] }>()
const emit = defineEmits<{ change: [values: number[]] }>()
const written = computed(() => printValueList(values))
const draft = ref(written.value)
const refusal = ref<string | null>(null)
watch(written, (text) => {
  draft.value = text
})
usePendingReset(() => (draft.value = written.value))

function commit(): void {
  const parsed = parseValueList(draft.value)
  refusal.value = parsed.ok ? null : parsed.message
  if (parsed.ok && printValueList(parsed.values) !== written.value) emit('change', parsed.values)
}
</script>

<template>
  <label class="mt-1.5 block">
    <span class="text-soft text-xs">Values, one a press</span>
    <input
      v-model="draft"
      class="bg-raised border-line tag block h-7 w-full rounded-md border px-2"
      data-testid="value-list"
      spellcheck="false"
      @keydown.enter.prevent="commit"
      @blur="commit"
    />
    <span v-if="refusal" role="alert" class="text-conflict mt-1 block text-xs font-medium">{{
      refusal
    }}</span>
  </label>
</template>
