<script setup lang="ts">
import { cellKey } from '#core/addresses'
import { printTag } from '#core/midi'

const desk = useDeskStore()
const analysis = useAnalysisStore()
const preferences = usePreferencesStore()
const readout = ref<{ channel: number; number: number } | null>(null)
const marks = useMarks()

const lattice = computed(() => analysis.lattice)
const busOptions = computed(() =>
  (analysis.report?.buses ?? []).map(({ id, name }) => ({ value: id, label: name })),
)
const bus = computed({
  get: () => lattice.value?.bus ?? '',
  set: (id) => {
    desk.bus = id
  },
})
const shownBus = computed(() => analysis.report?.buses.find(({ id }) => id === bus.value))
const FAMILIES = [
  { id: 'cc', name: 'CC' },
  { id: 'note', name: 'Notes' },
] as const

/** Does anything of the selected gesture arrive on the bus that is shown, in any family? */
const selectionArrives = computed(() => {
  const { gesture, controller } = desk
  if (!gesture || !controller || !lattice.value) return true
  const ref = `${controller.id}/${gesture}`
  return lattice.value.rows.some(
    (row) =>
      row.cells.some(({ owners }) => owners.some((owner) => owner.gesture === ref)) ||
      Object.values(row.strip).some((owners) => owners.some((owner) => owner.gesture === ref)),
  )
})

const finding = computed(() => {
  if (!readout.value) return null
  return marks.value.byCell.get(cellKey({ space: desk.family, ...readout.value })) ?? null
})
const tag = computed(() =>
  readout.value
    ? printTag({
        scope: 'channel',
        channel: readout.value.channel,
        target:
          desk.family === 'cc'
            ? { kind: 'cc', number: readout.value.number }
            : { kind: 'note', low: readout.value.number, high: readout.value.number },
      })
    : '',
)
</script>

<template>
  <section class="bg-sheet flex h-full flex-col" aria-label="Lattice">
    <header class="flex h-11 shrink-0 items-center gap-3 px-4">
      <h2 class="text-base font-bold">Lattice</h2>
      <UiSelect
        v-if="lattice"
        v-model="bus"
        label="What reaches"
        caption="what reaches"
        :options="busOptions"
      />
      <div class="flex" role="tablist" aria-label="Family of addresses">
        <button
          v-for="family in FAMILIES"
          :key="family.id"
          type="button"
          role="tab"
          :aria-selected="desk.family === family.id"
          class="h-7 rounded-md px-3 font-medium"
          :class="desk.family === family.id ? 'bg-ink text-sheet' : 'text-soft hover:text-ink'"
          @click="desk.family = family.id"
        >
          {{ family.name }}
        </button>
      </div>
      <label class="text-soft flex items-center gap-1.5 text-xs">
        <input v-model="preferences.otherLayers" type="checkbox" class="accent-ink" />other layers, faintly
      </label>
      <LatticeLegend class="ml-auto" :family="desk.family" />
    </header>
    <div class="min-h-0 flex-1 overflow-auto">
      <LatticeGrid v-if="lattice" :lattice="lattice" :marks="marks.byCell" @look="readout = $event" />
      <p v-else-if="analysis.failure" class="text-conflict px-4 py-3" role="alert">
        The analysis stopped: {{ analysis.failure }} Change anything to start it again, or reload.
      </p>
      <p v-else-if="analysis.report" class="text-soft px-4 py-3">
        Nothing listens yet: this rig has no destination, so no address can collide.
      </p>
      <p v-else class="text-soft px-4 py-3">Working out every address…</p>
    </div>
    <LatticeFoot
      :tag="tag"
      :family="desk.family"
      :spot="readout"
      :lattice="lattice"
      :finding="finding"
      :note="
        !selectionArrives
          ? `What is selected does not arrive here as ${desk.family === 'cc' ? 'a CC' : 'a note'}.`
          : shownBus?.mergesChannels
            ? `${shownBus.name} takes all channels for one.`
            : ''
      "
    />
  </section>
</template>
