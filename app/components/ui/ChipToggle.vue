<script setup lang="ts">
const { isOn } = defineProps<{ isOn: boolean }>()
</script>

<template>
  <button
    type="button"
    :aria-pressed="isOn"
    class="h-6 rounded-md border px-2 text-xs font-medium whitespace-nowrap"
    :class="isOn ? 'bg-ink text-sheet border-ink' : 'border-line text-soft hover:text-ink'"
  >
    <slot />
  </button>
</template>
