<script setup lang="ts">
import type { ControlTag } from '~/composables/useSurfaceTags'
import { CONTROL_KIND_NAME, controlName, type GestureKey } from '#core/rig'
import { drawingOf } from '~/lib/surface/shapes'
import { fitTag, TAG_LINE_PX, tagWidth, type LabelPlace } from '~/lib/surface/labels'
import { gestureVerb } from '~/lib/sentence'

const { place, scale, tags, isSelected, selectedGesture } = defineProps<{
  place: LabelPlace
  scale: number
  tags: readonly ControlTag[]
  isSelected: boolean
  selectedGesture: GestureKey | null
}>()

const control = computed(() => place.control)
const parts = computed(() => drawingOf(control.value))
const box = computed(() => {
  const { x, y, w, h } = control.value.place
  return { x: x * scale, y: y * scale, w: w * scale, h: h * scale }
})
const isRound = computed(() =>
  ['knob', 'encoder', 'footswitch', 'tilt', 'joystick'].includes(control.value.kind),
)
const sendsNothing = computed(() => control.value.silent || tags.length === 0)

const RANK = { error: 3, warning: 2, advice: 1 } as const
const rank = ({ gesture, severity }: ControlTag): number =>
  isSelected && gesture === selectedGesture ? 4 : severity === null ? 0 : RANK[severity]

/** Tags that find room, in the form that fits: what is selected or in trouble first; the last line says how many did not. */
const lines = computed(() => {
  const room = place.tagLines
  const ordered = room < tags.length ? tags.toSorted((a, b) => rank(b) - rank(a)) : tags
  return ordered.slice(0, room).map((tag, index) => {
    const hidden = index === room - 1 ? tags.length - room : 0
    const more = hidden > 0 ? ` +${hidden}` : ''
    const text = fitTag(tag.text, place.tagWidth - more.length * 6.7)
    const shown = text === null ? null : text + more
    return {
      ...tag,
      shown,
      width: shown === null ? 0 : tagWidth(shown),
      y: (place.tagsY ?? 0) + index * TAG_LINE_PX,
    }
  })
})

/** Trouble that no tag shows, where there is no room for one: a corner of the control says so. */
const hiddenTrouble = computed(() => {
  if (lines.value.some(({ shown, severity }) => shown !== null && severity !== null)) return null
  const troubled = tags.filter(({ severity }) => severity !== null)
  return troubled.toSorted((a, b) => rank(b) - rank(a))[0]?.severity ?? null
})

/** A plate behind writing that stands on keys. */
const plateWidth = computed(
  () => Math.max((place.label?.text.length ?? 0) * 7, ...lines.value.map(({ width }) => width)) + 12,
)

const spoken = computed(() => {
  const sent = tags.map(({ gesture, text, severity, isShared }) => {
    const verb = gestureVerb(
      gesture.slice(gesture.indexOf('.') + 1) as Parameters<typeof gestureVerb>[0],
    ).toLowerCase()
    return `${verb} sends ${text}${severity ? `, ${severity}` : ''}${isShared ? ', shared on purpose' : ''}`
  })
  return [
    controlName(control.value),
    CONTROL_KIND_NAME[control.value.kind],
    ...(sent.length > 0 ? sent : ['sends nothing']),
  ].join(', ')
})
</script>

<template>
  <g
    role="button"
    class="control"
    :aria-label="spoken"
    :aria-pressed="isSelected"
    :data-control="control.id"
    :data-severity="tags.find(({ severity }) => severity)?.severity"
  >
    <title>{{ spoken }}</title>
    <g v-if="isSelected" class="halo" data-testid="selected-control">
      <circle
        v-if="isRound"
        :cx="box.x + box.w / 2"
        :cy="box.y + box.h / 2"
        :r="Math.min(box.w, box.h) / 2 + 5.5"
      />
      <rect v-else :x="box.x - 4" :y="box.y - 4" :width="box.w + 8" :height="box.h + 8" rx="7" />
    </g>
    <rect :x="box.x - 2" :y="box.y - 2" :width="box.w + 4" :height="box.h + 4" class="fill-transparent" />
    <g v-memo="[parts, scale, sendsNothing]">
      <template v-for="(part, index) in parts" :key="index">
        <rect
          v-if="part.shape === 'rect'"
          :x="part.x * scale"
          :y="part.y * scale"
          :width="part.w * scale"
          :height="part.h * scale"
          :rx="part.radius * scale"
          :class="['part', part.ink, sendsNothing && 'empty']"
        />
        <circle
          v-else-if="part.shape === 'circle'"
          :cx="part.cx * scale"
          :cy="part.cy * scale"
          :r="part.r * scale"
          :class="['part', part.ink, sendsNothing && 'empty']"
        />
        <line
          v-else
          :x1="part.x1 * scale"
          :y1="part.y1 * scale"
          :x2="part.x2 * scale"
          :y2="part.y2 * scale"
          :class="['part', part.ink, sendsNothing && 'empty']"
        />
      </template>
    </g>
    <rect
      v-if="control.kind === 'keybed' && place.label"
      :x="place.x - plateWidth / 2"
      :y="place.label.y - 13"
      :width="plateWidth"
      :height="place.tagLines * TAG_LINE_PX + 18"
      rx="4"
      class="fill-raised"
      opacity="0.92"
    />
    <text v-if="place.label" :x="place.x" :y="place.label.y" class="label" :class="sendsNothing && 'quiet'">
      {{ place.label.text }}
    </text>
    <path
      v-if="hiddenTrouble"
      :d="`M${box.x + box.w + 2} ${box.y - 2}v8l-8 -8z`"
      :class="['trouble', hiddenTrouble]"
    />
    <g v-for="line in lines" :key="line.gesture">
      <g
        v-if="line.shown !== null"
        :class="['tagline', line.severity, isSelected && line.gesture === selectedGesture && 'chosen']"
        :data-tag="line.gesture"
      >
        <rect
          :x="place.x - line.width / 2"
          :y="line.y + 0.5"
          :width="line.width"
          height="12"
          rx="2.5"
          class="tagbox"
        />
        <path
          v-if="line.severity === 'error'"
          class="notch"
          :d="`M${place.x + line.width / 2 - 6} ${line.y + 0.5}h6v6z`"
        />
        <circle v-if="line.isPinned" :cx="place.x - line.width / 2" :cy="line.y + 1" r="2" class="pin" />
        <text :x="place.x" :y="line.y + 10" class="tagtext">{{ line.shown }}</text>
        <path
          v-if="line.isShared"
          class="shared"
          :d="`M${place.x - line.width / 2 + 3} ${line.y + 13}h${line.width - 6}m0 2h${6 - line.width}`"
        />
      </g>
    </g>
  </g>
</template>

<style scoped>
.control {
  cursor: pointer;
  outline: none;
}
.control:focus-visible .part.body {
  stroke-width: 2.6;
}
.control:focus-visible > rect:first-of-type {
  stroke: var(--ink);
  stroke-dasharray: 2 2;
}
.part {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.3;
  stroke-linecap: round;
}
.part.body {
  fill: var(--raised);
}
.part.mark {
  stroke-width: 1.6;
}
.part.detail {
  stroke: var(--faint);
  stroke-width: 0.8;
}
.part.dark {
  fill: var(--ink);
  stroke-width: 0.6;
}
.part.empty {
  stroke: var(--faint);
}
.part.body.empty {
  stroke-dasharray: 3 2.5;
}
.control:hover .part.body {
  stroke-width: 2;
}
.halo > * {
  fill: var(--marker);
  stroke: var(--ink);
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
