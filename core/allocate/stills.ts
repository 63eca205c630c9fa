import { isWanting, type Sender } from '../addresses'
import { covers, numberRank, preferencesAt, type CheckContext } from '../conflicts'
import { isChannelMessage } from '../rig'
import { sentAway } from './away'
import { anchorOf, CHANNEL_STRIDE } from './candidates'
import { groupOf } from './channels'
import type { Limits } from './limits'
import type { AllocateRequest } from './request'
import { noCosts, NOWHERE, type OwnTerm } from './solver/problem'
import type { Ending, Teaching } from './teaching'

/** A way to leave a sender as it is. */
export interface Still {
  address: number
  /** Is it left in an error, or without a number? Then others may stay that it is in an error with. */
  isLeft: boolean
  /** Does it stay outside of what was asked, so that it keeps to no field? */
  isUnmet: boolean
  /** What has to be lost for this: taught elsewhere, it ends the errors that the sender would be in. */
  lost: readonly Ending[]
  costs: Readonly<Record<OwnTerm, number>>
}

/** What wants a number, and is left without. */
const LEFT_WITHOUT: Still = {
  address: NOWHERE,
  isLeft: true,
  isUnmet: false,
  lost: [],
  costs: { ...noCosts(), errors: 1 },
}

/** Who of those who may move may stay, and how they may though they are in an error. */
export interface Stays extends Limits {
  endings: Teaching
}

/** So many ways at most to stay because something is lost. */
const MOST_WAYS = 16

/**
 * What may be lost for all errors of a sender to end: one of each. Where there are too many ways, only the first of them is
 * to end, so that nothing that could be is left out.
 */
function waysToEnd(errors: ReadonlyArray<readonly Ending[]>): ReadonlyArray<readonly Ending[]> {
  const ways = errors.reduce((product, own) => product * own.length, 1)
  const [first = []] = errors
  if (ways > MOST_WAYS) return first.map((ending) => [ending])
  const all = errors.reduce<Array<readonly Ending[]>>(
    (known, own) => known.flatMap((lost) => own.map((ending) => [...new Set([...lost, ending])])),
    [[]],
  )
  return errors.length === 0 ? [] : all
}

/** The ways to leave each sender as it is: where it may stay, outside of what is asked, or in an error. */
export function stillFinder(
  { rig }: CheckContext,
  request: AllocateRequest,
  { barred, groups, endings }: Stays,
): (sender: Sender) => readonly Still[] {
  const inGroups = new Set(groups.flat())
  return (sender) => {
    if (isWanting(sender)) return [LEFT_WITHOUT]
    const { message, channel, place } = sender
    const number = anchorOf(message)
    const prefer = preferencesAt(rig, request.rules, place, message.kind).filter(
      ({ kind }) => kind === 'prefer',
    )
    const isOutside = prefer.length > 0 && !prefer.some((rule) => covers(rule, channel, number))
    const still = (isLeft: boolean, isUnmet: boolean, lost: readonly Ending[] = []): Still => {
      const costs = noCosts()
      costs.errors = isLeft ? 1 : 0
      costs.unmet = isUnmet ? 1 : 0
      costs.outside = isOutside ? 1 : 0
      costs.rank = isChannelMessage(message) ? (numberRank(message, number) ?? 4) : 0
      return { address: channel * CHANNEL_STRIDE + number, isLeft, isUnmet, lost, costs }
    }
    const isAlone = barred.has(sender.key)
    const isInError = isAlone || inGroups.has(sender.key)
    const canMeet = !sentAway(request, sender)
    const canMiss = !canMeet || groupOf(rig, request.policy, sender) !== null
    const ways = waysToEnd(endings.get(sender.key) ?? [])
    return [
      ...(canMeet && !isAlone ? [still(false, false)] : []),
      ...(canMiss && !isAlone ? [still(false, true)] : []),
      ...(canMeet ? ways.map((lost) => still(false, false, lost)) : []),
      ...(canMiss ? ways.map((lost) => still(false, true, lost)) : []),
      ...(canMeet && isInError ? [still(true, false)] : []),
      ...(canMiss && isInError ? [still(true, true)] : []),
    ]
  }
}
