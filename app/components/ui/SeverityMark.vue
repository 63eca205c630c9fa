<script setup lang="ts">
import type { Severity } from '#core/conflicts'

/** A severity by shape as well as colour: a notched corner, a half, a ring. */
const { severity } = defineProps<{ severity: Severity }>()
</script>

<template>
  <svg
    viewBox="0 0 12 12"
    class="mt-0.5 size-3 shrink-0"
    :class="severity === 'error' ? 'text-conflict' : 'text-advice'"
    aria-hidden="true"
  >
    <path v-if="severity === 'error'" d="M0 0h12v12z" fill="currentColor" />
    <path
      v-else-if="severity === 'warning'"
      d="M6 1l5.5 10h-11z"
      fill="none"
      stroke="currentColor"
      stroke-width="1.8"
    />
    <circle v-else cx="6" cy="6" r="4.4" fill="none" stroke="currentColor" stroke-width="1.8" />
  </svg>
</template>
