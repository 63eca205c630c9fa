import { changedOccupancy, senderChange } from '../addresses'
import { placeKey, type Rig, type RigEdit } from '../rig'
import { contextOf, type CheckContext } from './context'
import { findingPlace, SEVERITIES, type Draft, type Finding, type Fix } from './finding'
import { digest, factsOf } from './facts'
import { fixesFor } from './fixes'
import { ISLANDS, type Island } from './islands'
import type { Rule, RuleReach } from './rule'
import { RULES } from './rules'

/** The findings of a rig, and the cures of each when asked for. */
export interface Check {
  context: CheckContext
  findings: readonly Finding[]
  /** Findings that were set aside and whose facts have not changed since, with the reason. */
  asides: ReadonlyArray<{ finding: Finding; reason: string }>
  /** What can be done about a finding; empty for an id that is not among the findings. */
  fixesOf: (findingId: string) => readonly Fix[]
  /** All that the rules reported, in order; what a later check of the same rig, edited, starts from. */
  reports: readonly Report[]
}

/** What a rule reported. */
export interface Report {
  rule: number
  /** Rule and what it is about; the same for two reports only where an address is met twice. */
  about: string
  draft: Draft
}

/** What a finding is about is its id, unless that is longer than a file may hold. */
const LONG_ID = 160

const numbered = (id: string, seen: Map<string, number>): string => {
  const count = (seen.get(id) ?? 0) + 1
  seen.set(id, count)
  return count === 1 ? id : `${id}#${count}`
}

const isPartOf = <T>(part: readonly T[], whole: ReadonlySet<T>): boolean =>
  part.every((item) => whole.has(item))

/** Is an error one that was there before, perhaps with more gestures or destinations? */
export function wasThere(error: Finding, before: readonly Finding[]): boolean {
  const places = error.at.map(placeKey)
  return before.some(
    (old) =>
      old.rule === error.rule &&
      isPartOf(places, new Set(old.at.map(placeKey))) &&
      isPartOf(error.destinations, new Set(old.destinations)),
  )
}

/** Make edits to try a cure out: `perform`, where it is at hand. */
export type Apply = (rig: Rig, edits: readonly RigEdit[]) => Rig

function reportsOf(rule: Rule, context: CheckContext): Report[] {
  const number = RULES.indexOf(rule)
  return rule.find(context).map((draft) => {
    const about = [draft.addresses.join(','), draft.about].filter(Boolean).join(' ')
    return { rule: number, about: `${rule.id}:${about.length > LONG_ID ? digest(about) : about}`, draft }
  })
}

const rank = ({ draft }: Report): number => SEVERITIES.indexOf(draft.severity)
const textOrder = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)

/** By severity, rule, the first of its senders in the rig, and what it is about. */
const inOrder = (a: Report, b: Report): number =>
  rank(a) - rank(b) ||
  a.rule - b.rule ||
  (a.draft.senders[0]?.order ?? -1) - (b.draft.senders[0]?.order ?? -1) ||
  textOrder(a.about, b.about) ||
  textOrder(a.draft.message, b.draft.message)

const found = new WeakMap<Report, Map<string, Finding>>()

/** A report as a finding; the same object whenever it is asked for under the same id. */
function findingOf(report: Report, id: string): Finding {
  const before = found.get(report) ?? new Map<string, Finding>()
  const known = before.get(id)
  if (known) return known
  const { draft } = report
  const finding: Finding = {
    id,
    rule: RULES[report.rule]?.id ?? '',
    severity: draft.severity,
    message: draft.message,
    at: draft.places ?? draft.senders.map(findingPlace),
    addresses: draft.addresses,
    destinations: draft.destinations,
    things: draft.things ?? [],
  }
  found.set(report, before.set(id, finding))
  return finding
}

function finished(context: CheckContext, reports: readonly Report[], apply: Apply): Check {
  const { rig } = context
  const seen = new Map<string, number>()
  const all = reports.map((report) => findingOf(report, numbered(report.about, seen)))
  const aside = new Map(rig.setAside.map((each) => [each.finding, each]))
  const isAside = (finding: Finding): boolean => {
    const said = aside.get(finding.id)
    return said !== undefined && said.facts === factsOf(finding)
  }
  const check: Check = {
    context,
    reports,
    asides: all.filter(isAside).map((finding) => ({ finding, reason: aside.get(finding.id)?.reason ?? '' })),
    findings: aside.size === 0 ? all : all.filter((finding) => !isAside(finding)),
    fixesOf: (id) => {
      const at = all.findIndex((finding) => finding.id === id)
      const [finding, report] = [all[at], reports[at]]
      if (!finding || !report) return []
      const errors = all.filter(({ severity }) => severity === 'error')
      return fixesFor(context, finding.rule, report.draft, (edits) => {
        const after = recheckWith(check, apply(rig, edits), apply).findings
        return (
          after.every((other) => other.id !== id) &&
          after.every((other) => other.severity !== 'error' || wasThere(other, errors))
        )
      })
    },
  }
  return check
}

/**
 * Check a rig against every rule. Pure; findings come by severity (errors first), then rule, then
 * place in the rig. Those set aside are given apart, until their facts change. What put-away controllers send, and what a destination does not hear, raises nothing.
 */
export function checkWith(rig: Rig, apply: Apply): Check {
  const context = contextOf(rig)
  const reports = RULES.flatMap((rule) => reportsOf(rule, context)).sort(inOrder)
  return finished(context, reports, apply)
}

/** Two lists in order, as one. */
function merged(a: readonly Report[], b: readonly Report[]): Report[] {
  const all: Report[] = []
  let next = 0
  for (const report of a) {
    for (let other = b[next]; other !== undefined && inOrder(other, report) < 0; other = b[++next])
      all.push(other)
    all.push(report)
  }
  return [...all, ...b.slice(next)]
}

/**
 * The same as `checkWith` of `rig`, made from the check of a rig that it came from by edits. Where
 * assignments and mappings are all that differs, only the rules and the parts of the rig that they can touch are looked at again.
 */
export function recheckWith(previous: Check, rig: Rig, apply: Apply): Check {
  const before = previous.context.occupancy
  const change = senderChange(before.rig, rig)
  if (change === null) return checkWith(rig, apply)
  const after = changedOccupancy(before, rig, change)
  const islands = new Map<RuleReach, Island | null>()
  const islandOf = (reach: RuleReach): Island | null => {
    const known = islands.get(reach)
    if (known !== undefined) return known
    const island = ISLANDS[reach]({ before, after, change })
    islands.set(reach, island)
    return island
  }
  const takenBack = new Set<string>()
  const emptied = new Set<number>()
  const added: Report[] = []
  RULES.forEach((rule, number) => {
    const island = islandOf(rule.reach)
    if (island === null) return
    if (island.before === 'all') emptied.add(number)
    else for (const { about } of reportsOf(rule, island.before)) takenBack.add(about)
    added.push(...reportsOf(rule, island.after))
  })
  const kept = previous.reports.filter(({ rule, about }) => !emptied.has(rule) && !takenBack.has(about))
  return finished(contextOf(rig, { occupancy: after }), merged(kept, added.sort(inOrder)), apply)
}
