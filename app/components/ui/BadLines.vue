<script setup lang="ts">
import type { BadLine } from '#core/rig'

/** The lines of a table that cannot be read, and why. */
const { bad } = defineProps<{ bad: readonly BadLine[] }>()
const SHOWN = 5
</script>

<template>
  <ul v-if="bad.length > 0" class="text-advice" data-testid="bad-lines">
    <li v-for="each in bad.slice(0, SHOWN)" :key="each.line">
      Line {{ each.line }} is left out: {{ each.message }}
    </li>
    <li v-if="bad.length > SHOWN">and {{ bad.length - SHOWN }} more lines</li>
  </ul>
</template>
