<script setup lang="ts">
import type { Control, Id } from '#core/rig'
import { inkedPaths } from '#core/sheets/drawing'

/** Controls that are not made yet, in their places on a surface; one of them may be next. */
const {
  controls,
  scale,
  next = null,
} = defineProps<{ controls: readonly Control[]; scale: number; next?: Id | null }>()
const emit = defineEmits<{ choose: [id: Id] }>()
</script>

<template>
  <g
    v-for="control in controls"
    :key="control.id"
    class="ghost"
    :class="control.id === next && 'next'"
    data-testid="ghost"
    @click="emit('choose', control.id)"
  >
    <path v-for="(path, index) in inkedPaths(control, scale)" :key="index" :d="path.d" />
  </g>
</template>

<style scoped>
.ghost > * {
  fill: var(--marker);
  fill-opacity: 0.25;
  stroke: var(--ink);
  stroke-dasharray: 3 2.5;
}
.ghost.next > * {
  fill-opacity: 1;
  stroke-dasharray: none;
}
</style>
