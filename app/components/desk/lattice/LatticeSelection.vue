<script setup lang="ts">
import { cellKey, type Lattice } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { selectedCells } from '~/lib/lattice/draw'
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

const rows = computed(() =>
  lattice.rows.map((row, index) => ({
    channel: row.channel,
    y: geometry.y(index),
    cells: selectedCells(row, desk.selectedRefs, preferences.otherLayers).map((cell) => ({
      ...cell,
      severity:
        marks.get(cellKey({ space: lattice.family, channel: row.channel, number: cell.number }))?.severity ??
        null,
    })),
    strip: STRIP.flatMap((space, position) =>
      row.strip[space].some(({ gesture }) => desk.selectedRefs.has(gesture))
        ? [geometry.stripX + position * LATTICE.stripStep]
        : [],
    ),
  })),
)
</script>

<template>
  <g>
    <template v-for="row in rows" :key="row.channel">
      <g
        v-for="cell in row.cells"
        :key="cell.number"
        :data-cell="`${row.channel}:${lattice.family}${cell.number}`"
        :data-severity="cell.severity"
        data-selected
      >
        <rect
          :class="cell.isLive ? 'chosen' : 'elsewhere'"
          :x="geometry.x(cell.number) - 2"
          :y="row.y + 0.5"
          :width="geometry.columnWidth + 4"
          :height="ROW - 1"
          rx="4"
        />
      </g>
      <rect
        v-for="x in row.strip"
        :key="`strip-${x}`"
        class="chosen"
        :x="x"
        :y="row.y + 1"
        width="28"
        :height="ROW - 2"
        rx="4"
      />
    </template>
  </g>
</template>

<style scoped>
.chosen {
  fill: var(--marker);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.elsewhere {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 2 2;
}
</style>
