<script setup lang="ts">
import type { Lattice } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { placeName } from '#core/rig'
import { largeCells, type LargeCell } from '~/lib/lattice/names'

/** One channel large: its 128 numbers in sixteen columns, with what they mean and who sends them. */
const { lattice, channel, marks } = defineProps<{
  lattice: Lattice
  channel: number
  marks: ReadonlyMap<number, Finding>
}>()
const emit = defineEmits<{ look: [spot: { channel: number; number: number } | null] }>()
const desk = useDeskStore()
const rigs = useRigStore()
const COLUMNS = 16

const row = computed(() => lattice.rows.find((each) => each.channel === channel))
const cells = computed(() =>
  largeCells(lattice.family, channel, row.value, marks, {
    middleC: rigs.rig?.middleC ?? 3,
    programsFrom: rigs.rig?.programsFrom ?? 1,
  }),
)
const hues = computed(() => new Map(desk.controllers.map(({ id, letter, hue }) => [id, { letter, hue }])))
const nameOf = ({ owners: [first] }: LargeCell): string =>
  first && rigs.rig ? placeName(rigs.rig, first.place).gesture : ''
const lettersOf = ({ owners }: LargeCell): string[] => [
  ...new Set(owners.map(({ controller }) => controller)),
]
const isSelected = ({ owners }: LargeCell): boolean =>
  owners.some(({ gesture, live }) => live && desk.selectedRefs.has(gesture))

const at = ref(0)
const grid = useTemplateRef('grid')
function look(number: number): void {
  at.value = number
  emit('look', { channel, number })
}
function pick({ owners }: LargeCell): void {
  const next = owners.find(({ live }) => live) ?? owners[0]
  if (next) desk.goTo(next.place)
}
const STEPS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowUp: -COLUMNS,
  ArrowDown: COLUMNS,
}
function onKey(event: KeyboardEvent): void {
  const by = STEPS[event.key]
  if (by !== undefined) {
    const to = at.value + by
    if (to >= 0 && to < cells.value.length) look(to)
    void nextTick(() => grid.value?.querySelector<HTMLElement>(`[data-number="${at.value}"]`)?.focus())
  } else if (event.key === 'Escape') {
    desk.zoomed = null
  } else return
  event.preventDefault()
}
</script>

<template>
  <div
    ref="grid"
    role="group"
    :aria-label="`Channel ${channel}: arrows move, Enter selects who sends, Escape shows all channels`"
    class="grid h-full min-h-48 grid-cols-16 grid-rows-8 gap-px px-4 pb-2"
    data-testid="lattice-large"
    @keydown="onKey"
    @mouseleave="emit('look', null)"
  >
    <button
      v-for="cell in cells"
      :key="cell.number"
      type="button"
      class="cell relative min-w-0 overflow-hidden rounded-sm border px-1 text-left leading-3"
      :class="[
        cell.severity === 'error'
          ? 'border-conflict bg-conflict-soft'
          : cell.severity !== null
            ? 'border-advice bg-advice-soft'
            : 'border-hair',
        isSelected(cell) && 'bg-marker! text-on-marker',
        (cell.kept !== null || cell.ground === 'kept') && 'kept',
        cell.ground === 'toned' && cell.severity === null && !isSelected(cell) && 'bg-known',
        !cell.isLive && cell.owners.length > 0 && 'opacity-60',
      ]"
      :tabindex="cell.number === at ? 0 : -1"
      :data-number="cell.number"
      :data-severity="cell.severity"
      :aria-label="`${cell.number} ${cell.name}: ${nameOf(cell) || cell.kept || 'free'}`"
      @mouseenter="look(cell.number)"
      @focus="look(cell.number)"
      @click="pick(cell)"
    >
      <span class="flex h-3 items-center gap-1">
        <span class="tag text-2xs leading-3 font-bold">{{ cell.number }}</span>
        <span
          v-for="id in lettersOf(cell).slice(0, 3)"
          :key="id"
          class="letter"
          :style="{ background: `var(--hue-${hues.get(id)?.hue ?? 7})` }"
          >{{ hues.get(id)?.letter }}</span
        >
      </span>
      <span
        class="text-2xs block truncate leading-3"
        :class="cell.owners.length === 0 && !isSelected(cell) && 'text-soft'"
        >{{ nameOf(cell) || cell.kept || cell.name }}</span
      >
    </button>
  </div>
</template>

<style scoped>
.letter {
  color: var(--on-hue);
  font: 680 9px/12px var(--font-sans);
  width: 12px;
  height: 12px;
  border-radius: 2px;
  text-align: center;
}
.cell.kept {
  background-image: repeating-linear-gradient(135deg, transparent 0 5px, var(--hair) 5px 6px);
}
</style>
