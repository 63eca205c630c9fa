<script setup lang="ts">
/** The 16 channels as switches; gives the chosen ones in order. */
const { channels } = defineProps<{ channels: readonly number[] }>()
const emit = defineEmits<{ change: [channels: number[]] }>()
function toggle(channel: number): void {
  const next = channels.includes(channel)
    ? channels.filter((other) => other !== channel)
    : [...channels, channel]
  emit(
    'change',
    next.sort((a, b) => a - b),
  )
}
</script>

<template>
  <span class="flex flex-wrap gap-0.5">
    <button
      v-for="channel in 16"
      :key="channel"
      type="button"
      class="h-6 w-6.5 rounded border text-center"
      :class="channels.includes(channel) ? 'bg-ink text-sheet border-ink' : 'border-line text-soft'"
      :aria-pressed="channels.includes(channel)"
      :aria-label="`Channel ${channel}`"
      @click="toggle(channel)"
    >
      {{ channel }}
    </button>
    <slot />
  </span>
</template>
