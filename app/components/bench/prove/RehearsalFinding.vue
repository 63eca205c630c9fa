<script setup lang="ts">
import { scenesText, type Finding } from '#core/bench/rehearsal'

/** One thing that a rehearsal found: to be followed here, or gone to on the Desk. */
const { finding, before = undefined } = defineProps<{
  finding: Finding
  /** The one above it: what is to be done is said once for those that stand together. */
  before?: Finding
}>()
const isSaid = computed(() => before?.cure === finding.cure)
const bench = useBenchStore()
const desk = useDeskStore()
const lead = useLeads()
function follow(): void {
  const { place, parameter } = finding
  if (place) bench.follow(place.controller, place.gesture)
  else if (parameter)
    void lead({ kind: 'parameter', destination: parameter.destination, parameter: parameter.id })
}
function go(): void {
  if (!finding.place) return
  desk.goTo(finding.place)
  void navigateTo('/desk')
}
</script>

<template>
  <li class="border-hair border-t py-1.5 text-xs" :data-finding="finding.check">
    <button type="button" class="text-left hover:underline" @click="follow">
      {{ scenesText(finding.text, finding.scenes) }}
    </button>
    <p class="text-soft">
      <template v-if="!isSaid">{{ finding.cure }}</template>
      <button
        v-if="finding.place"
        type="button"
        class="hover:text-ink underline"
        data-testid="finding-desk"
        @click="go"
      >
        Show it on the Desk
      </button>
    </p>
  </li>
</template>
