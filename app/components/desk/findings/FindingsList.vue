<script setup lang="ts">
import { X } from '@lucide/vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Finding, Severity } from '#core/conflicts'

const analysis = useAnalysisStore()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const scroller = useTemplateRef('scroller')
const asides = computed(() => analysis.report?.asides ?? [])

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

/** Narrowed to one severity, one rule, or both; a choice that finds nothing any more falls away. */
const severity = ref<Severity | null>(null)
const rule = ref('')
const rules = computed(() => analysis.report?.rules ?? [])
watch([rules, () => analysis.counts], ([found, counts]) => {
  if (!found.some(({ id }) => id === rule.value)) rule.value = ''
  if (severity.value !== null && counts[severity.value] === 0) severity.value = null
})
const shown = computed(() =>
  analysis.findings.filter(
    (finding) =>
      (severity.value === null || finding.severity === severity.value) &&
      (rule.value === '' || finding.rule === rule.value),
  ),
)

const virtualizer = useVirtualizer(
  computed(() => ({
    count: shown.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => 96,
    overscan: 6,
    getItemKey: (index: number) => shown.value[index]?.id ?? index,
  })),
)
const rows = computed(() => virtualizer.value.getVirtualItems())
const measure = (element: unknown): void => {
  if (element instanceof Element) virtualizer.value.measureElement(element)
}

const busOf = (destination: string): string | null =>
  analysis.report?.buses.find((bus) => bus.destination === destination)?.id ?? null

const showThing = useShowThing()
function go(finding: Finding): void {
  const [thing] = finding.things
  if (finding.at.length === 0 && thing) return showThing(thing)
  desk.goToFinding(finding, busOf)
  desk.panel = 'findings'
}
</script>

<template>
  <div class="flex h-full flex-col" data-testid="findings">
    <header class="border-line flex items-start justify-between border-b px-5 py-3">
      <div>
        <h2 class="text-lg font-bold">Findings</h2>
        <div v-if="summary.length > 0" class="mt-1 flex flex-wrap items-center gap-1.5">
          <ChipToggle
            v-for="part in summary"
            :key="part.severity"
            :is-on="severity === part.severity"
            :aria-label="`${part.count}: ${part.heading.toLowerCase()}. Show only these`"
            :data-severity-filter="part.severity"
            @click="severity = severity === part.severity ? null : part.severity"
          >
            <span class="inline-flex items-center gap-1"
              ><SeverityMark :severity="part.severity" class="mt-0!" />{{ part.count }}
              {{ part.heading.toLowerCase() }}</span
            >
          </ChipToggle>
          <select
            v-model="rule"
            aria-label="Show only one kind of finding"
            class="bg-raised border-line h-6.5 max-w-60 rounded-md border px-1 text-xs"
            data-testid="rule-filter"
          >
            <option value="">every kind</option>
            <option v-for="each in rules" :key="each.id" :value="each.id">
              {{ each.title }} ({{ each.count }})
            </option>
          </select>
        </div>
      </div>
      <UiButton look="plain" label="Close the findings" @click="desk.panel = 'selection'"
        ><X :size="15"
      /></UiButton>
    </header>
    <div ref="scroller" class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
      <p v-if="analysis.findings.length === 0" class="text-soft px-1">
        Nothing collides: every control in use sends what only it sends, wherever it is heard.
      </p>
      <p v-else-if="shown.length === 0" class="text-soft px-1">
        None of this kind is of that weight.
        <button type="button" class="text-ink underline" @click="((severity = null), (rule = ''))">
          Show all
        </button>
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
            v-if="shown[row.index]"
            :finding="shown[row.index]!"
            can-go
            @go="go(shown[row.index]!)"
          />
        </div>
      </div>
    </div>
    <details v-if="asides.length > 0" class="border-line max-h-48 overflow-y-auto border-t px-5 py-2 text-xs">
      <summary class="font-medium" data-testid="asides">{{ asides.length }} set aside</summary>
      <ul>
        <li v-for="{ finding, reason } in asides" :key="finding.id" class="mt-2">
          {{ finding.message }}
          <span class="text-soft block">“{{ reason }}”</span>
          <UiButton
            class="mt-1"
            :disabled="!rigs.canEdit"
            @click="edit('Let a finding count again', [{ type: 'aside-remove', finding: finding.id }])"
            >Let it count again</UiButton
          >
        </li>
      </ul>
    </details>
  </div>
</template>
