import { contextOf, type CheckContext } from './context'
import { findingPlace, SEVERITIES, type Draft, type Finding, type Fix } from './finding'
import { digest, factsOf } from './facts'
import { fixesFor } from './fixes'
import { RULES } from './rules'
import { placeKey, type Rig, type RigEdit } from '../rig'

/** The findings of a rig, and the cures of each when asked for. */
export interface Check {
  context: CheckContext
  findings: readonly Finding[]
  /** Findings that were set aside and whose facts have not changed since, with the reason. */
  asides: ReadonlyArray<{ finding: Finding; reason: string }>
  /** What can be done about a finding; empty for an id that is not among the findings. */
  fixesOf: (findingId: string) => readonly Fix[]
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
function wasThere(error: Finding, before: readonly Finding[]): boolean {
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

/**
 * Check a rig against every rule. Pure; findings come by severity (errors first), then rule, then
 * address. Those set aside are given apart, until their facts change. What put-away controllers send, and what a destination does not hear, raises nothing.
 */
export function checkWith(rig: Rig, apply: Apply): Check {
  const context = contextOf(rig)
  const drafts = new Map<string, { rule: string; draft: Draft }>()
  const seen = new Map<string, number>()
  const all = RULES.flatMap((rule) =>
    rule.find(context).map((draft): Finding => {
      const about = [draft.addresses.join(','), draft.about].filter(Boolean).join(' ')
      const id = numbered(`${rule.id}:${about.length > LONG_ID ? digest(about) : about}`, seen)
      drafts.set(id, { rule: rule.id, draft })
      return {
        id,
        rule: rule.id,
        severity: draft.severity,
        message: draft.message,
        at: draft.places ?? draft.senders.map(findingPlace),
        addresses: draft.addresses,
        destinations: draft.destinations,
        things: draft.things ?? [],
      }
    }),
  )
  const aside = new Map(rig.setAside.map((each) => [each.finding, each]))
  const isAside = (finding: Finding): boolean => aside.get(finding.id)?.facts === factsOf(finding)
  const asides = all
    .filter(isAside)
    .map((finding) => ({ finding, reason: aside.get(finding.id)?.reason ?? '' }))
  const findings = all.filter((finding) => !isAside(finding))
  const rank = (finding: Finding): number => SEVERITIES.indexOf(finding.severity)
  return {
    context,
    asides,
    findings: findings.sort((a, b) => rank(a) - rank(b)),
    fixesOf: (id) => {
      const found = drafts.get(id)
      if (!found) return []
      const errors = all.filter(({ severity }) => severity === 'error')
      return fixesFor(context, found.rule, found.draft, (edits) => {
        const after = checkWith(apply(rig, edits), apply).findings
        return (
          after.every((finding) => finding.id !== id) &&
          after.every((finding) => finding.severity !== 'error' || wasThere(finding, errors))
        )
      })
    },
  }
}
