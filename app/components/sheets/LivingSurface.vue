<script setup lang="ts">
import { standsAt } from '#core/bench'
import { modelOf, splitGestureKey, type Id } from '#core/rig'
import { LEADING } from '#core/sheets/card/fit'
import { livingCard, VALUE_SIZE } from '#core/sheets/card/living'
import { figureOf, movedGesture } from '~/lib/bench/figure'
import { litControls } from '~/lib/bench/lit'
import type { Move } from '~/lib/bench/moves'

/** The surface as it is played: what each control moves in the layer that shows, and where its value stands. */
const bench = useBenchStore()
const rigs = useRigStore()
const frame = useTemplateRef('frame')

const surface = computed(() =>
  rigs.rig && bench.controller ? modelOf(rigs.rig, bench.controller).surface : null,
)
const { width, height, scale } = useFittedSurface(frame, () => surface.value)
const showing = computed(() => bench.own?.showing)
const card = computed(() =>
  rigs.rig && bench.controller && showing.value ? livingCard(rigs.rig, bench.controller, showing.value) : [],
)
/** The last movement of each control: newest first. */
const lastMoves = computed(() => {
  const last = new Map<Id, Move>()
  for (const move of bench.moves) {
    if (move.controller !== bench.controller?.id || move.gesture === null) continue
    const { control } = splitGestureKey(move.gesture)
    if (!last.has(control)) last.set(control, move)
  }
  return last
})
const lights = computed(() => litControls(bench.lights))
const down = computed(
  () => new Set(Object.values(bench.own?.held ?? {}).map(({ gesture }) => splitGestureKey(gesture).control)),
)
/** “Destination: group · name” as the list of what moves writes it. */
const joined = (words: string): string => words.replaceAll(': ', ' · ')
const drawn = computed(() =>
  card.value.map(({ control, does, writing, x, top, valueAt }) => {
    const stands = (gesture: string): number => (bench.own ? standsAt(bench.own, gesture, control) : 0)
    const move = lastMoves.value.get(control.id)
    // In another layer the control moves something else: a value of before is not shown as if it were of now.
    const isOfNow = move && does.some((each) => joined(each) === joined(`${move.place} · ${move.name}`))
    const moved = movedGesture(control)
    return {
      control,
      figure: figureOf(control, scale.value, stands, down.value.has(control.id)),
      light: lights.value.get(control.id),
      lines: writing.lines.map(({ text, face }, index) => ({
        text,
        isBold: face === 'bold',
        x: x * scale.value,
        y: (top + (index + 0.8) * writing.size * LEADING) * scale.value,
      })),
      size: writing.size * scale.value,
      value: {
        text: isOfNow ? move.text : moved && does.length > 0 ? `${Math.round(stands(moved) * 100)} %` : '',
        x: x * scale.value,
        y: valueAt * scale.value,
        size: VALUE_SIZE * scale.value,
      },
    }
  }),
)
</script>

<template>
  <div ref="frame" class="relative min-h-0 flex-1 overflow-hidden">
    <svg
      v-if="surface && width > 0"
      class="absolute"
      :style="{
        left: `${(width - surface.width * scale) / 2}px`,
        top: `${(height - surface.height * scale) / 2}px`,
        '--own': `var(--hue-${bench.controller?.hue ?? 0})`,
      }"
      :width="surface.width * scale"
      :height="surface.height * scale"
      overflow="visible"
      role="img"
      :aria-label="`${bench.controller?.name}: what each control moves now`"
      data-testid="living-surface"
    >
      <g v-for="each in drawn" :key="each.control.id" :data-living="each.control.id">
        <path
          v-for="(path, index) in each.figure.body"
          :key="index"
          :d="path.d"
          :class="path.ink === 'body' ? 'fill-raised stroke-soft' : 'stroke-line fill-none'"
          :style="each.light && path.ink === 'body' ? { fill: each.light.colour, fillOpacity: 0.28 } : {}"
        />
        <path
          v-if="each.figure.level"
          :d="each.figure.level.d"
          stroke="var(--own)"
          stroke-width="4"
          :fill="each.figure.level.isFilled ? 'var(--own)' : 'none'"
          :fill-opacity="0.35"
        />
        <path
          v-if="each.figure.pointer"
          :d="each.figure.pointer"
          class="stroke-ink fill-none"
          stroke-width="2"
        />
        <text
          v-for="(line, index) in each.lines"
          :key="`line ${index}`"
          :x="line.x"
          :y="line.y"
          text-anchor="middle"
          class="fill-ink"
          :font-weight="line.isBold ? 700 : 400"
          :font-size="each.size"
        >
          {{ line.text }}
        </text>
        <text
          v-if="each.value.text"
          :x="each.value.x"
          :y="each.value.y"
          text-anchor="middle"
          class="fill-soft tag"
          :style="{ fontSize: `${each.value.size}px` }"
          data-testid="living-value"
        >
          {{ each.value.text }}
        </text>
      </g>
    </svg>
  </div>
</template>
