<script setup lang="ts">
/** Beside the surface: what moves, finding out, proving, how the destinations behave, and which ports are real. */
const bench = useBenchStore()
const ports = usePortsStore()
const listening = useListeningStore()
const moving = useMovingStore()
const rehearsal = useRehearsalStore()
const teaching = useTeachingStore()
const line = useLineCheckStore()
const side = useBenchSide()
const tabs = computed(() => [
  { id: 'moves' as const, name: 'What moves' },
  { id: 'listen' as const, name: 'Find out', hint: listening.isOn || moving.job !== null ? 'on' : undefined },
  {
    id: 'prove' as const,
    name: 'Prove',
    hint: rehearsal.isBusy || teaching.isOn || line.isOn ? 'on' : undefined,
  },
  {
    id: 'destinations' as const,
    name: 'Destinations',
    hint: wrong.value > 0 ? `${wrong.value}!` : undefined,
  },
  { id: 'ports' as const, name: 'Ports', hint: ports.realCount > 0 ? ports.realCount : undefined },
])
const wrong = computed(
  () => Object.values(bench.state?.misbehaving ?? {}).filter(({ length }) => length > 0).length,
)
</script>

<template>
  <aside
    class="bg-sheet flex h-full flex-col"
    aria-label="What moves, finding out, proving, destinations and ports"
  >
    <header class="flex shrink-0 items-center px-4 pt-3 pb-2">
      <TabStrip v-model="side" :tabs="tabs" label="What is shown beside the surface" attribute="data-side" />
    </header>
    <WhatMoves v-if="side === 'moves'" />
    <LazyBenchFindOut v-else-if="side === 'listen'" />
    <LazyBenchProve v-else-if="side === 'prove'" />
    <LazyBenchDestinations v-else-if="side === 'destinations'" />
    <LazyBenchPorts v-else />
  </aside>
</template>
