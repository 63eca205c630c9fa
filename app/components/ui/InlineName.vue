<script setup lang="ts">
/** A name that is changed in place: Enter or leaving the field keeps it, Escape puts the old one back. */
const { value, label } = defineProps<{ value: string; label: string }>()
const emit = defineEmits<{ change: [name: string] }>()
const draft = ref(value)
watch(
  () => value,
  (next) => {
    draft.value = next
  },
)
function commit(): void {
  if (draft.value.trim() === value) return
  emit('change', draft.value)
  void nextTick(() => {
    draft.value = value
  })
}
</script>

<template>
  <input
    v-model="draft"
    class="hover:border-line focus:border-ink h-7 min-w-0 rounded-md border border-transparent bg-transparent px-1.5 font-medium"
    :aria-label="label"
    maxlength="120"
    @keydown.enter="($event.target as HTMLInputElement).blur()"
    @keydown.esc.stop="draft = value"
    @blur="commit"
  />
</template>
