<script setup lang="ts">
import { Minimize2, Route } from '@lucide/vue'
import { cellKey, cellTarget, EVERY_BUS } from '#core/addresses'
import { CHANNELS, printTag } from '#core/midi'
import { kept } from '~/lib/kept'

const desk = useDeskStore()
const analysis = useAnalysisStore()
const preferences = usePreferencesStore()
const plans = usePlanStore()
const rigs = useRigStore()
const readout = ref<{ channel: number; number: number } | null>(null)
const marks = useMarks()

const lattice = computed(() => analysis.lattice)
const busOptions = computed<Array<{ value: string; label: string }>>((before) => {
  const each = analysis.buses.map(({ id, name }) => ({ value: id, label: name }))
  return kept(before, each.length > 1 ? [...each, { value: EVERY_BUS, label: 'every destination' }] : each)
})
/** The destinations that are shown. */
const destinations = computed(() =>
  analysis.buses
    .filter(({ id }) => bus.value === EVERY_BUS || id === bus.value)
    .map(({ destination }) => destination),
)
const bus = computed({
  get: () => lattice.value?.bus ?? '',
  set: (id) => {
    desk.bus = id
  },
})
const shownBus = computed(() => analysis.buses.find(({ id }) => id === bus.value))
/** Does anything that is sent arrive anywhere? Else all of it is shown as if it went to one place. */
const isHeard = computed(() => {
  const { value: one } = shownBus
  return !one || rigs.rig?.destinations.some(({ id }) => id === one.destination) === true
})
/** The families of the grid, and the list of parameters. */
const TABS = [
  { id: 'cc', name: 'CC', noun: 'a CC' },
  { id: 'note', name: 'Notes', noun: 'a note' },
  { id: 'program', name: 'Programs', noun: 'a program' },
  { id: 'parameter', name: 'NRPN, RPN', noun: 'a parameter' },
] as const
type Tab = (typeof TABS)[number]['id']
const tab = computed<Tab>({
  get: () => (desk.isListing ? 'parameter' : desk.family),
  set: (id) => {
    desk.isListing = id === 'parameter'
    if (id !== 'parameter') desk.family = id
  },
})
const noun = computed(() => TABS.find(({ id }) => id === tab.value)?.noun ?? '')
const parameters = computed(() => analysis.report?.parameters ?? [])

/** Does anything of the selected gesture arrive on the bus that is shown, in any family? */
const selectionArrives = computed(() => {
  const { gesture, controller } = desk
  if (!gesture || !controller || !lattice.value) return true
  const ref = `${controller.id}/${gesture}`
  if (desk.isListing)
    return parameters.value.some(({ owners }) => owners.some((owner) => owner.gesture === ref))
  return lattice.value.rows.some(
    (row) =>
      row.cells.some(({ owners }) => owners.some((owner) => owner.gesture === ref)) ||
      Object.values(row.strip).some((owners) => owners.some((owner) => owner.gesture === ref)),
  )
})

const finding = computed(() => {
  if (!readout.value) return null
  return marks.value.byCell.get(cellKey({ kind: desk.family, ...readout.value })) ?? null
})
const tag = computed(() =>
  readout.value
    ? printTag({
        scope: 'channel',
        channel: readout.value.channel,
        target: cellTarget({ kind: desk.family, number: readout.value.number }),
      })
    : '',
)
</script>

<template>
  <section class="bg-sheet flex h-full flex-col" aria-label="Lattice">
    <header class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-1.5">
      <h2 class="text-base font-bold">Lattice</h2>
      <UiSelect
        v-if="lattice"
        v-model="bus"
        label="What reaches"
        :caption="isHeard ? 'what reaches' : 'what is'"
        :options="busOptions"
      />
      <TabStrip v-model="tab" :tabs="TABS" label="Family of addresses" attribute="data-family" />
      <label class="text-soft flex items-center gap-1.5 text-xs whitespace-nowrap">
        <input v-model="preferences.otherLayers" type="checkbox" class="accent-ink" />other layers, faintly
      </label>
      <span v-if="desk.zoomed !== null && !desk.isListing" class="flex items-center gap-1.5">
        <UiButton data-testid="all-channels" @click="desk.zoomed = null"
          ><Minimize2 :size="13" />All channels</UiButton
        >
        <select
          v-model.number="desk.zoomed"
          aria-label="Channel"
          class="bg-raised border-line h-7 rounded-md border px-1"
        >
          <option v-for="channel in CHANNELS" :key="channel" :value="channel">channel {{ channel }}</option>
        </select>
      </span>
      <LatticeLegend v-if="!desk.isListing && !plans.isOpen" class="ml-auto" :family="desk.family" />
      <UiButton
        :class="(desk.isListing || plans.isOpen) && 'ml-auto'"
        :look="plans.isOpen ? 'strong' : 'quiet'"
        :aria-pressed="plans.isOpen"
        data-testid="plan-open"
        @click="plans.isOpen ? plans.close() : plans.open()"
        ><Route :size="13" />Plan</UiButton
      >
    </header>
    <div class="min-h-0 flex-1 overflow-auto">
      <LazyParameterTable
        v-if="lattice && desk.isListing"
        :lines="parameters"
        :destinations="destinations"
        :marks="marks.byCell"
      />
      <LazyLatticeLarge
        v-else-if="lattice && desk.zoomed !== null"
        :lattice="lattice"
        :channel="desk.zoomed"
        :marks="marks.byCell"
        @look="readout = $event"
      />
      <LatticeGrid v-else-if="lattice" :lattice="lattice" :marks="marks.byCell" @look="readout = $event" />
      <p v-else-if="analysis.failure" class="text-conflict px-4 py-3" role="alert">
        The analysis stopped: {{ analysis.failure }} Change anything to start it again, or reload.
      </p>
      <p v-else-if="analysis.report" class="text-soft px-4 py-3">Nothing is sent yet.</p>
      <p v-else class="text-soft px-4 py-3">Working out every address…</p>
    </div>
    <LatticeFoot
      :tag="tag"
      :family="desk.family"
      :spot="readout"
      :lattice="lattice"
      :finding="finding"
      :destinations="destinations"
      :note="
        !selectionArrives
          ? `What is selected does not arrive here as ${noun}.`
          : !isHeard
            ? 'Cells with two letters would collide if everything went to one place.'
            : shownBus?.mergesChannels
              ? `${shownBus.name} takes all channels for one.`
              : ''
      "
    />
  </section>
</template>
