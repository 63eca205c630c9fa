import type { Sender } from '../addresses'
import { FOURTEEN_MAX } from '../midi'
import { listenersOf } from '../mappings'
import { numberBounds, type MessageKind, type Rig } from '../rig'
import type { Preference } from '../conflicts'

const range = (low: number, high: number): number[] =>
  Array.from({ length: Math.max(0, high - low + 1) }, (_, index) => low + index)

/** Does a cable change what parameters arrive as? Then what is free cannot be told by what is written down. */
const isRewritten = ({ cables }: Rig): boolean =>
  cables.some(({ rules }) =>
    rules.some(
      (rule) =>
        rule.kind === 'rewrite' &&
        (rule.to.kind === 'nrpn' || rule.match.kinds.length === 0 || rule.match.kinds.includes('nrpn')),
    ),
  )

/** The parameter numbers that a rig or a request says anything about, and those next to them. */
function marksOf(rig: Rig, senders: readonly Sender[], rules: readonly Preference[]): number[] {
  const sent = senders.flatMap(({ message }) =>
    message.kind === 'nrpn' && message.number !== 'wanted' ? [message.number] : [],
  )
  const heard = listenersOf(rig).flatMap(({ address: { target } }) =>
    target.kind === 'nrpn' ? [target.number] : [],
  )
  const ruled = [...rig.houseRules, ...rules].flatMap(({ message, low, high }) =>
    message === 'nrpn' ? [low - 1, low, high, high + 1] : [],
  )
  const cabled = rig.cables.flatMap(({ rules: own }) =>
    own.flatMap(({ match: { low, high } }) =>
      low === null && high === null ? [] : [(low ?? 0) - 1, low ?? 0, high ?? FOURTEEN_MAX, (high ?? 0) + 1],
    ),
  )
  return [...new Set([0, FOURTEEN_MAX, ...sent, ...heard, ...ruled, ...cabled])]
}

/**
 * The numbers that are worth trying for each kind of message, from the lowest up. Of the 16,384 parameters those
 * of which nothing is said are all alike, so of each stretch of them only as many are tried from both ends as there
 * are senders to be given one: whatever is laid between could as well be laid there.
 */
export function numbersWorthTrying(
  rig: Rig,
  senders: readonly Sender[],
  free: readonly Sender[],
  rules: readonly Preference[],
): (kind: MessageKind) => readonly number[] {
  const parameters = (): number[] => {
    if (isRewritten(rig)) return range(0, FOURTEEN_MAX)
    const count = free.filter(({ message }) => message.kind === 'nrpn').length
    const near = new Set<number>()
    for (const mark of marksOf(rig, senders, rules))
      for (const number of range(Math.max(0, mark - count), Math.min(FOURTEEN_MAX, mark + count)))
        near.add(number)
    return [...near].toSorted((a, b) => a - b)
  }
  const known = new Map<MessageKind, readonly number[]>()
  return (kind) => {
    const bounds = numberBounds(kind)
    const found =
      known.get(kind) ??
      (bounds === null ? [] : kind === 'nrpn' ? parameters() : range(bounds.low, bounds.high))
    known.set(kind, found)
    return found
  }
}
