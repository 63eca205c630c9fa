import type { Sender } from '../addresses'
import type { Check } from '../conflicts'
import { troublesOf } from './free'
import { limitsOf, type Limits } from './limits'
import type { Planned } from './planned'
import type { Teaching } from './teaching'

/**
 * Who was to stay in no error because something is taught elsewhere, and is in one all the same, by key: what is taught goes to
 * one of the numbers that its control sends, and not always to the one that is hoped for. So it is seen once all has been taught.
 *
 * @param senders Those who may move.
 * @param after The rig with the plan, once what it makes unheard has been taught again.
 */
export function unsettledIn(
  { built, solution: { choice } }: Planned,
  senders: readonly Sender[],
  after: Check,
): readonly string[] {
  const hopes: string[] = []
  const inError = new Set<string>()
  built.senders.forEach(({ key }, item) => {
    const candidate = choice[item] ?? 0
    if (built.endsBy(item, candidate).length > 0) hopes.push(key)
    if ((built.problem.items[item]?.costs.errors[candidate] ?? 0) > 0) inError.add(key)
  })
  return hopes.length === 0
    ? []
    : failedOf(hopes, inError, limitsOf(after.context, senders, troublesOf(after)))
}

/** Those of some who may not stay, by limits that are left: not even alone, or not beside others who are to be in no error. */
export function failedOf(
  hopes: readonly string[],
  inError: ReadonlySet<string>,
  { barred, groups }: Limits,
): readonly string[] {
  const stays = groups.map((group) => group.filter((key) => !inError.has(key)))
  return hopes.filter(
    (key) => barred.has(key) || stays.some((group) => group.length > 1 && group.includes(key)),
  )
}

/** The same without some whose hope failed; null if nobody is left to hope. */
export function withoutHopes(teaching: Teaching, keys: readonly string[]): Teaching | null {
  const left = [...teaching].filter(([key]) => !keys.includes(key))
  return left.length > 0 ? new Map(left) : null
}
