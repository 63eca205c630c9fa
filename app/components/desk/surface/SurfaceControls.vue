<script setup lang="ts">
import type { DrawnControl } from '~/lib/surface/drawn'

// One component for all controls: three hundred components would cost more than what they draw.
const { drawn } = defineProps<{ drawn: readonly DrawnControl[] }>()

// Only the one under the pointer needs what it says at hand.
const pointed = ref<string | null>(null)
const point = (event: Event): void => {
  pointed.value = (event.currentTarget as Element).getAttribute('data-control')
}
</script>

<template>
  <g
    v-for="control in drawn"
    :key="control.id"
    v-memo="[control, pointed === control.id]"
    role="button"
    class="control"
    :tabindex="control.from.isTabStop ? 0 : -1"
    :aria-label="control.spoken"
    :aria-pressed="control.halo !== null"
    :data-control="control.id"
    :data-severity="control.severity"
    @pointerenter="point"
  >
    <title v-if="pointed === control.id">{{ control.spoken }}</title>
    <circle
      v-if="control.halo === 'round'"
      class="halo"
      data-testid="selected-control"
      :cx="control.box.x + control.box.w / 2"
      :cy="control.box.y + control.box.h / 2"
      :r="Math.min(control.box.w, control.box.h) / 2 + 5.5"
    />
    <rect
      v-else-if="control.halo === 'square'"
      class="halo"
      data-testid="selected-control"
      :x="control.box.x - 4"
      :y="control.box.y - 4"
      :width="control.box.w + 8"
      :height="control.box.h + 8"
      rx="7"
    />
    <rect
      :x="control.box.x - 2"
      :y="control.box.y - 2"
      :width="control.box.w + 4"
      :height="control.box.h + 4"
      class="reach"
    />
    <path
      v-for="(path, index) in control.paths"
      :key="index"
      :d="path.d"
      :class="['control-part', path.ink, control.isEmpty && !control.light && 'empty']"
      :style="control.light && path.ink === 'body' ? { fill: control.light.colour } : undefined"
    />
    <path
      v-if="control.light?.pattern"
      class="pattern"
      :d="control.light.pattern"
      :transform="`translate(${control.box.x + 2.5} ${control.box.y + 2.5})`"
      :style="{ fill: control.light.colour, stroke: control.light.ink }"
    />
    <rect
      v-if="control.plate"
      :x="control.plate.x"
      :y="control.plate.y"
      :width="control.plate.w"
      :height="control.plate.h"
      rx="4"
      class="fill-raised"
      opacity="0.92"
    />
    <text
      v-if="control.label"
      :x="control.label.x"
      :y="control.label.y"
      class="label"
      :class="control.isEmpty && 'quiet'"
      :style="control.light && control.from.place.inside ? { fill: control.light.ink } : undefined"
    >
      {{ control.label.text }}
    </text>
    <path
      v-if="control.hiddenTrouble"
      :d="`M${control.box.x + control.box.w + 2} ${control.box.y - 2}v8l-8 -8z`"
      :class="['trouble', control.hiddenTrouble]"
    />
    <g v-for="tag in control.tags" :key="tag.gesture" :class="tag.state" :data-tag="tag.gesture">
      <rect :x="tag.left" :y="tag.y + 0.5" :width="tag.width" height="12" rx="2.5" class="tagbox" />
      <path v-if="tag.notch" class="notch" :d="tag.notch" />
      <circle v-if="tag.isPinned" :cx="tag.left" :cy="tag.y + 1" r="2" class="pin" />
      <text :x="tag.x" :y="tag.y + 10" class="tagtext">{{ tag.text }}</text>
      <path v-if="tag.shared" class="shared" :d="tag.shared" />
    </g>
  </g>
</template>

<style scoped>
.control {
  cursor: pointer;
  outline: none;
}
.control:focus-visible .control-part.body {
  stroke-width: 2.6;
}
.reach {
  fill: transparent;
}
.control:focus-visible > .reach {
  stroke: var(--ink);
  stroke-dasharray: 2 2;
}
.control-part.empty {
  stroke: var(--faint);
}
.control-part.body.empty {
  stroke-dasharray: 3 2.5;
}
.control:hover .control-part.body {
  stroke-width: 2;
}
.halo {
  fill: var(--marker);
  stroke: var(--ink);
  stroke-width: 1;
}
.pattern {
  stroke-width: 1;
}
.label {
  font: 550 11px var(--font-sans);
  fill: var(--ink);
  text-anchor: middle;
}
.label.quiet {
  fill: var(--soft);
}
.tagbox {
  fill: var(--raised);
  stroke: var(--line);
  stroke-width: 0.8;
}
.tagtext {
  font: 450 11px var(--font-mono);
  fill: var(--ink);
  text-anchor: middle;
}
.tagline.error .tagbox {
  fill: var(--conflict-soft);
  stroke: var(--conflict);
}
.tagline.error .tagtext {
  fill: var(--conflict);
}
.tagline.warning .tagbox,
.tagline.advice .tagbox {
  fill: var(--advice-soft);
  stroke: var(--advice);
}
.tagline.planned .tagbox {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-dasharray: 3 2;
}
.tagline.planned .tagtext {
  font-weight: 700;
}
.tagline.chosen .tagbox {
  fill: var(--marker);
  stroke: var(--ink);
}
.tagline.chosen .tagtext {
  fill: var(--on-marker);
}
.notch {
  fill: var(--conflict);
}
.trouble {
  fill: var(--advice);
}
.trouble.error {
  fill: var(--conflict);
}
.pin {
  fill: var(--ink);
}
.shared {
  stroke: var(--accord);
  stroke-width: 1;
  fill: none;
}
</style>
