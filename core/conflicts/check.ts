import { changedOccupancy, senderChange } from '../addresses'
import { onceTaught } from '../mappings'
import { EditError, memoOf, placeKey, type Id, type Rig, type RigEdit } from '../rig'
import { contextOf, type CheckContext } from './context'
import { findingPlace, SEVERITIES, type Draft, type Finding, type Fix } from './finding'
import { digest, factsOf } from './facts'
import { AFFECTED, type AffectedScope } from './affected'
import { offeredFixes } from './fixes/offered'
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
  /** All that the rules reported, one by one, in order; what a later check of the same rig, edited, starts from. */
  reports: readonly Report[]
}

/** What a rule reported. */
export interface Report {
  rule: number
  /** Rule and what it is about, as a text to compare by. */
  about: string
  draft: Draft
}

/** What a finding is about is its id, unless that is longer than a file may hold. */
const LONG_ID = 160

const isPartOf = <T>(part: readonly T[], whole: ReadonlySet<T>): boolean =>
  part.every((item) => whole.has(item))

/** Where an error is: at its gestures, or, where it is about none, at cables, ports and instruments. */
const placesOf = ({ at, things }: Finding): string[] =>
  at.length > 0 ? at.map(placeKey) : things.map(({ kind, id }) => `${kind} ${id}`)

/**
 * Answers whether an error is one of these, perhaps with more gestures or destinations. Errors are looked up by where
 * they are, as there can be thousands.
 */
function isAmong(errors: readonly Finding[]): (error: Finding) => boolean {
  const known = new Map<string, Array<{ places: ReadonlySet<string>; destinations: ReadonlySet<Id> }>>()
  for (const error of errors) {
    const old = { places: new Set(placesOf(error)), destinations: new Set(error.destinations) }
    for (const place of old.places) {
      const key = `${error.rule} ${place}`
      const there = known.get(key)
      if (there) there.push(old)
      else known.set(key, [old])
    }
  }
  return (error) => {
    const places = placesOf(error)
    return (known.get(`${error.rule} ${places[0] ?? ''}`) ?? []).some(
      (old) => isPartOf(places, old.places) && isPartOf(error.destinations, old.destinations),
    )
  }
}

const errorsOf = (reports: readonly Report[]): Finding[] =>
  reports.filter(({ draft }) => draft.severity === 'error').map((report) => findingOf(report, report.about))

/**
 * The errors of a check that an earlier one did not have, not even with more gestures or destinations. Errors of one
 * cause, which are told as one, count by themselves: two that were there are nothing new when they come to be told together.
 */
export function newErrors(before: Pick<Check, 'reports'>, after: Pick<Check, 'reports'>): Finding[] {
  const kept = new Set(before.reports)
  const added = errorsOf(after.reports.filter((report) => !kept.has(report)))
  if (added.length === 0) return []
  const wasThere = isErrorOf(before)
  return added.filter((error) => !wasThere(error))
}

/** Is an error one of a check's? Asked for every cure that is tried. */
const isErrorOf = memoOf(({ reports }: Pick<Check, 'reports'>) => isAmong(errorsOf(reports)))

/** Make edits to try a cure out: `perform`, where it is at hand. */
export type Apply = (rig: Rig, edits: readonly RigEdit[]) => Rig

/** The rig with edits made; null where they are refused, as where a list would grow too long. */
function made(apply: Apply, rig: Rig, edits: readonly RigEdit[]): Rig | null {
  try {
    return apply(rig, edits)
  } catch (error) {
    if (error instanceof EditError) return null
    throw error
  }
}

const aboutOf = (rule: Rule, about: string): string =>
  `${rule.id}:${about.length > LONG_ID ? digest(about) : about}`

function reportsOf(rule: Rule, context: CheckContext): Report[] {
  const number = RULES.indexOf(rule)
  return rule.find(context).map((draft) => ({ rule: number, about: aboutOf(rule, draft.about), draft }))
}

/** Several reports of one cause, and the one that stands for them; found again as long as they are the same. */
const joined = new WeakMap<Report, { members: readonly Report[]; whole: Report }>()

function joinedOf(context: CheckContext, rule: Rule, cause: string, members: readonly Report[]): Report {
  const [first] = members
  const known = first && joined.get(first)
  if (known?.members.length === members.length && known.members.every((each, at) => each === members[at]))
    return known.whole
  const drafts = members.map(({ draft }) => draft)
  const draft = rule.together?.(context, drafts) ?? drafts[0]
  if (!first || !draft) throw new Error(`${rule.id} has nothing to say together.`)
  const whole = { rule: first.rule, about: aboutOf(rule, cause), draft }
  joined.set(first, { members, whole })
  return whole
}

/** Reports in order, those of one rule and cause as one, where the first of them stands. */
function byCause(context: CheckContext, reports: readonly Report[]): Report[] {
  const groups = new Map<string, Report[]>()
  const keyOf = ({ rule, draft: { cause } }: Report): string | null =>
    cause === undefined || !RULES[rule]?.together ? null : `${rule} ${cause}`
  for (const report of reports) {
    const key = keyOf(report)
    if (key === null) continue
    const group = groups.get(key)
    if (group) group.push(report)
    else groups.set(key, [report])
  }
  if (groups.size === 0) return [...reports]
  return reports.flatMap((report) => {
    const key = keyOf(report)
    const group = key === null ? undefined : groups.get(key)
    const rule = RULES[report.rule]
    if (!group || group.length < 2 || !rule) return [report]
    return group[0] === report ? [joinedOf(context, rule, report.draft.cause ?? '', group)] : []
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
  const told = byCause(context, reports).sort(inOrder)
  const all = told.map((report) => findingOf(report, report.about))
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
      const report = told[all.findIndex((finding) => finding.id === id)]
      if (!report) return []
      const isCured = (after: Rig): boolean => {
        const then = recheckWith(check, after, apply)
        return then.findings.every((other) => other.id !== id) && newErrors(check, then).length === 0
      }
      return offeredFixes(context, report.draft, (edits) => {
        const after = made(apply, rig, edits)
        if (after === null) return { holds: false }
        if (isCured(after)) return { holds: true, teach: [] }
        const { rig: then, taught } = onceTaught(rig, after)
        return taught.length > 0 && isCured(then) ? { holds: true, teach: taught } : { holds: false }
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
  const scopes = new Map<RuleReach, AffectedScope | null>()
  const scopeOf = (reach: RuleReach): AffectedScope | null => {
    const known = scopes.get(reach)
    if (known !== undefined) return known
    const scope = AFFECTED[reach]({ before, after, change })
    scopes.set(reach, scope)
    return scope
  }
  const takenBack = new Set<string>()
  const emptied = new Set<number>()
  const added: Report[] = []
  RULES.forEach((rule, number) => {
    const scope = scopeOf(rule.reach)
    if (scope === null) return
    if (scope.before === 'all') emptied.add(number)
    else for (const { about } of reportsOf(rule, scope.before)) takenBack.add(about)
    added.push(...reportsOf(rule, scope.after))
  })
  const kept = previous.reports.filter(({ rule, about }) => !emptied.has(rule) && !takenBack.has(about))
  return finished(contextOf(rig, { occupancy: after }), merged(kept, added.sort(inOrder)), apply)
}
