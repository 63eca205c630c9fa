import type { Sender } from '../addresses'
import type { Check } from '../conflicts'
import { troublesOf } from './free'
import type { Planned } from './planned'
import { limitsOf, type Limits } from './stills'
import type { Ending, Teaching } from './teaching'

/** Who was to stay because something is taught elsewhere, and by what. */
export interface Hope {
  key: string
  ending: Ending
}

/**
 * Who was to stay because something is taught elsewhere, and is in an error all the same. An error counts as ended by any of
 * what could end it, though it may take several; so it is seen once all has been taught.
 *
 * @param senders Those who may move.
 * @param after The rig with the plan, once what it makes unheard has been taught again.
 */
export function unsettledIn(
  { built, solution: { choice } }: Planned,
  senders: readonly Sender[],
  after: Check,
): readonly Hope[] {
  const hopes: Hope[] = []
  const inError = new Set<string>()
  built.senders.forEach(({ key }, item) => {
    const candidate = choice[item] ?? 0
    const ending = built.endsBy(item, candidate)
    if (ending) hopes.push({ key, ending })
    if ((built.problem.items[item]?.costs.errors[candidate] ?? 0) > 0) inError.add(key)
  })
  return hopes.length === 0
    ? []
    : failedOf(hopes, inError, limitsOf(after.context, senders, troublesOf(after)))
}

/** The hopes of those who may not stay, by limits that are left: not even alone, or not beside others who are to be in no error. */
export function failedOf(
  hopes: readonly Hope[],
  inError: ReadonlySet<string>,
  { barred, groups }: Limits,
): readonly Hope[] {
  const stays = groups.map((group) => group.filter((key) => !inError.has(key)))
  return hopes.filter(
    ({ key }) => barred.has(key) || stays.some((group) => group.length > 1 && group.includes(key)),
  )
}

/** The same without some of what was hoped for; null if nothing is left to hope for. */
export function withoutHopes(teaching: Teaching, hopes: readonly Hope[]): Teaching | null {
  const endings = new Map(
    [...teaching.endings].flatMap(([key, own]) => {
      const left = own.filter((ending) => !hopes.some((hope) => hope.key === key && hope.ending === ending))
      return left.length > 0 ? [[key, left] as const] : []
    }),
  )
  return endings.size > 0 ? { ...teaching, endings } : null
}
