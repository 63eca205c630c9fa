import {
  busesNamed,
  isUnheard,
  latticeOf,
  parametersOf,
  sentByAll,
  type Family,
  type Lattice,
  type Occupancy,
  type ParameterLine,
} from '#core/addresses'
import {
  checkWith,
  recheckWith,
  RULES,
  SEVERITIES,
  type Check,
  type Finding,
  type Fix,
  type Severity,
  type Apply,
} from '#core/conflicts'
import type { Cause } from '#core/conflicts/causes'
import { cureAll, type CuredAll } from '#core/conflicts/cure-all'
import { relearnList, type RelearnGroup } from '#core/mappings'
import { patched, type Id, type Patch, type Rig, type Showing } from '#core/rig'

/** What the page looks at: the lattice of one bus and family, and what each controller shows. */
export interface AnalysisView {
  /** A bus, or every one at once (`EVERY_BUS`). */
  bus: string | null
  family: Family
  /** Are NRPN and RPN wanted too? */
  parameters: boolean
  showing: Readonly<Record<Id, Showing>>
}

/** A cause with its findings by their ids: they cross once. */
export type ToldCause = Omit<Cause, 'findings'> & { findings: readonly string[] }

/** What the page receives: everything that may have changed. */
export interface AnalysisReport {
  /** The revision of the rig that this speaks of. */
  revision: number
  /**
   * The findings, worst first; of very many only the first (`MOST_SENT`). The counts are of all. `as-before`
   * if they are those of the last report, which need not cross again.
   */
  findings: readonly Finding[] | 'as-before'
  asides: ReadonlyArray<{ finding: Finding; reason: string }>
  counts: Readonly<Record<Severity, number>>
  /** The rules that found something, with how much. */
  rules: ReadonlyArray<{ id: string; title: string; count: number }>
  /** Where things arrive; while nothing does, one place to which everything is sent, for a look. */
  buses: ReadonlyArray<{ id: string; name: string; destination: Id; mergesChannels: boolean }>
  /** NRPN and RPN that arrive there. */
  parameters: readonly ParameterLine[]
  /** The lattice; `as-before` if it is the one of the last report, which need not cross again. */
  lattice: Lattice | null | 'as-before'
}

/** The analysis as the page sees it, wherever it runs. Holds a copy of the rig; is sent patches. */
export interface Analysis {
  load: (rig: Rig, revision: number) => void
  /** Patches as JSON text: thousands of them cross to a worker faster so. */
  patch: (patches: string, revision: number) => void
  report: (view: AnalysisView) => AnalysisReport
  /** The findings that are sent, by what they are there for. */
  causes: () => Promise<readonly ToldCause[]>
  fixesOf: (finding: string) => Promise<readonly Fix[]>
  /** What must be taught again, by destination. */
  relearn: () => readonly RelearnGroup[]
  /** Everything that cures the findings of a rule, where there is a safe cure. */
  cureAll: (rule: string) => Promise<CuredAll>
}

/** More findings than these stay in the worker: nobody reads them, and the page would wait for them. */
export const MOST_SENT = 5000

/**
 * The check of one rig that is kept up with edits, to be run in a worker. What asks before a rig is loaded throws.
 */
export function createAnalysis(): Analysis {
  let held: { rig: Rig; revision: number } | null = null
  let lastLattice = ''
  let lastFindings = ''
  let checked: { rig: Rig; check: Check } | null = null

  // Edits bring the schemas with them: they are fetched when cures are first asked for.
  let apply: Apply | null = null
  const tryOut: Apply = (rig, edits) => {
    if (!apply) throw new Error('Cures were asked for before edits could be made.')
    return apply(rig, edits)
  }

  const fetchEdits = async (): Promise<void> => {
    const { perform } = await import('#core/rig/edits')
    apply = (rig, edits) => perform(rig, 'try', edits).rig
  }

  /** Where nothing is heard yet, what is sent is looked at. */
  let sent: { rig: Rig; occupancy: Occupancy } | null = null
  function looked(occupancy: Occupancy): Occupancy {
    const { rig } = occupancy
    if (rig.controllers.length === 0 || !isUnheard(occupancy)) return occupancy
    if (sent?.rig !== rig) sent = { rig, occupancy: sentByAll(rig) }
    return sent.occupancy
  }

  const current = (): { check: Check; revision: number } => {
    if (!held) throw new Error('No rig has been loaded into the analysis.')
    const { rig, revision } = held
    if (checked?.rig !== rig) {
      const check = checked ? recheckWith(checked.check, rig, tryOut) : checkWith(rig, tryOut)
      checked = { rig, check }
    }
    return { check: checked.check, revision }
  }

  return {
    load: (rig, revision) => {
      lastLattice = ''
      lastFindings = ''
      held = { rig, revision }
      checked = null
    },
    patch: (patches, revision) => {
      if (!held) throw new Error('No rig has been loaded into the analysis.')
      held = { rig: patched(held.rig, JSON.parse(patches) as Patch[]), revision }
    },
    report: (view) => {
      const { check: result, revision } = current()
      const occupancy = looked(result.context.occupancy)
      const buses = busesNamed(occupancy, view.bus)
      const count = (severity: Severity): number =>
        result.findings.filter((finding) => finding.severity === severity).length
      const lattice = buses.length > 0 ? latticeOf(occupancy, buses, view.family, view.showing) : null
      const text = JSON.stringify(lattice)
      const isAsBefore = text === lastLattice
      lastLattice = text
      const findings = result.findings.slice(0, MOST_SENT)
      const findingsText = JSON.stringify(findings)
      const isFoundAsBefore = findingsText === lastFindings
      lastFindings = findingsText
      return {
        revision,
        findings: isFoundAsBefore ? 'as-before' : findings,
        asides: result.asides,
        counts: Object.fromEntries(SEVERITIES.map((severity) => [severity, count(severity)])) as Record<
          Severity,
          number
        >,
        rules: RULES.map(({ id, title }) => ({
          id,
          title,
          count: result.findings.filter(({ rule }) => rule === id).length,
        })).filter(({ count: found }) => found > 0),
        buses: occupancy.buses.map(({ id, name, destination, mergesChannels }) => ({
          id,
          name,
          destination,
          mergesChannels,
        })),
        parameters: view.parameters ? parametersOf(occupancy, buses, view.showing) : [],
        lattice: isAsBefore ? 'as-before' : lattice,
      }
    },
    relearn: () => {
      const { occupancy, rig } = current().check.context
      return relearnList(rig, occupancy)
    },
    causes: async () => {
      const { causesOf } = await import('#core/conflicts/causes')
      const { context, findings } = current().check
      return causesOf(context.rig, findings.slice(0, MOST_SENT)).map((cause) => ({
        ...cause,
        findings: cause.findings.map(({ id }) => id),
      }))
    },
    fixesOf: async (finding) => {
      await fetchEdits()
      return current().check.fixesOf(finding)
    },
    cureAll: async (rule) => {
      await fetchEdits()
      if (!held) throw new Error('No rig has been loaded into the analysis.')
      return cureAll(held.rig, rule, tryOut)
    },
  }
}
