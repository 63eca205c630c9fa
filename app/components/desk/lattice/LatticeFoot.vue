<script setup lang="ts">
import {
  controllerName,
  controllerClass,
  CONTROLLER_CLASS_LABEL,
  noteName,
  percussionName,
  PERCUSSION_CHANNEL,
} from '#core/midi'
import type { Family, Lattice } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { placeName } from '#core/rig'

const { tag, family, spot, lattice, finding, note } = defineProps<{
  tag: string
  family: Family
  spot: { channel: number; number: number } | null
  lattice: Lattice | null
  finding: Finding | null
  note: string
}>()
const rigs = useRigStore()

const meaning = computed(() => {
  if (!spot) return ''
  if (family === 'cc')
    return controllerName(spot.number) ?? CONTROLLER_CLASS_LABEL[controllerClass(spot.number)]
  const drum = spot.channel === PERCUSSION_CHANNEL ? percussionName(spot.number) : null
  return [noteName(spot.number, rigs.rig?.middleC ?? 3), drum && `by standard ${drum.toLowerCase()}`]
    .filter(Boolean)
    .join(', ')
})
const row = computed(() => lattice?.rows.find(({ channel }) => channel === spot?.channel))
const senders = computed(() => {
  const { rig } = rigs
  const owners = row.value?.cells.find(({ number }) => number === spot?.number)?.owners ?? []
  if (!rig) return ''
  const names = owners.map(({ place }) => {
    const { controller, gesture, layer } = placeName(rig, place)
    return `${controller} · ${gesture}${layer === null ? '' : ` in ${layer}`}`
  })
  return names.length > 3 ? `${names.slice(0, 2).join('; ')} and ${names.length - 2} more` : names.join('; ')
})
const kept = computed(
  () =>
    row.value?.kept.find(({ low, high }) => spot !== null && spot.number >= low && spot.number <= high)
      ?.function,
)
</script>

<template>
  <footer
    class="border-hair flex h-9 shrink-0 items-center gap-4 border-t px-4"
    aria-live="polite"
    data-testid="readout"
  >
    <template v-if="spot">
      <span class="tag font-bold">{{ tag }}</span>
      <span class="text-soft">{{ meaning }}</span>
      <span v-if="kept" class="text-soft">kept for {{ kept }}</span>
      <span class="min-w-0 truncate" :class="finding?.severity === 'error' && 'text-conflict'">{{
        senders || 'free'
      }}</span>
    </template>
    <span v-else class="text-soft"
      >Point at a cell, or walk the lattice with the arrow keys, to read what it means and who sends it.</span
    >
    <span class="text-soft ml-auto shrink-0">
      <span v-if="note" class="text-ink mr-4">{{ note }}</span>
      <template v-if="lattice"
        ><span class="tag">{{ lattice.used }}</span> numbers used</template
      >
    </span>
  </footer>
</template>
