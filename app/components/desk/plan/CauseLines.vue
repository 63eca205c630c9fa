<script setup lang="ts">
import type { CauseLine } from '~/workers/allocation'

/** Causes in a line each, with how many findings they stand for. */
const { lines } = defineProps<{ lines: readonly CauseLine[] }>()
</script>

<template>
  <ul>
    <li v-for="line in lines" :key="line.title" class="border-line flex items-center gap-1.5 border-t py-1">
      <SeverityMark :severity="line.severity" class="mt-0!" />
      <span class="min-w-0 flex-1">{{ line.title }}</span>
      <span class="tag text-soft">{{ line.findings }}</span>
    </li>
  </ul>
</template>
