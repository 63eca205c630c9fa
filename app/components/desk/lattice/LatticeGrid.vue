<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { withSilent, type Lattice } from '#core/addresses'
import { CHANNELS } from '#core/midi'
import type { Finding } from '#core/conflicts'
import { spansOf } from '#core/rig'
import { LATTICE, latticeGeometry } from '~/lib/lattice/geometry'
import { groundRuns, headings, headingsThatFit, strongLines } from '~/lib/lattice/ground'
import { nextSpot, stepSpot, type Spot } from '~/lib/lattice/walk'
import { plannedChannels } from '~/lib/plan/moves'

const { lattice, marks } = defineProps<{ lattice: Lattice; marks: ReadonlyMap<number, Finding> }>()
const emit = defineEmits<{ look: [spot: { channel: number; number: number } | null] }>()
const desk = useDeskStore()
const rigs = useRigStore()
const plans = usePlanStore()

const frame = useTemplateRef('frame')
const { width } = useElementSize(frame)
/** Silent channels have no row, but where a plan goes to one, or something is carried that could. */
const planned = computed(() =>
  plans.plan && plans.isCurrent
    ? withSilent(lattice, plannedChannels(plans.plan, lattice.family), 'in-order')
    : lattice,
)
const shown = computed(() =>
  drag.value ? withSilent(planned.value, new Set(CHANNELS), 'below') : planned.value,
)
const geometry = computed(() => latticeGeometry(width.value, shown.value.rows.length))
const runs = computed(() => groundRuns(shown.value.family))
const titles = computed(() =>
  headingsThatFit(
    headings(shown.value.family, rigs.rig?.middleC ?? 3, rigs.rig?.programsFrom ?? 1),
    geometry.value.columnWidth,
  ),
)
const lines = computed(() => strongLines(shown.value.family))
const selected = computed(() =>
  desk.controller && desk.gesture ? `${desk.controller.id}/${desk.gesture}` : null,
)

const { drag, start: startDrag } = useCellDrag(
  () => shown.value,
  () => geometry.value,
)
/** A drag ends with a click on where it ended: that one picks nothing. */
let wasDragged = false
watch(drag, (now) => {
  if (!now) return
  wasDragged = true
  look(now.to)
})

const cursor = ref<Spot | null>(null)
const isFocused = ref(false)
const ROW = LATTICE.rowHeight

function look(spot: Spot | null): void {
  const row = spot ? shown.value.rows[spot.row] : undefined
  emit('look', row && spot ? { channel: row.channel, number: spot.number } : null)
}

function spotUnder(event: MouseEvent): Spot | null {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  return geometry.value.cellAt(event.clientX - box.left, event.clientY - box.top)
}

/** Select who sends to a cell; pressing again goes to the next of several. */
function pick(spot: Spot | null): void {
  if (!spot) return
  cursor.value = spot
  const owners = shown.value.rows[spot.row]?.cells.find(({ number }) => number === spot.number)?.owners ?? []
  const ordered = [...owners].sort((a, b) => Number(b.live) - Number(a.live))
  const now = ordered.findIndex(({ gesture }) => gesture === selected.value)
  const next = ordered[(now + 1) % Math.max(1, ordered.length)]
  if (next) desk.goTo(next.place)
}

const walkFindings = useFindingWalk()

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

function onKey(event: KeyboardEvent): void {
  const from = cursor.value ?? { row: 0, number: 0 }
  const step = STEPS[event.key]
  if (step && (event.ctrlKey || event.metaKey) && step[0] !== 0) {
    cursor.value = nextSpot(shown.value.rows, from, 'occupied', step[0] > 0 ? 1 : -1)
  } else if (step && event.shiftKey && step[0] !== 0) {
    cursor.value = nextSpot(shown.value.rows, from, 'free', step[0] > 0 ? 1 : -1)
  } else if (step) {
    cursor.value = stepSpot(shown.value.rows, from, step[0], step[1])
  } else if (event.key === 'Enter' || event.key === ' ') {
    pick(cursor.value)
  } else if (event.key === 'z' && cursor.value) {
    desk.zoomed = shown.value.rows[cursor.value.row]?.channel ?? null
  } else if (event.key === 'PageDown' || event.key === 'PageUp') {
    walkFindings(event.key === 'PageDown' ? 1 : -1)
  } else if (event.key === 'Escape') {
    desk.select(null)
  } else return
  event.preventDefault()
  look(cursor.value)
}

/** Where the selected gesture's first cell is, for the keyboard to start from. */
watch([selected, () => lattice], () => {
  const row = shown.value.rows.findIndex(({ cells }) =>
    cells.some(({ owners }) => owners.some(({ gesture, live }) => live && gesture === selected.value)),
  )
  const cell = shown.value.rows[row]?.cells.find(({ owners }) =>
    owners.some(({ gesture }) => gesture === selected.value),
  )
  if (cell) cursor.value = { row, number: cell.number }
  look(cell ? cursor.value : null)
})

const NOUN = { cc: 'controller number', note: 'note', program: 'program' } as const
const silent = computed(() => {
  const channels = shown.value.silentChannels
  if (channels.length === 0) return ''
  if (shown.value.rows.length === 0)
    return `No ${NOUN[shown.value.family]} arrives here yet. Give a control one in its sentence, or look at the other family above.`
  return `${channels.length === 1 ? 'channel' : 'channels'} ${spansOf(channels)}: nothing sent`
})
</script>

<template>
  <div ref="frame" class="px-4">
    <svg
      v-if="width > 0"
      :width="geometry.width"
      :height="geometry.height"
      role="application"
      tabindex="0"
      aria-roledescription="lattice"
      :aria-label="`Lattice, ${shown.rows.length} channels in use. Arrows move, Control with arrows goes to the next in use, Shift with arrows to the next free, Page Down to the next finding, Enter selects, z shows one channel large.`"
      class="lattice block"
      data-testid="lattice"
      :data-shows="shown.family"
      @mousemove="look(spotUnder($event))"
      @mouseleave="look(isFocused ? cursor : null)"
      @pointerdown="((wasDragged = false), startDrag($event, spotUnder($event)))"
      @click="wasDragged || pick(spotUnder($event))"
      @keydown="onKey"
      @focus="isFocused = true"
      @blur="isFocused = false"
    >
      <LatticeDefs />
      <text v-for="title in titles" :key="title.at" :x="geometry.x(title.at) + 1" y="13" class="heading">
        {{ title.text }}
      </text>
      <text
        v-for="(name, index) in ['bend', 'press', 'prog']"
        :key="name"
        :x="geometry.stripX + 14 + index * LATTICE.stripStep"
        y="13"
        class="heading middle"
      >
        {{ name }}
      </text>
      <g v-for="run in runs" :key="run.low">
        <rect
          :x="geometry.x(run.low)"
          :y="LATTICE.top"
          :width="(run.high - run.low + 1) * geometry.columnWidth"
          :height="shown.rows.length * ROW"
          :class="run.ground === 'toned' ? 'toned' : 'kept'"
        />
      </g>
      <path
        class="hairs"
        :d="
          Array.from(
            { length: 129 },
            (_, n) => `M${geometry.x(n)} ${LATTICE.top}V${geometry.height - 1}`,
          ).join('')
        "
      />
      <path
        class="strongs"
        :d="lines.map((n) => `M${geometry.x(n)} ${LATTICE.top}V${geometry.height - 1}`).join('')"
      />
      <path
        class="strongs"
        :d="
          Array.from(
            { length: shown.rows.length + 1 },
            (_, n) => `M${LATTICE.left - 88} ${geometry.y(n)}H${geometry.x(128)}`,
          ).join('')
        "
      />
      <LazyLatticeSelection
        v-if="desk.selectedRefs.size > 0"
        :lattice="shown"
        :geometry="geometry"
        :marks="marks"
      />
      <LazyHeardCells v-if="desk.heard.length > 0" :lattice="shown" :geometry="geometry" />
      <LatticeRowView
        v-for="(row, index) in shown.rows"
        :key="row.channel"
        :row="row"
        :y="geometry.y(index)"
        :geometry="geometry"
        :family="shown.family"
        :marks="marks"
      />
      <rect
        v-for="(row, index) in shown.rows"
        :key="`zoom-${row.channel}`"
        x="0"
        :y="geometry.y(index)"
        :width="LATTICE.left - 4"
        :height="ROW"
        class="channel-head"
        :data-zoom="row.channel"
        @click.stop="desk.zoomed = row.channel"
      >
        <title>Channel {{ row.channel }} by itself, with names</title>
      </rect>
      <LazyLatticePlan
        v-if="plans.plan && plans.isCurrent"
        :plan="plans.plan"
        :lattice="shown"
        :geometry="geometry"
      />
      <g v-if="drag" data-testid="lattice-drag">
        <rect
          v-for="cell in drag.cells"
          :key="`${cell.row}-${cell.number}`"
          :x="geometry.x(cell.number)"
          :y="geometry.y(cell.row) + 1.5"
          :width="geometry.columnWidth"
          :height="ROW - 3"
          rx="2"
          :class="cell.isTaken ? 'taken' : 'free'"
        />
      </g>
      <rect
        v-if="cursor && isFocused"
        :x="geometry.x(cursor.number) - 1"
        :y="geometry.y(cursor.row) + 1"
        :width="geometry.columnWidth + 2"
        :height="ROW - 2"
        class="cursor"
      />
    </svg>
    <p
      v-if="silent"
      :class="shown.rows.length === 0 ? 'text-soft py-4 text-center' : 'text-soft text-2xs py-1'"
    >
      {{ silent }}
    </p>
  </div>
</template>

<style scoped>
.lattice {
  cursor: default;
}
.channel-head {
  fill: transparent;
  cursor: zoom-in;
}
.channel-head:hover {
  stroke: var(--ink);
}
.heading {
  font: 450 11px var(--font-mono);
  fill: var(--soft);
}
.middle {
  text-anchor: middle;
}
.toned {
  fill: var(--known);
  opacity: 0.75;
}
.kept {
  fill: url(#lattice-kept);
}
.hairs {
  stroke: var(--hair);
  stroke-width: 1;
}
.strongs {
  stroke: var(--line);
  stroke-width: 1;
}
.free {
  fill: var(--marker);
  stroke: var(--ink);
}
.taken {
  fill: url(#lattice-conflict);
  stroke: var(--conflict);
  stroke-width: 1.6;
}
.cursor {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 3 2;
}
</style>
