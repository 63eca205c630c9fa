import { wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import type { Lattice } from '#core/addresses'
import type { Finding, Fix, Severity } from '#core/conflicts'
import type { Cause } from '#core/conflicts/causes'
import type { CuredAll } from '#core/conflicts/cure-all'
import type { RelearnGroup } from '#core/mappings'
import type { Patch } from '#core/rig'
import type { Analysis, AnalysisReport, AnalysisView } from '~/workers/analysis'
import { afterPaint } from '~/lib/after-paint'
import { useDeskStore } from './desk'
import { useRigStore } from './rig'

/** What the analysis worker says about the open rig, as it arrives. */
export const useAnalysisStore = defineStore('analysis', () => {
  const rigs = useRigStore()
  const desk = useDeskStore()
  const report = shallowRef<AnalysisReport | null>(null)
  const lattice = shallowRef<Lattice | null>(null)
  /** These stay the same objects as long as they say the same. */
  const findings = shallowRef<readonly Finding[]>([])
  const buses = shallowRef<AnalysisReport['buses']>([])
  const failure = ref<string | null>(null)
  let analysis: Remote<Analysis> | null = null
  let sentRevision = -1

  const connect = (): Remote<Analysis> => {
    if (!analysis) {
      const worker = new Worker(new URL('../workers/analysis.worker.ts', import.meta.url), { type: 'module' })
      worker.onerror = (event) => {
        failure.value = event.message || 'The analysis could not start.'
      }
      analysis = wrap<Analysis>(worker)
    }
    return analysis
  }

  /** What the worker has not been told yet: patches, or null where it needs the whole rig. */
  let pending: Patch[] | null = null
  watch(
    () => rigs.revision,
    () => {
      if (rigs.change.kind === 'loaded') pending = null
      else pending?.push(...rigs.change.patches)
    },
    { flush: 'sync' },
  )

  /** Bring the worker's copy of the rig up to date: by patches where it has the one before. */
  async function send(): Promise<void> {
    const { rig, revision } = rigs
    if (!rig || revision === sentRevision) return
    const patches = sentRevision === -1 ? null : pending
    sentRevision = revision
    pending = []
    if (patches) await connect().patch(JSON.stringify(patches), revision)
    else await connect().load(rig, revision)
  }

  async function refresh(view: AnalysisView): Promise<void> {
    if (!rigs.rig) {
      report.value = null
      lattice.value = null
      findings.value = []
      buses.value = []
      return
    }
    try {
      const sending = send()
      const next = await connect().report(view)
      await sending
      if (next.lattice !== 'as-before') lattice.value = next.lattice
      if (next.findings !== 'as-before') findings.value = next.findings
      if (JSON.stringify(next.buses) !== JSON.stringify(buses.value)) buses.value = next.buses
      report.value = next
      failure.value = null
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
      sentRevision = -1
    }
  }

  watch([() => rigs.revision, () => desk.view], () => void afterPaint().then(() => refresh(desk.view)), {
    immediate: true,
  })

  const counts = computed<Readonly<Record<Severity, number>>>(
    () => report.value?.counts ?? { error: 0, warning: 0, advice: 0 },
  )
  /** All that were found, also those that are too many to be listed. */
  const total = computed(() => counts.value.error + counts.value.warning + counts.value.advice)
  /** Is the report about the rig as it is now? */
  const isCurrent = computed(() => report.value?.revision === rigs.revision)

  const fixesOf = async (finding: string): Promise<readonly Fix[]> => {
    await send()
    return connect().fixesOf(finding)
  }

  /** The findings by what they are there for. */
  async function causes(): Promise<readonly Cause[]> {
    await send()
    const told = await connect().causes()
    const byId = new Map(findings.value.map((finding) => [finding.id, finding]))
    return told.map((cause) => ({ ...cause, findings: cause.findings.flatMap((id) => byId.get(id) ?? []) }))
  }

  const cureAll = async (rule: string): Promise<CuredAll> => {
    await send()
    return connect().cureAll(rule)
  }

  const relearn = async (): Promise<readonly RelearnGroup[]> => {
    await send()
    return connect().relearn()
  }

  return {
    buses,
    cureAll,
    relearn,
    total,
    report,
    lattice,
    findings,
    causes,
    counts,
    isCurrent,
    failure,
    fixesOf,
  }
})
