<script setup lang="ts">
import type { Lattice } from '#core/addresses'
import { selectedCells } from '~/lib/lattice/draw'
import { LATTICE, type LatticeGeometry } from '~/lib/lattice/geometry'

/** Rings around the cells that real hardware is sending to. */
const { lattice, geometry } = defineProps<{ lattice: Lattice; geometry: LatticeGeometry }>()
const desk = useDeskStore()
const cells = computed(() => {
  const heard = new Set(desk.heard)
  return lattice.rows.flatMap((row, index) =>
    selectedCells(row, heard, false).map(({ number }) => ({
      key: `${row.channel} ${number}`,
      x: geometry.x(number) - 3,
      y: geometry.y(index) - 0.5,
    })),
  )
})
</script>

<template>
  <g aria-hidden="true">
    <rect
      v-for="cell in cells"
      :key="cell.key"
      :x="cell.x"
      :y="cell.y"
      :width="geometry.columnWidth + 6"
      :height="LATTICE.rowHeight + 1"
      rx="5"
      class="heard"
      :data-heard-cell="cell.key"
    />
  </g>
</template>

<style scoped>
.heard {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-dasharray: 4 2.5;
  pointer-events: none;
}
</style>
