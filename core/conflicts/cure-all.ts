import type { Rig, RigEdit } from '../rig'
import { checkWith, recheckWith, type Apply } from './check'
import type { Fix } from './finding'
import { RULES } from './rules'

const MOST_CURES = 500

export interface CuredAll {
  edits: readonly RigEdit[]
  cured: number
  /** Findings of the rule for which there is no safe cure. */
  left: number
}

/**
 * Cure every finding of a rule for which there is a safe cure, one after the other, each as the rig stands
 * after those before. As every single cure, none brings a new error.
 */
export function cureAll(rig: Rig, rule: string, apply: Apply): CuredAll {
  const safe = new Set(RULES.find(({ id }) => id === rule)?.safe)
  const edits: RigEdit[] = []
  const hopeless = new Set<string>()
  let now = rig
  let cured = 0
  let check = checkWith(rig, apply)
  for (;;) {
    const { findings, fixesOf } = check
    const ofRule = findings.filter((finding) => finding.rule === rule)
    let fix: Fix | undefined
    for (const { id } of ofRule) {
      if (hopeless.has(id)) continue
      fix = fixesOf(id).find(({ kind, teach }) => safe.has(kind) && teach === undefined)
      if (fix) break
      hopeless.add(id)
    }
    if (!fix || cured >= MOST_CURES) return { edits, cured, left: ofRule.length }
    now = apply(now, fix.edits)
    check = recheckWith(check, now, apply)
    edits.push(...fix.edits)
    cured++
  }
}
