<script setup lang="ts">
import { useElementSize, useRafFn } from '@vueuse/core'
import { EVERYTHING, narrowedBy, passes, type Narrowing, type Passes } from '~/lib/bench/narrow'
import { holesOf, lanesSince, type Lane, type LanePoint } from '~/lib/bench/tape'

/** What passed, as strokes under pens or as lines. */
const bench = useBenchStore()
const rigs = useRigStore()
const capture = useCaptureStore()
const narrowing = ref<Narrowing>(EVERYTHING)
const isLookedAt = computed<Passes>(() => (rigs.rig ? passes(rigs.rig, narrowing.value) : () => true))
const isNarrowing = ref(false)
const form = ref<'strokes' | 'lines'>('strokes')

const LANE_PX = 45
const NAME_PX = 190
const VALUE_PX = 110
const SHOWN_MS = 8000
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame)
const most = computed(() => Math.max(1, Math.floor((height.value - 18) / LANE_PX)))
/** The time at the right edge: it goes on while something moved a short while ago. */
const until = ref(bench.now())
useRafFn(() => {
  const { tape, isHeldStill } = bench
  const last = tape.messages[tape.count - 1]?.at ?? -Infinity
  if (!isHeldStill && bench.now() - last < SHOWN_MS + 500) until.value = bench.now()
})
const lanes = computed<readonly Lane[]>(() =>
  rigs.rig && form.value === 'strokes'
    ? lanesSince(rigs.rig, bench.tape, until.value - SHOWN_MS, most.value, isLookedAt.value)
    : [],
)
const across = computed(() => Math.max(10, width.value - NAME_PX - VALUE_PX))
const x = (at: number): number => NAME_PX + (1 - (until.value - at) / SHOWN_MS) * across.value
const y = (level: number, lane: number): number => 18 + lane * LANE_PX + 6 + (1 - level) * (LANE_PX - 14)

/** A pause this long lifts the pen. */
const PAUSE_MS = 250
function strokeOf(points: readonly LanePoint[], lane: number): string {
  let path = ''
  let before: LanePoint | null = null
  for (const point of points) {
    if (point.isBlow) {
      if (point.value > 0) path += `M${x(point.at)} ${y(0, lane)}V${y(Math.max(0.15, point.level), lane)}`
    } else
      path += `${before && point.at - before.at <= PAUSE_MS ? 'L' : 'M'}${x(point.at).toFixed(1)} ${y(point.level, lane).toFixed(1)}h0.01`
    before = point
  }
  return path
}
/** Notes that are held, as bars from blow to end. */
function barsOf(points: readonly LanePoint[]): Array<{ from: number; to: number }> {
  const bars: Array<{ from: number; to: number }> = []
  let began: number | null = null
  for (const { isBlow, value, at } of points) {
    if (!isBlow) continue
    if (value > 0) began = at
    else if (began !== null) {
      bars.push({ from: began, to: at })
      began = null
    }
  }
  return bars
}
const drawn = computed(() =>
  lanes.value.map((lane, index) => ({
    ...lane,
    top: 18 + index * LANE_PX,
    stroke: strokeOf(lane.points, index),
    bars: barsOf(lane.points).map(({ from, to }) => ({ x: x(from), w: Math.max(1, x(to) - x(from)) })),
    // One is said in words: more would lie over one another.
    holes: holesOf(lane.points)
      .slice(0, 1)
      .map(({ from, to }) => ({
        x: x(to.at),
        y: y(to.level, index),
        text: `${Math.min(from.value, to.value) + 1} to ${Math.max(from.value, to.value) - 1} skipped`,
      })),
    isFollowed: lane.gesture === bench.gesture && lane.controller === bench.controller?.id,
  })),
)
const seconds = Array.from({ length: SHOWN_MS / 1000 }, (_, index) => index + 1)
const valueText = ({ last }: Lane): string =>
  last.amount.kind === 'clicks'
    ? `${last.amount.by > 0 ? '+' : ''}${last.amount.by}`
    : last.amount.kind === 'blow' && last.value === 0
      ? 'let go'
      : String(last.value)
</script>

<template>
  <section class="bg-sheet flex h-full flex-col" aria-label="Tape" data-testid="tape">
    <TapeHeader
      v-model:form="form"
      v-model:narrowing="narrowing"
      v-model:is-narrowing="isNarrowing"
      :is-looked-at="isLookedAt"
    />
    <LazyTapeNarrow v-if="isNarrowing" v-model="narrowing" />
    <LazyCaptureBar v-if="capture.capture || capture.refused || capture.incoming" />
    <div ref="frame" class="min-h-0 flex-1 overflow-hidden">
      <LazyTapeLines v-if="form === 'lines'" :is-looked-at="isLookedAt" />
      <p v-else-if="drawn.length === 0" class="text-soft px-4 py-2">
        {{
          bench.tape.count === 0
            ? 'Nothing was sent yet. Every control that moves gets a lane here.'
            : narrowedBy(narrowing) > 0
              ? 'Nothing like this moved in the last 8 seconds.'
              : 'Nothing moved in the last 8 seconds.'
        }}
      </p>
      <svg v-else-if="width > 0" :width="width" :height="height" aria-hidden="true">
        <g v-for="second in seconds" :key="second">
          <path :d="`M${x(until - second * 1000)} 14V${height}`" class="stroke-hair" />
          <text :x="x(until - second * 1000)" y="11" class="time">−{{ second }} s</text>
        </g>
        <path :d="`M${x(until)} 0V${height}`" class="stroke-ink" />
        <g
          v-for="lane in drawn"
          :key="lane.key"
          class="cursor-pointer"
          :data-lane="lane.key"
          @click="bench.follow(lane.controller, lane.gesture)"
        >
          <rect
            x="0"
            :y="lane.top"
            :width="width"
            :height="LANE_PX"
            :class="lane.isFollowed ? 'fill-marker' : 'fill-transparent'"
            fill-opacity="0.35"
          />
          <path :d="`M0 ${lane.top + LANE_PX}H${width}`" class="stroke-hair" />
          <rect x="16" :y="lane.top + 8" width="15" height="15" rx="3.5" :fill="`var(--hue-${lane.hue})`" />
          <text x="23.5" :y="lane.top + 19.5" class="letter">{{ lane.letter }}</text>
          <text x="38" :y="lane.top + 19" class="name">{{ lane.name }}</text>
          <text x="38" :y="lane.top + 34" class="address">{{ lane.tag }}</text>
          <rect
            v-for="(bar, index) in lane.bars"
            :key="index"
            :x="bar.x"
            :y="lane.top + LANE_PX - 12"
            :width="bar.w"
            height="4"
            :fill="`var(--hue-${lane.hue})`"
            opacity="0.5"
          />
          <path
            :d="lane.stroke"
            fill="none"
            :stroke="`var(--hue-${lane.hue})`"
            stroke-width="2"
            stroke-linejoin="round"
            stroke-linecap="round"
          />
          <text
            v-for="(hole, index) in lane.holes"
            :key="`hole-${index}`"
            :x="hole.x + 4"
            :y="lane.top + LANE_PX - 6"
            class="hole"
          >
            {{ hole.text }}
          </text>
          <text :x="x(until) + 14" :y="lane.top + 27" class="address strong">{{ valueText(lane) }}</text>
        </g>
      </svg>
    </div>
  </section>
</template>

<style scoped>
.time {
  font: 450 11px var(--font-mono);
  fill: var(--soft);
  text-anchor: middle;
}
.letter {
  font: 680 10.5px var(--font-sans);
  fill: var(--raised);
  text-anchor: middle;
}
.name {
  font: 680 12.5px var(--font-sans);
  fill: var(--ink);
}
.address {
  font: 450 11.5px var(--font-mono);
  fill: var(--soft);
}
.address.strong {
  fill: var(--ink);
}
.hole {
  font: 680 11px var(--font-sans);
  fill: var(--conflict);
}
</style>
