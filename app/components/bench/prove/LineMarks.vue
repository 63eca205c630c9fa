<script setup lang="ts">
import { splitGestureKey, type Control } from '#core/rig'
import type { LineState } from '#core/bench/line-check'

/** How each control of the surface stands in a line check: a tick as written, a cross where it differs, a ring while it is not touched, a bar where it is gone. */
const { controls, scale } = defineProps<{ controls: readonly Control[]; scale: number }>()
const line = useLineCheckStore()
const SIZE_PX = 13
const PATHS: Readonly<Record<LineState, string>> = {
  'as-written': 'M3 7 L6 10 L10.5 3.5',
  differs: 'M3.5 3.5 L9.5 9.5 M9.5 3.5 L3.5 9.5',
  'not-touched': '',
  gone: 'M3.5 7 H9.5',
}
/** What needs to be looked at first. */
const URGENCY: readonly LineState[] = ['differs', 'not-touched', 'gone', 'as-written']
/** Of a control that has several gestures the one that needs to be looked at. */
const worst = computed(() => {
  const found = new Map<string, LineState>()
  for (const [gesture, state] of line.states) {
    const { control } = splitGestureKey(gesture)
    const before = found.get(control)
    if (before === undefined || URGENCY.indexOf(state) < URGENCY.indexOf(before)) found.set(control, state)
  }
  return found
})
const marks = computed(() =>
  controls.flatMap(({ id, place }) => {
    const state = worst.value.get(id)
    return state
      ? [
          {
            id,
            state,
            path: PATHS[state],
            x: (place.x + place.w) * scale - SIZE_PX / 2,
            y: place.y * scale - SIZE_PX / 2,
          },
        ]
      : []
  }),
)
</script>

<template>
  <g aria-hidden="true" class="marks">
    <g
      v-for="{ id, state, path, x, y } in marks"
      :key="id"
      :transform="`translate(${x} ${y})`"
      :data-line="state"
      :data-line-of="id"
    >
      <circle :cx="SIZE_PX / 2" :cy="SIZE_PX / 2" :r="SIZE_PX / 2" :class="state" />
      <path v-if="path" :d="path" class="sign" />
    </g>
  </g>
</template>

<style scoped>
.marks {
  pointer-events: none;
}
circle {
  fill: var(--raised);
  stroke: var(--line);
  stroke-width: 1.2;
  stroke-dasharray: 2 2;
}
circle.as-written {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-dasharray: none;
}
circle.gone {
  stroke: var(--conflict);
}
circle.differs {
  fill: var(--conflict);
  stroke: var(--conflict);
  stroke-dasharray: none;
}
.sign {
  fill: none;
  stroke: var(--sheet);
  stroke-width: 1.8;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.gone + .sign {
  stroke: var(--conflict);
}
</style>
