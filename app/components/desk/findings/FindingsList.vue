<script setup lang="ts">
import { X } from '@lucide/vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Finding, Severity } from '#core/conflicts'

const analysis = useAnalysisStore()
const desk = useDeskStore()
const scroller = useTemplateRef('scroller')

const HEADINGS: Readonly<Record<Severity, string>> = {
  error: 'Will misbehave',
  warning: 'May misbehave',
  advice: 'Worth knowing',
}
const summary = computed(() =>
  (['error', 'warning', 'advice'] as const)
    .map((severity) => ({ severity, count: analysis.counts[severity], heading: HEADINGS[severity] }))
    .filter(({ count }) => count > 0),
)

const virtualizer = useVirtualizer(
  computed(() => ({
    count: analysis.findings.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => 96,
    overscan: 6,
    getItemKey: (index: number) => analysis.findings[index]?.id ?? index,
  })),
)
const rows = computed(() => virtualizer.value.getVirtualItems())
const measure = (element: unknown): void => {
  if (element instanceof Element) virtualizer.value.measureElement(element)
}

const busOf = (destination: string): string | null =>
  analysis.report?.buses.find((bus) => bus.destination === destination)?.id ?? null

function go(finding: Finding): void {
  desk.goToFinding(finding, busOf)
  desk.panel = 'findings'
}
</script>

<template>
  <div class="flex h-full flex-col" data-testid="findings">
    <header class="border-line flex items-start justify-between border-b px-5 py-3">
      <div>
        <h2 class="text-lg font-bold">Findings</h2>
        <p v-if="summary.length > 0" class="text-soft flex flex-wrap gap-x-3 text-xs">
          <span v-for="part in summary" :key="part.severity" class="inline-flex items-center gap-1">
            <SeverityMark :severity="part.severity" class="mt-0!" />{{ part.count }}
            {{ part.heading.toLowerCase() }}
          </span>
        </p>
      </div>
      <UiButton look="plain" label="Close the findings" @click="desk.panel = 'selection'"
        ><X :size="15"
      /></UiButton>
    </header>
    <div ref="scroller" class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
      <p v-if="analysis.findings.length === 0" class="text-soft px-1">
        Nothing collides: every control in use sends what only it sends, wherever it is heard.
      </p>
      <div class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }">
        <div
          v-for="row in rows"
          :key="String(row.key)"
          :ref="measure"
          :data-index="row.index"
          class="absolute inset-x-0 top-0 pb-2"
          :style="{ transform: `translateY(${row.start}px)` }"
        >
          <FindingCard
            v-if="analysis.findings[row.index]"
            :finding="analysis.findings[row.index]!"
            can-go
            @go="go(analysis.findings[row.index]!)"
          />
        </div>
      </div>
    </div>
  </div>
</template>
