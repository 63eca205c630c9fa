<script setup lang="ts">
import { cellKey, type Lattice } from '#core/addresses'
import { PAIR_DISTANCE } from '#core/midi'
import type { Finding } from '#core/conflicts'
import { selectedCells, selectedPairs } from '~/lib/lattice/draw'
import { LATTICE, type LatticeGeometry } from '~/lib/lattice/geometry'

/** The cells that the selection sends, marked behind them. */
const { lattice, geometry, marks } = defineProps<{
  lattice: Lattice
  geometry: LatticeGeometry
  marks: ReadonlyMap<number, Finding>
}>()
const desk = useDeskStore()
const preferences = usePreferencesStore()
const ROW = LATTICE.rowHeight
const STRIP = ['bend', 'pressure', 'program'] as const

const cells = computed(() =>
  lattice.rows.flatMap((row, index) =>
    selectedCells(row, desk.selectedRefs, preferences.otherLayers).map((cell) => ({
      ...cell,
      tag: `${row.channel}:${lattice.family}${cell.number}`,
      x: geometry.x(cell.number) - 2,
      y: geometry.y(index) + 0.5,
      severity:
        marks.get(cellKey({ space: lattice.family, channel: row.channel, number: cell.number }))?.severity ??
        null,
    })),
  ),
)
/** Lines that join the halves of pairs. */
const pairs = computed(() =>
  lattice.family === 'cc'
    ? lattice.rows.flatMap((row, index) =>
        selectedPairs(row, desk.selectedRefs).map((number) => {
          const middle = (at: number): number => geometry.x(at) + geometry.columnWidth / 2
          const bottom = geometry.y(index) + ROW - 1
          return `M${middle(number)} ${bottom}H${middle(number + PAIR_DISTANCE)}`
        }),
      )
    : [],
)
/** Bend, pressure and program beside the rows. */
const strips = computed(() =>
  lattice.rows.flatMap(({ channel, strip }, index) =>
    STRIP.flatMap((space, position) =>
      strip[space].some(({ gesture }) => desk.selectedRefs.has(gesture))
        ? [
            {
              key: `${channel}-${space}`,
              x: geometry.stripX + position * LATTICE.stripStep,
              y: geometry.y(index) + 1,
            },
          ]
        : [],
    ),
  ),
)
</script>

<template>
  <g>
    <rect
      v-for="cell in cells"
      :key="cell.tag"
      v-memo="[cell.isLive, cell.severity, geometry.columnWidth, cell.x, cell.y]"
      :data-cell="cell.tag"
      :data-severity="cell.severity"
      data-selected
      :class="cell.isLive ? 'chosen' : 'elsewhere'"
      :x="cell.x"
      :y="cell.y"
      :width="geometry.columnWidth + 4"
      :height="ROW - 1"
      rx="4"
    />
    <path v-if="pairs.length > 0" :d="pairs.join('')" class="pair" />
    <rect
      v-for="{ key, x, y } in strips"
      :key="key"
      class="chosen"
      :x="x"
      :y="y"
      width="28"
      :height="ROW - 2"
      rx="4"
    />
  </g>
</template>

<style scoped>
.chosen {
  fill: var(--marker);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.pair {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.elsewhere {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 2 2;
}
</style>
