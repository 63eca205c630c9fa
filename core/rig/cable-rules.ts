import { fitsNumber, MESSAGE_KIND_NAME, numberBounds } from './messages'
import type { CableKind, CableRule } from './types'

type Rewrite = Extract<CableRule, { kind: 'rewrite' }>

/** The kinds that a rewrite can leave behind: those that carry a number to move, else the kind itself. */
const landingKinds = ({ match, to }: Rewrite): readonly CableKind[] =>
  to.kind !== null ? [to.kind] : match.kinds

/**
 * Why a rule cannot be, in words for the player, or null if it can: ends the wrong way round, or a
 * rewrite whose numbers would land outside what the standard has.
 */
export function cableRuleProblem(rule: CableRule): string | null {
  const { low, high } = rule.match
  if (low !== null && high !== null && low > high)
    return `The numbers from ${low} to ${high} are the wrong way round.`
  if (rule.kind !== 'rewrite') return null
  const { number } = rule.to
  if (number === null) return null
  const last = number + (low !== null && high !== null ? high - low : 0)
  for (const kind of landingKinds(rule)) {
    const bounds = numberBounds(kind)
    if (bounds === null) continue
    if (last > bounds.high || number < bounds.low)
      return `${MESSAGE_KIND_NAME[kind]} would land on ${last > bounds.high ? last : number}: use ${bounds.low} to ${bounds.high}.`
    if (!fitsNumber(kind, number)) return `${MESSAGE_KIND_NAME[kind]} cannot carry ${number}.`
  }
  return null
}
