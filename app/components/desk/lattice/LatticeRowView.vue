<script setup lang="ts">
import { cellKey, type Family, type LatticeRow } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { cellNotes, cellPaths, ownerOpacity } from '~/lib/lattice/draw'
import { LATTICE, type LatticeGeometry } from '~/lib/lattice/geometry'

/** One channel of the lattice: everything but the selection, which is drawn over it. */
const { row, y, geometry, family, marks } = defineProps<{
  row: LatticeRow
  y: number
  geometry: LatticeGeometry
  family: Family
  marks: ReadonlyMap<number, Finding>
}>()
const desk = useDeskStore()
const preferences = usePreferencesStore()

const ROW = LATTICE.rowHeight
const hue = (controller: string): string => `var(--hue-${desk.faces.get(controller)?.hue ?? 7})`
const shared = useSharedGestures()

const paths = computed(() => cellPaths(row, geometry, preferences.otherLayers))
const notes = computed(() => cellNotes(row, family, marks, shared.value, preferences.otherLayers))

const strip = computed(() =>
  (['pitchBend', 'channelPressure', 'program'] as const).map((kind, index) => ({
    kind,
    x: geometry.stripX + index * LATTICE.stripStep,
    owner: row.strip[kind].find(({ live }) => live) ?? row.strip[kind][0] ?? null,
    severity: marks.get(cellKey({ kind, channel: row.channel, number: 0 }))?.severity ?? null,
  })),
)
</script>

<template>
  <g :data-channel="row.channel" :transform="`translate(0 ${y})`">
    <text x="26" y="15" class="channel">{{ row.channel }}</text>
    <g
      v-for="(id, index) in row.controllers.slice(0, 2)"
      :key="id"
      :transform="`translate(${32 + index * 15} 4)`"
    >
      <rect width="13" height="13" rx="2.5" :fill="hue(id)" />
      <text x="6.5" y="10" class="letter">{{ desk.faces.get(id)?.letter }}</text>
    </g>
    <text x="88" y="15" class="full">
      {{
        row.controllers.length > 2 ? `+${row.controllers.length - 2}` : `${Math.round(row.fullness * 100)}%`
      }}
    </text>
    <rect
      v-for="kept in row.kept"
      :key="kept.low"
      class="kept"
      :x="geometry.x(kept.low)"
      y="0.5"
      :width="(kept.high - kept.low + 1) * geometry.columnWidth"
      :height="ROW - 1"
    >
      <title>kept for {{ kept.function }}</title>
    </rect>
    <path
      v-for="path in paths"
      :key="path.key"
      :d="path.d"
      :fill="hue(path.controller)"
      :stroke="hue(path.controller)"
      :opacity="path.opacity"
      class="cells"
    />
    <g
      v-for="note in notes"
      :key="note.number"
      :data-cell="`${row.channel}:${family}${note.number}`"
      :data-severity="note.severity"
    >
      <template v-if="note.severity === 'error'">
        <rect
          class="conflict"
          :x="geometry.x(note.number) + 0.5"
          y="2.5"
          :width="geometry.columnWidth - 1"
          :height="ROW - 5"
          rx="2"
        />
        <path class="notch" :d="`M${geometry.x(note.number + 1) - 5} 2h5v5z`" />
      </template>
      <rect
        v-else-if="note.severity"
        class="warned"
        :x="geometry.x(note.number) + 0.5"
        y="2.5"
        :width="geometry.columnWidth - 1"
        :height="ROW - 5"
        rx="2"
      />
      <path
        v-if="note.isShared"
        class="shared"
        :d="`M${geometry.x(note.number)} ${ROW - 1}h${geometry.columnWidth}m0 -2.5h${-geometry.columnWidth}`"
      />
    </g>
    <g v-for="mark in strip" :key="mark.kind">
      <rect
        v-if="mark.owner"
        :x="mark.x + 3"
        y="4"
        width="22"
        :height="ROW - 8"
        rx="2.5"
        :fill="hue(mark.owner.controller)"
        :fill-opacity="ownerOpacity(mark.owner)"
      />
      <rect
        v-if="mark.severity"
        :x="mark.x + 2.5"
        y="3.5"
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
.cells {
  stroke-width: 1;
  stroke-linejoin: round;
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
