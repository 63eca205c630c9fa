<script setup lang="ts">
import { traceGesture } from '#core/bench'
import { gestureRef } from '#core/rig'

/** Where what the movement at hand sends goes, way by way, and where it is lost. */
const desk = useDeskStore()
const rigs = useRigStore()
const bench = useBenchStore()
const MOST = 6

const traces = computed(() => {
  if (!rigs.rig || !desk.controller || !desk.gesture) return []
  const found = traceGesture(rigs.rig, gestureRef(desk.controller.id, desk.gesture), {
    showing: desk.showing,
  })
  return found.toSorted((a, b) => Number(a.broken !== null) - Number(b.broken !== null))
})
async function play(): Promise<void> {
  if (desk.controller && desk.gesture) bench.follow(desk.controller.id, desk.gesture)
  await navigateTo('/bench')
}
</script>

<template>
  <section class="mt-2" aria-label="Where it goes" data-testid="follow">
    <ol
      v-for="(trace, index) in traces.slice(0, MOST)"
      :key="index"
      class="border-line mb-2 border-l-2 pl-3"
      :class="trace.broken && 'border-conflict! border-dashed'"
    >
      <li v-for="(station, at) in trace.stations" :key="at" class="text-xs">
        <span class="font-bold">{{ station.title }}</span>
        <span class="text-soft"> · {{ station.detail }}</span>
      </li>
      <li v-if="trace.broken" class="text-conflict text-xs">
        <span class="font-bold">{{ trace.broken.why }}</span> {{ trace.broken.cure }}
      </li>
    </ol>
    <p v-if="traces.length > MOST" class="text-soft mb-2 text-xs">and {{ traces.length - MOST }} more ways</p>
    <UiButton data-testid="play-it" @click="play">Play it on the Bench</UiButton>
  </section>
</template>
