<script setup lang="ts">
import { standsAt } from '#core/bench'
import {
  CONTROL_KIND_NAME,
  controlName,
  grownSurface,
  modelOf,
  splitGestureKey,
  type Control,
} from '#core/rig'
import { labelRooms, placeLabels } from '#core/sheets/drawing'
import { figureOf, movedGesture } from '~/lib/bench/figure'
import { litControls } from '~/lib/bench/lit'
import { keyAreas } from '~/lib/keys'

/** The surface, to be played. */
const bench = useBenchStore()
const rigs = useRigStore()
const frame = useTemplateRef('frame')

const draw = useDrawStore()
const waiting = computed(() => draw.waitingOf(bench.controller?.id))
/** What waits to be moved, to be drawn. */
const ghosts = computed<readonly Control[]>(() => waiting.value?.controls ?? [])
const surface = computed(() => {
  const own = rigs.rig && bench.controller ? modelOf(rigs.rig, bench.controller).surface : null
  return own && ghosts.value.length > 0 ? { ...own, ...grownSurface(own, ghosts.value) } : own
})
const controls = computed<readonly Control[]>(() => surface.value?.controls ?? [])
const { width, height, scale } = useFittedSurface(frame, () => surface.value, { padding: 14, most: 3.2 })
const line = useLineCheckStore()
const isChecked = computed(() => line.isOn && line.controllerId === bench.controller?.id)
const hands = useHands(() => controls.value)
const down = computed(
  () => new Set(Object.values(bench.own?.held ?? {}).map(({ gesture }) => splitGestureKey(gesture).control)),
)
const chosen = computed(() => (bench.gesture === null ? null : splitGestureKey(bench.gesture).control))
/** The keys of keyboards that are held, as places on the drawing in px. */
function heldKeys(control: Control): Array<{ x: number; y: number; width: number; height: number }> {
  const keys = control.kind === 'keybed' ? bench.keysOf(control) : null
  if (!keys) return []
  const held = new Set(
    Object.values(bench.own?.held ?? {})
      .filter(({ gesture }) => splitGestureKey(gesture).control === control.id)
      .map(({ key }) => key),
  )
  const { x, y, w, h } = control.place
  return keyAreas(keys.low, keys.high)
    .filter(({ note }) => held.has(note))
    .map((area) => ({
      x: (x + area.x * w) * scale.value + 1.5,
      y: y * scale.value + 1.5,
      width: area.w * w * scale.value - 3,
      height: area.h * h * scale.value - 3,
    }))
}
const rooms = computed(() =>
  surface.value && scale.value > 0 ? labelRooms(controls.value, scale.value, surface.value) : [],
)
/** Names as on the Desk, where no address stands below them. */
const places = computed(() => placeLabels(rooms.value, () => 0))
const lights = computed(() => litControls(bench.lights))
const drawn = computed(() =>
  controls.value.map((control, index) => {
    const light = lights.value.get(control.id)
    const { place } = control
    const stands = (gesture: string): number => (bench.own ? standsAt(bench.own, gesture, control) : 0)
    const moved = movedGesture(control)
    return {
      control,
      figure: figureOf(control, scale.value, stands, down.value.has(control.id)),
      area: {
        x: place.x * scale.value,
        y: place.y * scale.value,
        w: place.w * scale.value,
        h: place.h * scale.value,
      },
      keys: heldKeys(control),
      light,
      written: places.value[index],
      spoken: `${controlName(control)}, ${CONTROL_KIND_NAME[control.kind]}${moved ? `, at ${Math.round(stands(moved) * 100)} percent` : ''}${light ? `, light ${light.words}` : ''}`,
    }
  }),
)
</script>

<template>
  <section
    ref="frame"
    class="surface-ground relative contain-strict h-full min-h-0 overflow-hidden"
    :aria-label="`Surface of ${bench.controller?.name}`"
  >
    <svg
      v-if="surface && width > 0"
      class="absolute touch-none select-none"
      :style="{
        left: `${(width - surface.width * scale) / 2}px`,
        top: `${(height - surface.height * scale) / 2}px`,
        '--own': `var(--hue-${bench.controller?.hue ?? 0})`,
      }"
      :width="surface.width * scale"
      :height="surface.height * scale"
      overflow="visible"
      role="group"
      :aria-label="`${bench.controller?.name}, to be played: arrows up and down move, Space presses`"
      data-testid="bench-surface"
      @pointerdown="hands.down"
      @pointermove="hands.drag"
      @pointerup="hands.up"
      @pointercancel="hands.up"
      @wheel="hands.wheel"
      @keydown="hands.keyDown"
    >
      <rect
        x="0.5"
        y="0.5"
        :width="surface.width * scale - 1"
        :height="surface.height * scale - 1"
        rx="12"
        class="fill-raised stroke-line"
      />
      <LazyGhostControls
        v-if="ghosts.length > 0"
        :controls="ghosts"
        :scale="scale"
        :next="waiting?.next"
        @choose="waiting?.choose($event)"
      />
      <g
        v-for="{ control, figure, area, keys, light, written, spoken } in drawn"
        :key="control.id"
        role="button"
        tabindex="0"
        class="played"
        :class="{ chosen: control.id === chosen, silent: control.silent, lit: light }"
        :data-light="light?.colour"
        :data-control="control.id"
        :aria-label="spoken"
        :aria-pressed="down.has(control.id)"
      >
        <rect
          v-bind="{ x: area.x - 4, y: area.y - 4, width: area.w + 8, height: area.h + 8 }"
          rx="7"
          class="halo"
        />
        <rect v-bind="{ x: area.x, y: area.y, width: area.w, height: area.h }" data-area fill="transparent" />
        <path
          v-for="(path, index) in figure.body"
          :key="index"
          :d="path.d"
          :class="['control-part', path.ink]"
          :style="light && path.ink === 'body' ? { fill: light.colour } : undefined"
        />
        <path
          v-if="figure.level"
          :d="figure.level.d"
          class="level"
          :class="figure.level.isFilled && 'filled'"
        />
        <rect
          v-for="(key, index) in keys"
          :key="`key-${index}`"
          v-bind="key"
          class="level filled"
          data-held-key
        />
        <rect
          v-if="light?.isOn"
          v-bind="{ x: area.x - 3, y: area.y - 3, width: area.w + 6, height: area.h + 6 }"
          rx="6"
          class="on-ring"
        />
        <path v-if="figure.pointer" :d="figure.pointer" class="pointer" />
        <text
          v-if="written?.label"
          :x="written.x"
          :y="written.label.y"
          class="label"
          :class="down.has(control.id) && 'on'"
          :style="light && written.inside ? { fill: light.ink, stroke: 'none' } : undefined"
        >
          {{ written.label.text }}
        </text>
      </g>
      <LazyLineMarks v-if="isChecked" :controls="controls" :scale="scale" />
    </svg>
  </section>
</template>

<style scoped>
.played {
  cursor: pointer;
  outline: none;
}
.halo {
  fill: transparent;
}
.chosen .halo {
  fill: var(--marker);
  stroke: var(--ink);
}
.played:focus-visible .halo {
  stroke: var(--ink);
  stroke-dasharray: 2 2;
}
.silent .control-part {
  stroke: var(--faint);
  stroke-dasharray: 3 2.5;
}
.level {
  fill: none;
  stroke: var(--own);
  stroke-width: 2.4;
  pointer-events: none;
}
.level.filled {
  fill: var(--own);
  stroke: none;
}
/* What is pressed keeps its light and gets a thick edge. */
.lit .level.filled {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.on-ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
  pointer-events: none;
}
.pointer {
  stroke: var(--ink);
  stroke-width: 1.8;
  stroke-linecap: round;
  pointer-events: none;
}
.label {
  font: 550 11px var(--font-sans);
  fill: var(--ink);
  text-anchor: middle;
  pointer-events: none;
  paint-order: stroke;
  stroke: var(--raised);
  stroke-width: 3px;
}
.label.on {
  stroke-width: 4px;
}
</style>
