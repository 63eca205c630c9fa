<script setup lang="ts">
/** The way of what is followed, station by station, along the foot. */
const bench = useBenchStore()
const at = ref(0)
watch(
  () => [bench.gesture, bench.controller?.id],
  () => (at.value = 0),
)
const trace = computed(() => bench.traces[Math.min(at.value, bench.traces.length - 1)] ?? null)
</script>

<template>
  <footer
    class="bg-raised border-line flex min-h-16 shrink-0 items-center gap-4 border-t px-4 py-2"
    aria-label="Follow a message"
    data-testid="trace"
  >
    <p v-if="!trace" class="text-soft">
      Pick a control to follow what it sends, station by station, to what it moves.
    </p>
    <template v-else>
      <ol class="flex min-w-0 flex-1 overflow-x-auto">
        <li
          v-for="(station, index) in trace.stations"
          :key="index"
          class="min-w-28 flex-1 pr-3"
          :data-station="station.kind"
          :data-lost="(trace.broken !== null && index === trace.stations.length - 1) || undefined"
        >
          <span class="flex items-center gap-1.5" aria-hidden="true">
            <span
              class="size-2.5 shrink-0 rounded-full border-[1.5px]"
              :class="
                trace.broken && index === trace.stations.length - 1
                  ? 'border-conflict bg-conflict-soft rounded-none!'
                  : 'border-ink bg-marker'
              "
            />
            <span
              v-if="index < trace.stations.length - 1"
              class="h-[1.5px] flex-1"
              :class="
                trace.broken && index === trace.stations.length - 2
                  ? 'border-conflict border-t border-dashed'
                  : 'bg-ink'
              "
            />
          </span>
          <span class="mt-1 block truncate font-bold" :title="station.title">{{ station.title }}</span>
          <span class="text-soft block truncate text-xs" :title="station.detail">{{ station.detail }}</span>
        </li>
      </ol>
      <p
        v-if="trace.broken"
        class="text-conflict max-w-80 shrink-0 text-xs"
        role="status"
        data-testid="trace-broken"
      >
        <span class="font-bold">{{ trace.broken.why }}</span>
        <span class="text-ink block">{{ trace.broken.cure }}</span>
      </p>
      <div v-if="bench.traces.length > 1" class="flex shrink-0 items-center gap-1">
        <span class="tag text-soft text-xs">{{ at + 1 }} of {{ bench.traces.length }}</span>
        <UiButton label="The next that it moves" class="px-2!" @click="at = (at + 1) % bench.traces.length"
          >›</UiButton
        >
      </div>
    </template>
  </footer>
</template>
