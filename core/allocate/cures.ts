import { recheckWith, RULES, type Apply, type Check, type Finding, type FixKind } from '../conflicts'
import type { RigEdit } from '../rig'

/** Cures of an address that need no other number, and nothing to be taught again, by rule. */
const WITHOUT_NUMBERS: ReadonlyMap<string, FixKind> = new Map(
  RULES.flatMap(({ id, first }) => (first ? [[id, first] as const] : [])),
)

/** A change that goes before the numbers are looked at. */
export interface FirstCure {
  /** By which a request strikes it out. */
  key: string
  /** What it cures; null where it cures nothing that is found. */
  finding: Finding | null
  label: string
  /** Why, in a sentence. */
  reason: string
  edits: readonly RigEdit[]
}

/** What cures errors without a number being changed, one after the other, and the rig as it is then checked. */
export function firstCures(
  check: Check,
  struck: readonly string[],
  apply: Apply,
): { cures: FirstCure[]; check: Check } {
  const cures: FirstCure[] = []
  const tried = new Set<string>(struck)
  let now = check
  for (;;) {
    const finding = now.findings.find(
      ({ id, rule, severity }) =>
        severity === 'error' && WITHOUT_NUMBERS.has(rule) && !tried.has(`cure ${id}`),
    )
    if (!finding) return { cures, check: now }
    const key = `cure ${finding.id}`
    tried.add(key)
    const fix = now.fixesOf(finding.id).find(({ kind }) => kind === WITHOUT_NUMBERS.get(finding.rule))
    if (!fix) continue
    cures.push({ key, finding, label: fix.label, reason: finding.message, edits: fix.edits })
    now = recheckWith(now, apply(now.context.rig, fix.edits), apply)
  }
}
