<script setup lang="ts">
import { cellKey, type Family, type LatticeCell, type LatticeRow, type Owner } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { LATTICE, type LatticeGeometry } from '~/lib/lattice/geometry'

const { row, y, geometry, family, marks, selected } = defineProps<{
  row: LatticeRow
  y: number
  geometry: LatticeGeometry
  family: Family
  marks: ReadonlyMap<number, Finding>
  selected: ReadonlySet<string>
}>()
const desk = useDeskStore()
const rigs = useRigStore()
const preferences = usePreferencesStore()

const ROW = LATTICE.rowHeight
const controllers = computed(() => new Map(desk.controllers.map((controller) => [controller.id, controller])))
const hue = (owner: Owner): string => `var(--hue-${controllers.value.get(owner.controller)?.hue ?? 7})`
const shared = computed(() => new Set(rigs.rig?.accords.flatMap(({ gestures }) => gestures) ?? []))

interface Drawn {
  number: number
  slices: ReadonlyArray<{ owner: Owner; y: number; height: number }>
  severity: Finding['severity'] | null
  isSelected: boolean
  isLive: boolean
  isShared: boolean
}

/** Cells to draw: owners that are live (others on request), one slice each, three at most. */
const cells = computed<Drawn[]>(() =>
  row.cells.flatMap((cell: LatticeCell): Drawn[] => {
    const visible = cell.owners.filter(({ live }) => live || preferences.otherLayers)
    if (visible.length === 0) return []
    const live = visible.filter((owner) => owner.live)
    const shown = (live.length > 0 ? live : visible).slice(0, 3)
    const height = (ROW - 6) / shown.length
    return [
      {
        number: cell.number,
        slices: shown.map((owner, index) => ({ owner, y: y + 3 + index * height, height })),
        severity:
          marks.get(cellKey({ space: family, channel: row.channel, number: cell.number }))?.severity ?? null,
        isLive: live.length > 0,
        isSelected: visible.some(({ gesture }) => selected.has(gesture)),
        isShared: live.filter(({ gesture }) => shared.value.has(gesture)).length > 1,
      },
    ]
  }),
)

const strip = computed(() =>
  (['bend', 'pressure', 'program'] as const).map((space, index) => ({
    space,
    x: geometry.stripX + index * LATTICE.stripStep,
    owner: row.strip[space].find(({ live }) => live) ?? row.strip[space][0] ?? null,
    isSelected: row.strip[space].some(({ gesture }) => selected.has(gesture)),
    severity: marks.get(cellKey({ space, channel: row.channel, number: 0 }))?.severity ?? null,
  })),
)
const opacity = ({ live, part, role }: Owner): number =>
  live ? (part === 'second' || role === 'carrier' ? 0.5 : 1) : 0.28
</script>

<template>
  <g :data-channel="row.channel">
    <text :x="26" :y="y + 15" class="channel">{{ row.channel }}</text>
    <g
      v-for="(id, index) in row.controllers.slice(0, 2)"
      :key="id"
      :transform="`translate(${32 + index * 15} ${y + 4})`"
    >
      <rect width="13" height="13" rx="2.5" :fill="`var(--hue-${controllers.get(id)?.hue ?? 7})`" />
      <text x="6.5" y="10" class="letter">{{ controllers.get(id)?.letter }}</text>
    </g>
    <text :x="88" :y="y + 15" class="full">
      {{
        row.controllers.length > 2 ? `+${row.controllers.length - 2}` : `${Math.round(row.fullness * 100)}%`
      }}
    </text>
    <rect
      v-for="kept in row.kept"
      :key="kept.low"
      class="kept"
      :x="geometry.x(kept.low)"
      :y="y + 0.5"
      :width="(kept.high - kept.low + 1) * geometry.columnWidth"
      :height="ROW - 1"
    >
      <title>kept for {{ kept.function }}</title>
    </rect>
    <g
      v-for="cell in cells"
      :key="cell.number"
      :data-cell="`${row.channel}:${family}${cell.number}`"
      :data-severity="cell.severity"
      :data-selected="cell.isSelected || undefined"
    >
      <rect
        v-if="cell.isSelected"
        :class="cell.isLive ? 'chosen' : 'elsewhere'"
        :x="geometry.x(cell.number) - 2"
        :y="y + 0.5"
        :width="geometry.columnWidth + 4"
        :height="ROW - 1"
        rx="4"
      />
      <rect
        v-for="slice in cell.slices"
        :key="slice.owner.gesture + slice.owner.place.layer"
        :x="geometry.x(cell.number) + 1"
        :y="slice.y"
        :width="geometry.columnWidth - 2"
        :height="slice.height - (cell.slices.length > 1 ? 1 : 0)"
        rx="1.5"
        :fill="hue(slice.owner)"
        :fill-opacity="opacity(slice.owner)"
      />
      <template v-if="cell.severity === 'error'">
        <rect
          class="conflict"
          :x="geometry.x(cell.number) + 0.5"
          :y="y + 2.5"
          :width="geometry.columnWidth - 1"
          :height="ROW - 5"
          rx="2"
        />
        <path class="notch" :d="`M${geometry.x(cell.number + 1) - 5} ${y + 2}h5v5z`" />
      </template>
      <rect
        v-else-if="cell.severity"
        class="warned"
        :x="geometry.x(cell.number) + 0.5"
        :y="y + 2.5"
        :width="geometry.columnWidth - 1"
        :height="ROW - 5"
        rx="2"
      />
      <path
        v-if="cell.isShared"
        class="shared"
        :d="`M${geometry.x(cell.number)} ${y + ROW - 1}h${geometry.columnWidth}m0 -2.5h${-geometry.columnWidth}`"
      />
    </g>
    <g v-for="mark in strip" :key="mark.space">
      <rect
        v-if="mark.isSelected"
        class="chosen"
        :x="mark.x"
        :y="y + 1"
        width="28"
        :height="ROW - 2"
        rx="4"
      />
      <rect
        v-if="mark.owner"
        :x="mark.x + 3"
        :y="y + 4"
        width="22"
        :height="ROW - 8"
        rx="2.5"
        :fill="hue(mark.owner)"
        :fill-opacity="opacity(mark.owner)"
      />
      <rect
        v-if="mark.severity"
        :x="mark.x + 2.5"
        :y="y + 3.5"
        width="23"
        :height="ROW - 7"
        rx="3"
        class="warned"
      />
    </g>
  </g>
</template>

<style scoped>
.channel {
  font: 550 12px var(--font-mono);
  fill: var(--ink);
  text-anchor: end;
}
.letter {
  font: 680 10px var(--font-sans);
  fill: var(--on-hue);
  text-anchor: middle;
}
.full {
  font: 450 11px var(--font-mono);
  fill: var(--soft);
  text-anchor: end;
}
.kept {
  fill: url(#lattice-kept);
  stroke: var(--line);
}
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
.conflict {
  fill: url(#lattice-conflict);
  stroke: var(--conflict);
  stroke-width: 1.4;
}
.notch {
  fill: var(--conflict);
}
.warned {
  fill: none;
  stroke: var(--advice);
  stroke-width: 1.6;
  stroke-dasharray: 3 1.5;
}
.shared {
  stroke: var(--accord);
  stroke-width: 1.3;
  fill: none;
}
</style>
