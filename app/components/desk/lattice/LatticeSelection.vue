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
const STRIP = ['pitchBend', 'channelPressure', 'program'] as const

/** What is marked in each row, measured from its top; what other layers send is one path a row. */
const rows = computed(() =>
  lattice.rows.map((row, index) => {
    const { columnWidth } = geometry
    const severityOf = (number: number) =>
      marks.get(cellKey({ kind: lattice.family, channel: row.channel, number }))?.severity ?? null
    const cells = selectedCells(row, desk.selectedRefs, preferences.otherLayers)
    const middle = (at: number): number => geometry.x(at) + columnWidth / 2
    return {
      channel: row.channel,
      y: geometry.y(index),
      live: cells
        .filter(({ isLive }) => isLive)
        .map(({ number }) => ({
          tag: `${row.channel}:${lattice.family}${number}`,
          x: geometry.x(number) - 2,
          severity: severityOf(number),
        })),
      elsewhere: cells
        .filter(({ isLive }) => !isLive)
        .map(
          ({ number }) => `M${geometry.x(number) - 2} 0.5h${columnWidth + 4}v${ROW - 1}h${-columnWidth - 4}z`,
        )
        .join(''),
      /** Lines that join the halves of pairs. */
      pairs: (lattice.family === 'cc' ? selectedPairs(row, desk.selectedRefs) : [])
        .map((number) => `M${middle(number)} ${ROW - 1}H${middle(number + PAIR_DISTANCE)}`)
        .join(''),
      /** Bend, pressure and program beside the row. */
      strips: STRIP.flatMap((kind, position) =>
        row.strip[kind].some(({ gesture }) => desk.selectedRefs.has(gesture))
          ? [geometry.stripX + position * LATTICE.stripStep]
          : [],
      ),
    }
  }),
)
</script>

<template>
  <g>
    <g v-for="row in rows" :key="row.channel" :transform="`translate(0 ${row.y})`">
      <path v-if="row.elsewhere" :d="row.elsewhere" class="elsewhere" data-selected />
      <rect
        v-for="cell in row.live"
        :key="cell.tag"
        :data-cell="cell.tag"
        :data-severity="cell.severity"
        data-selected
        class="chosen"
        :x="cell.x"
        y="0.5"
        :width="geometry.columnWidth + 4"
        :height="ROW - 1"
        rx="4"
      />
      <path v-if="row.pairs" :d="row.pairs" class="pair" />
      <rect
        v-for="x in row.strips"
        :key="x"
        class="chosen"
        :x="x"
        y="1"
        width="28"
        :height="ROW - 2"
        rx="4"
      />
    </g>
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
