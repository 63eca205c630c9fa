import { defineStore } from 'pinia'
import type { Finding, Severity } from '#core/conflicts'
import type { Cause } from '#core/conflicts/causes'
import { causeRows, controllerNames, findingRows, type Grouping } from '~/lib/findings'

/** Which findings the list shows, and in which order; what walks through them goes by the same list. */
export const useFindingsViewStore = defineStore('findings-view', () => {
  const analysis = useAnalysisStore()
  const rigs = useRigStore()

  /** Narrowed to one severity, one rule, or both; a choice that finds nothing any more falls away. */
  const severity = ref<Severity | null>(null)
  const rule = ref('')
  const by = ref<Grouping>('cause')
  const rules = computed(() => analysis.report?.rules ?? [])
  watch([rules, () => analysis.counts], ([found, counts]) => {
    if (!found.some(({ id }) => id === rule.value)) rule.value = ''
    if (severity.value !== null && counts[severity.value] === 0) severity.value = null
  })
  const titleOf = (id: string): string => rules.value.find((each) => each.id === id)?.title ?? id

  const isWanted = (finding: Finding): boolean =>
    (severity.value === null || finding.severity === severity.value) &&
    (rule.value === '' || finding.rule === rule.value)
  /** All findings by cause, fetched whenever they are others. */
  const all = shallowRef<readonly Cause[]>([])
  let fetching: Promise<void> = Promise.resolve()
  watch(
    () => analysis.findings,
    (now) => {
      const own = (fetching = analysis.causes().then((told) => {
        if (own === fetching && now === analysis.findings) all.value = told
      }))
    },
    { immediate: true },
  )
  /** When the causes are those of the findings there are. */
  const settled = (): Promise<void> => fetching
  const causes = computed(() =>
    all.value.flatMap((cause): Cause[] => {
      const findings = cause.findings.filter(isWanted)
      return findings.length > 0 ? [{ ...cause, findings }] : []
    }),
  )
  /** Causes that were opened or closed by hand; of the others the first is open. */
  const toggled = ref<ReadonlyMap<string, boolean>>(new Map())
  const isOpen = (id: string): boolean => toggled.value.get(id) ?? id === causes.value[0]?.id
  function toggle(id: string): void {
    toggled.value = new Map([...toggled.value, [id, !isOpen(id)]])
  }

  const lines = computed(() =>
    by.value === 'cause'
      ? causeRows(causes.value, isOpen)
      : findingRows(analysis.findings.filter(isWanted), by.value, {
          rule: titleOf,
          controller: controllerNames(rigs.rig),
        }),
  )
  /** Where to stop on the way through: each finding that stands there, and the first of a cause that is closed. */
  const shown = computed(() =>
    lines.value.flatMap((line): Finding[] => {
      if (line.type === 'finding') return [line.finding]
      return line.type === 'cause' && !line.isOpen ? line.cause.findings.slice(0, 1) : []
    }),
  )
  /** The line at which a finding stands, or the cause that holds it. */
  const lineOf = (id: string): number =>
    lines.value.findIndex(
      (line) =>
        line.id === id ||
        (line.type === 'cause' && !line.isOpen && line.cause.findings.some((each) => each.id === id)),
    )

  return { severity, rule, by, rules, titleOf, lines, shown, all, settled, toggle, lineOf }
})
