<script setup lang="ts">
import type { Lattice } from '#core/addresses'
import type { Plan } from '#core/allocate'
import { LATTICE, type LatticeGeometry } from '~/lib/lattice/geometry'
import type { Spot } from '~/lib/lattice/walk'
import { plannedMoves } from '~/lib/plan/moves'

/** The changes of a plan, drawn over the lattice: a line from what is left to what is taken. */
const { plan, lattice, geometry } = defineProps<{
  plan: Plan
  lattice: Lattice
  geometry: LatticeGeometry
}>()
const rigs = useRigStore()
const ROW = LATTICE.rowHeight

const hues = computed(() => new Map(rigs.rig?.controllers.map(({ id, hue }) => [id, hue]) ?? []))
const middle = ({ row, number }: Spot) => ({
  x: geometry.x(number) + geometry.columnWidth / 2,
  y: geometry.y(row) + ROW / 2,
})

/** A shallow bow from one cell to another, so that several between two rows can be told apart. */
function bow(from: Spot, to: Spot): string {
  const [a, b] = [middle(from), middle(to)]
  const lift = a.y === b.y ? Math.min(18, 8 + Math.abs(b.x - a.x) / 24) : 0
  return `M${a.x} ${a.y}Q${(a.x + b.x) / 2} ${(a.y + b.y) / 2 - lift} ${b.x} ${b.y}`
}
const moves = computed(() =>
  plannedMoves(plan, lattice).map((move) => ({
    ...move,
    path: move.from && move.to ? bow(move.from, move.to) : null,
    colour: `var(--hue-${hues.value.get(move.controller) ?? 0})`,
  })),
)
</script>

<template>
  <g class="plan" data-testid="lattice-plan">
    <template v-for="move in moves" :key="move.key">
      <path v-if="move.path" :d="move.path" class="halo" />
      <path v-if="move.path" :d="move.path" class="way" />
      <rect
        v-if="move.from"
        class="left"
        :x="geometry.x(move.from.number)"
        :y="geometry.y(move.from.row) + 2"
        :width="geometry.columnWidth"
        :height="ROW - 4"
      />
      <rect
        v-if="move.to"
        class="taken"
        :x="geometry.x(move.to.number) - 1"
        :y="geometry.y(move.to.row) + 1.5"
        :width="geometry.columnWidth + 2"
        :height="ROW - 3"
        rx="2"
        :style="{ fill: move.colour }"
        :data-planned="move.key"
      />
    </template>
  </g>
</template>

<style scoped>
.plan {
  pointer-events: none;
}
.halo {
  fill: none;
  stroke: var(--sheet);
  stroke-width: 4;
}
.way {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.left {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
  stroke-dasharray: 2 2;
}
.taken {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
