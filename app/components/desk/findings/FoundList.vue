<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Finding } from '#core/conflicts'
import { SEVERITY_HEADING } from '~/lib/findings'
import { toast } from '~/lib/toast'

/** What was found: narrowed to a weight or kind, grouped, each leading to where it is. */
const analysis = useAnalysisStore()
const desk = useDeskStore()
const rigs = useRigStore()
const plans = usePlanStore()
const edit = useEdit()
const showThing = useShowThing()
const scroller = useTemplateRef('scroller')

const summary = computed(() =>
  (['error', 'warning', 'advice'] as const)
    .map((severity) => ({ severity, count: analysis.counts[severity], heading: SEVERITY_HEADING[severity] }))
    .filter(({ count }) => count > 0),
)

const view = useFindingsViewStore()
const { severity, rule, by, rules, lines, shown } = storeToRefs(view)

const ROW_PX = { cause: 44, heading: 32, finding: 96 } as const
const virtualizer = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: (index: number) => ROW_PX[lines.value[index]?.type ?? 'finding'],
    overscan: 6,
    getItemKey: (index: number) => lines.value[index]?.id ?? index,
  })),
)
const rows = computed(() =>
  virtualizer.value.getVirtualItems().flatMap((item) => {
    const line = lines.value[item.index]
    return line ? [{ item, line }] : []
  }),
)
const measure = (element: unknown): void => {
  if (element instanceof Element) virtualizer.value.measureElement(element)
}
watch(
  () => desk.findingId,
  (id) => {
    const index = id === null ? -1 : view.lineOf(id)
    if (index !== -1) virtualizer.value.scrollToIndex(index, { align: 'auto' })
  },
)

const busOf = (destination: string): string | null =>
  analysis.buses.find((bus) => bus.destination === destination)?.id ?? null

function go(finding: Finding): void {
  if (finding.at.length === 0 && finding.things.length > 0) return showThing(finding)
  desk.goToFinding(finding, busOf)
  desk.panel = 'findings'
}

const isCuring = ref(false)
async function cureAll(): Promise<void> {
  const title = view.titleOf(rule.value)
  isCuring.value = true
  try {
    const { edits, cured, left } = await analysis.cureAll(rule.value)
    const rest =
      left === 0 ? '' : ` ${left === 1 ? 'One is' : `${left} are`} left that you have to decide yourself.`
    if (cured === 0) toast(`None of these can be cured without deciding something.`)
    else if (edit(`Cure all: ${title}`, edits)) toast(`${cured} cured.${rest}`)
  } finally {
    isCuring.value = false
  }
}
</script>

<template>
  <div class="flex flex-col">
    <div
      v-if="summary.length > 0"
      class="border-line flex flex-wrap items-center gap-1.5 border-b px-5 py-2 text-xs"
    >
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
        class="bg-raised border-line h-6.5 max-w-48 rounded-md border px-1"
        data-testid="rule-filter"
      >
        <option value="">every kind</option>
        <option v-for="each in rules" :key="each.id" :value="each.id">
          {{ each.title }} ({{ each.count }})
        </option>
      </select>
      <select
        v-model="by"
        aria-label="Order of the findings"
        class="bg-raised border-line h-6.5 rounded-md border px-1"
        data-testid="finding-order"
      >
        <option value="cause">by cause</option>
        <option value="weight">by weight</option>
        <option value="kind">by kind</option>
        <option value="controller">by controller</option>
      </select>
      <UiButton
        v-if="rule !== '' && rigs.canEdit"
        :disabled="isCuring || !analysis.isCurrent"
        data-testid="cure-all"
        @click="cureAll"
        >{{ isCuring ? 'Curing …' : 'Cure all of these' }}</UiButton
      >
      <UiButton
        v-else-if="analysis.counts.error > 1 && rigs.canEdit"
        data-testid="plan-repair"
        @click="plans.open('repair')"
        >Plan a repair</UiButton
      >
    </div>
    <div ref="scroller" class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
      <p v-if="analysis.findings.length === 0" class="text-soft px-1">
        Nothing collides: every control in use sends what only it sends, wherever it is heard.
      </p>
      <p v-else-if="analysis.total > analysis.findings.length" class="text-soft px-1 pb-2" role="status">
        The worst {{ analysis.findings.length }} of {{ analysis.total }} are listed; curing some brings the
        next.
      </p>
      <p v-else-if="shown.length === 0" class="text-soft px-1">
        None of this kind is of that weight.
        <button type="button" class="text-ink underline" @click="((severity = null), (rule = ''))">
          Show all
        </button>
      </p>
      <div class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }">
        <div
          v-for="{ item, line } in rows"
          :key="String(item.key)"
          :ref="measure"
          :data-index="item.index"
          class="absolute inset-x-0 top-0 pb-2 wrap-anywhere"
          :style="{ transform: `translateY(${item.start}px)` }"
        >
          <h3 v-if="line.type === 'heading'" class="px-1 pt-1 font-bold">
            {{ line.text }} <span class="tag text-soft text-xs">{{ line.count }}</span>
          </h3>
          <CauseRow
            v-else-if="line.type === 'cause'"
            :cause="line.cause"
            :is-open="line.isOpen"
            @toggle="view.toggle(line.id)"
          />
          <FindingCard v-else :finding="line.finding" can-go @go="go(line.finding)" />
        </div>
      </div>
    </div>
  </div>
</template>
