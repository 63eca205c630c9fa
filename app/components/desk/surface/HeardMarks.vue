<script setup lang="ts">
import { controlsOf, splitGestureRef } from '#core/rig'

/** Rings around the controls that real hardware is moving. */
const { scale } = defineProps<{ scale: number }>()
const desk = useDeskStore()
const AROUND_PX = 5
const marks = computed(() => {
  if (!desk.model) return []
  const all = controlsOf(desk.model)
  return desk.heard.flatMap((ref) => {
    const { controller, gesture } = splitGestureRef(ref)
    const control =
      controller === desk.controller?.id ? all.get(gesture.slice(0, gesture.indexOf('.'))) : null
    if (!control) return []
    const { x, y, w, h } = control.place
    return [
      {
        key: ref,
        x: x * scale - AROUND_PX,
        y: y * scale - AROUND_PX,
        width: w * scale + 2 * AROUND_PX,
        height: h * scale + 2 * AROUND_PX,
      },
    ]
  })
})
</script>

<template>
  <g aria-hidden="true">
    <rect v-for="{ key, ...box } in marks" :key="key" v-bind="box" rx="8" class="heard" :data-heard="key" />
  </g>
</template>

<style scoped>
.heard {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 5 3;
  pointer-events: none;
}
</style>
