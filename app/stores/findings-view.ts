import { defineStore } from 'pinia'
import type { Finding, Severity } from '#core/conflicts'
import { controllerNames, findingRows, type Grouping } from '~/lib/findings'

/** Which findings the list shows, and in which order; what walks through them goes by the same list. */
export const useFindingsViewStore = defineStore('findings-view', () => {
  const analysis = useAnalysisStore()
  const rigs = useRigStore()

  /** Narrowed to one severity, one rule, or both; a choice that finds nothing any more falls away. */
  const severity = ref<Severity | null>(null)
  const rule = ref('')
  const by = ref<Grouping>('weight')
  const rules = computed(() => analysis.report?.rules ?? [])
  watch([rules, () => analysis.counts], ([found, counts]) => {
    if (!found.some(({ id }) => id === rule.value)) rule.value = ''
    if (severity.value !== null && counts[severity.value] === 0) severity.value = null
  })
  const titleOf = (id: string): string => rules.value.find((each) => each.id === id)?.title ?? id

  const lines = computed(() =>
    findingRows(
      analysis.findings.filter(
        (finding) =>
          (severity.value === null || finding.severity === severity.value) &&
          (rule.value === '' || finding.rule === rule.value),
      ),
      by.value,
      { rule: titleOf, controller: controllerNames(rigs.rig) },
    ),
  )
  /** The findings shown, in the order in which they stand. */
  const shown = computed(() =>
    lines.value.flatMap((line): Finding[] => (line.type === 'finding' ? [line.finding] : [])),
  )

  return { severity, rule, by, rules, titleOf, lines, shown }
})
