<script setup lang="ts">
import { timeAgo } from '~/lib/time-ago'

/** Rehearsing the rig: every gesture through its whole range, and what was found. */
const rehearsal = useRehearsalStore()
const rigs = useRigStore()
const edit = useEdit()
const faults = computed(() => rehearsal.report?.findings.filter(({ weight }) => weight === 'fault') ?? [])
const notes = computed(() => rehearsal.report?.findings.filter(({ weight }) => weight === 'note') ?? [])
const faultCount = computed(() => faults.value.length + (rehearsal.report?.untold.faults ?? 0))
const noteCount = computed(() => notes.value.length + (rehearsal.report?.untold.notes ?? 0))
const areNotesShown = ref(false)
const MOST = 60
/** Mappings that were rehearsed and not proven. */
const faultyCount = computed(() => {
  const { report } = rehearsal
  return report
    ? Math.max(0, (rigs.rig?.mappings.length ?? 0) - report.proven.length - report.leftOut.length)
    : 0
})
const share = computed(() =>
  rehearsal.progress ? rehearsal.progress.done / Math.max(1, rehearsal.progress.of) : 0,
)
const wrong = computed(() => Object.keys(rehearsal.misbehaving).length)
const keptAt = computed(() => rigs.rig?.rehearsed?.at ?? null)
const canKeep = computed(
  () => rigs.canEdit && rehearsal.report !== null && !rehearsal.isStale && wrong.value === 0,
)
function keep(): void {
  const rehearsed = rehearsal.kept(new Date().toISOString())
  if (rehearsed) edit('Kept the rehearsal', [{ type: 'rehearsed-set', rehearsed }])
}
const sinceWords = computed(() => {
  const { since } = rehearsal
  if (!since) return ''
  const changed = since.changed.length + since.gone
  const parts = [
    `${since.same.length} as proven`,
    changed > 0 ? `${changed} changed since` : 'nothing changed since',
    since.unproven.length > 0 ? `${since.unproven.length} not proven` : '',
  ]
  return parts.filter((each) => each !== '').join(', ')
})
</script>

<template>
  <div data-testid="rehearse">
    <div class="flex items-center gap-2">
      <UiButton v-if="!rehearsal.isBusy" look="strong" data-testid="rehearse-now" @click="rehearsal.start()"
        >Rehearse everything</UiButton
      >
      <UiButton v-else data-testid="rehearse-stop" @click="rehearsal.stop()">Stop</UiButton>
      <UiButton v-if="rehearsal.report" :disabled="!canKeep" data-testid="rehearse-keep" @click="keep"
        >Keep with the rig</UiButton
      >
    </div>
    <div v-if="rehearsal.isBusy" class="pt-2" role="status">
      <span class="bg-hair block h-1.5 rounded-full"
        ><span class="bg-ink block h-full rounded-full" :style="{ width: `${share * 100}%` }"
      /></span>
      <p class="text-soft pt-1 text-xs">
        {{ rehearsal.progress?.done }} of {{ rehearsal.progress?.of }} gestures moved, in every layer, scope
        and passage
      </p>
    </div>
    <p v-if="rehearsal.failure" class="text-conflict pt-2" role="alert">
      The rehearsal has failed: {{ rehearsal.failure }} Your rig is untouched.
    </p>
    <p v-if="wrong > 0" class="text-advice pt-2 text-xs">
      {{ wrong === 1 ? 'One destination is' : `${wrong} destinations are` }} asked to do something wrong, and
      rehearsed so: what comes of it is not kept.
    </p>
    <p v-if="keptAt" class="text-soft pt-2 text-xs" data-testid="rehearsed">
      Rehearsed {{ timeAgo(keptAt) }}: {{ sinceWords }}.
    </p>
    <p v-else-if="!rehearsal.report && !rehearsal.isBusy" class="text-soft pt-2">
      Every control is moved through its whole range in simulation, in every layer, scope and passage. For
      each parameter you see whether it reaches both ends, whether anything else moves, and whether the light
      comes right.
    </p>

    <template v-if="rehearsal.report">
      <p class="pt-3 font-bold" data-testid="rehearsal-summary">
        {{ faultCount === 0 ? 'No fault' : faultCount === 1 ? '1 fault' : `${faultCount} faults` }};
        {{ rehearsal.report.proven.length }} of {{ rehearsal.report.proven.length + faultyCount }} mappings
        proven
      </p>
      <p class="text-soft text-xs">
        {{ rehearsal.report.gestures }} gestures,
        {{ rehearsal.report.messages.toLocaleString('en') }} messages<template
          v-if="rehearsal.report.leftOut.length > 0"
          >; {{ rehearsal.report.leftOut.length }} mappings of what is put away or gone left out</template
        >
      </p>
      <p v-if="rehearsal.isStale" class="text-advice pt-1 text-xs" data-testid="stale">
        The rig has changed since: rehearse again to be sure.
      </p>
      <ul class="pt-1">
        <RehearsalFinding
          v-for="(finding, index) in faults.slice(0, MOST)"
          :key="finding.id"
          :finding="finding"
          :before="faults[index - 1]"
        />
      </ul>
      <p v-if="faultCount > MOST" class="text-soft text-xs">
        and {{ faultCount - MOST }} more, when these are cured
      </p>
      <template v-if="notes.length > 0">
        <button
          type="button"
          class="text-soft hover:text-ink pt-2 text-xs underline"
          :aria-expanded="areNotesShown"
          data-testid="rehearsal-notes"
          @click="areNotesShown = !areNotesShown"
        >
          {{ noteCount }} {{ noteCount === 1 ? 'control moves' : 'controls move' }} nothing, and
          {{ noteCount === 1 ? 'is' : 'are' }} joined to nothing
        </button>
        <ul v-if="areNotesShown">
          <RehearsalFinding
            v-for="(finding, index) in notes.slice(0, MOST)"
            :key="finding.id"
            :finding="finding"
            :before="notes[index - 1]"
          />
        </ul>
      </template>
    </template>
  </div>
</template>
