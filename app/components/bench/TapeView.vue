<script setup lang="ts">
import { useElementSize, useRafFn } from '@vueuse/core'
import { EVERYTHING, narrowedBy, passes, type Narrowing, type Passes } from '~/lib/bench/narrow'
import { reachOf } from '~/lib/bench/strokes'
import { createLanes, holesOf, lastWords, reachWords, type Hole, type Lane } from '~/lib/bench/tape'

/** What passed, as strokes under pens or as lines. */
const bench = useBenchStore()
const rigs = useRigStore()
const capture = useCaptureStore()
const narrowing = ref<Narrowing>(EVERYTHING)
const isLookedAt = computed<Passes>(() => (rigs.rig ? passes(rigs.rig, narrowing.value) : () => true))
const isNarrowing = ref(false)
const form = ref<'strokes' | 'lines'>('strokes')

const [HEAD_PX, LANE_PX] = [18, 45]
const NAME_PX = 190
const VALUE_PX = 138
const SHOWN_MS = 8000
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame)
const most = computed(() => Math.max(1, Math.floor((height.value - HEAD_PX) / LANE_PX)))
/** The time at the right edge: it goes on while something moved a short while ago. */
const until = ref(bench.now())
useRafFn(() => {
  const { tape, isHeldStill } = bench
  const last = tape.messages[tape.count - 1]?.at ?? -Infinity
  if (!isHeldStill && bench.now() - last < SHOWN_MS + 500) until.value = bench.now()
})
const reader = computed(() => (rigs.rig ? createLanes(rigs.rig, isLookedAt.value) : null))
const lanes = computed<readonly Lane[]>(() =>
  form.value === 'strokes' ? (reader.value?.since(bench.tape, until.value - SHOWN_MS, most.value) ?? []) : [],
)
const across = computed(() => Math.max(10, width.value - NAME_PX - VALUE_PX))
const x = (at: number): number => NAME_PX + (1 - (until.value - at) / SHOWN_MS) * across.value
const y = (level: number, lane: number): number => HEAD_PX + lane * LANE_PX + 6 + (1 - level) * (LANE_PX - 14)

/** What takes a look at every point is done a few times a second. */
const LOOK_EVERY_MS = 200
const looks = computed(() => Math.floor(until.value / LOOK_EVERY_MS))
const seen = shallowRef(new Map<string, { hole: Hole | undefined; reach: string }>())
watch([looks, () => lanes.value.length], () => {
  seen.value = new Map(
    lanes.value.map((lane) => [
      lane.key,
      { hole: holesOf(lane.points)[0], reach: reachWords(lane, reachOf(lane.points)) },
    ]),
  )
})
const drawn = computed(() =>
  lanes.value.map((lane, index) => {
    const { hole, reach } = seen.value.get(lane.key) ?? { hole: undefined, reach: '' }
    return {
      ...lane,
      top: HEAD_PX + index * LANE_PX,
      reach,
      hole: hole && {
        x: x(hole.to.at),
        text: `${Math.min(hole.from.value, hole.to.value) + 1} to ${Math.max(hole.from.value, hole.to.value) - 1} skipped`,
      },
      isFollowed:
        lane.gesture !== null && lane.gesture === bench.gesture && lane.controller === bench.controller?.id,
    }
  }),
)
const canvas = useTemplateRef('canvas')
useStrokes(canvas, {
  size: () => ({ width: width.value, height: height.value }),
  lanes: () => lanes.value,
  x,
  y,
})
const seconds = Array.from({ length: SHOWN_MS / 1000 }, (_, index) => index + 1)
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
    <div ref="frame" class="relative min-h-0 flex-1 contain-strict overflow-hidden">
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
      <canvas
        v-if="form === 'strokes' && width > 0"
        v-show="drawn.length > 0"
        ref="canvas"
        class="pointer-events-none absolute inset-0 z-1"
        :style="{ width: `${width}px`, height: `${height}px` }"
        aria-hidden="true"
      />
      <svg
        v-if="form === 'strokes' && drawn.length > 0 && width > 0"
        :width="width"
        :height="height"
        aria-hidden="true"
      >
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
          <text v-if="lane.hole" :x="lane.hole.x + 4" :y="lane.top + LANE_PX - 6" class="hole">
            {{ lane.hole.text }}
          </text>
          <text :x="x(until) + 14" :y="lane.top + (lane.reach ? 19 : 27)" class="address strong">
            {{ lastWords(lane.last) }}
          </text>
          <text v-if="lane.reach" :x="x(until) + 14" :y="lane.top + 34" class="address">
            {{ lane.reach }}
          </text>
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
