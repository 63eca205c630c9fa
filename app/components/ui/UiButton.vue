<script setup lang="ts">
const {
  look = 'quiet',
  label = undefined,
  type = 'button',
} = defineProps<{
  type?: 'button' | 'submit'
  look?: 'strong' | 'quiet' | 'plain'
  /** For buttons that show only an icon. */
  label?: string
}>()
const LOOKS = {
  strong: 'bg-ink text-sheet border-ink hover:opacity-90',
  quiet: 'bg-raised text-ink border-line hover:border-ink',
  plain: 'border-transparent text-soft hover:text-ink hover:bg-hair',
} as const
</script>

<template>
  <button
    :type="type"
    class="inline-flex h-7 items-center gap-1.5 rounded-md border px-2.5 text-xs font-medium whitespace-nowrap transition-colors disabled:cursor-not-allowed disabled:opacity-45"
    :class="LOOKS[look]"
    :aria-label="label"
    :title="label"
  >
    <slot />
  </button>
</template>
