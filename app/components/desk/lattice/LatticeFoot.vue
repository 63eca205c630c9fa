<script setup lang="ts">
import { controllerClass, CONTROLLER_CLASS_LABEL } from '#core/midi'
import type { Family, Lattice } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { listenersAt } from '#core/mappings'
import { placeName } from '#core/rig'
import { numberName } from '~/lib/lattice/names'

const { tag, family, spot, lattice, finding, destinations, note } = defineProps<{
  tag: string
  family: Family
  spot: { channel: number; number: number } | null
  lattice: Lattice | null
  finding: Finding | null
  /** The destinations that are shown. */
  destinations: readonly string[]
  note: string
}>()
const rigs = useRigStore()

const meaning = computed(() => {
  const { rig } = rigs
  if (!spot || !rig) return ''
  const name = numberName(family, spot.channel, spot.number, rig)
  return name === '' && family === 'cc' ? CONTROLLER_CLASS_LABEL[controllerClass(spot.number)] : name
})
/** What listens there. */
const moves = computed(() => {
  const { rig } = rigs
  if (!spot || !rig) return ''
  const names = listenersAt(rig, destinations, { kind: family, ...spot })
  const more = names.length > 2 ? ` and ${names.length - 1} more` : ''
  return names.slice(0, more === '' ? 2 : 1).join(', ') + more
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
      <span class="text-soft whitespace-nowrap">{{ meaning }}</span>
      <span v-if="kept" class="text-soft">kept for {{ kept }}</span>
      <span
        class="min-w-0 truncate"
        :class="finding?.severity === 'error' && 'text-conflict'"
        :title="finding?.message"
        >{{ finding?.message ?? (senders || 'free') }}</span
      >
      <span v-if="moves" class="text-soft max-w-80 shrink-0 truncate">moves {{ moves }}</span>
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
