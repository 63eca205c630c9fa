import { isWanting, type Sender } from '../addresses'
import { covers, numberRank, preferencesAt, type CheckContext } from '../conflicts'
import { isChannelMessage } from '../rig'
import { sentAway } from './away'
import { anchorOf, CHANNEL_STRIDE } from './candidates'
import { groupOf } from './channels'
import { followersIn } from './followers'
import type { Trouble } from './free'
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
  /** What has to be lost for this: taught elsewhere, it ends the error that the sender would be in. */
  lost: Ending | null
  costs: Readonly<Record<OwnTerm, number>>
}

/** What wants a number, and is left without. */
const LEFT_WITHOUT: Still = {
  address: NOWHERE,
  isLeft: true,
  isUnmet: false,
  lost: null,
  costs: { ...noCosts(), errors: 1 },
}

/** Who may not stay where they are, and groups of whom only one may. */
export interface Limits {
  barred: ReadonlySet<string>
  groups: ReadonlyArray<readonly string[]>
}

/** The same by all errors that there are. */
export interface Stays extends Limits {
  /** The same by those that cannot end by teaching, and by what others end for whom. */
  firm: Limits & Pick<Teaching, 'endings'>
}

/** Who of those who may move may stay, by what is in error now: with each other, and with those who do not move. */
export function staysOf(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
  { firm, endings }: Teaching,
): Stays {
  return {
    ...limitsOf(context, senders, troubles),
    firm: { ...limitsOf(context, senders, firm), endings },
  }
}

/** Who may not stay, and who may not stay together, by some errors: of those who may move, and those who go with them. */
export function limitsOf(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): Limits {
  const { leaderOf } = followersIn(context)
  const leaders = new Map(
    troubles.flatMap((trouble) =>
      trouble.senders.map((sender) => [sender.key, (leaderOf(sender) ?? sender).key]),
    ),
  )
  const lead = (key: string): string => leaders.get(key) ?? key
  const free = new Set(senders.map(({ key }) => key))
  const barred = new Set(troubles.flatMap(({ alone }) => [...alone].map(lead)))
  const groups: string[][] = []
  for (const clique of troubles.flatMap(({ cliques }) => cliques)) {
    const group = [...new Set(clique.map(lead))]
    if (group.every((key) => free.has(key))) groups.push(group)
    else for (const key of group) barred.add(key)
  }
  return { barred, groups }
}

/** The ways to leave each sender as it is: where it may stay, outside of what is asked, or in an error. */
export function stillFinder(
  { rig }: CheckContext,
  request: AllocateRequest,
  { barred, groups, firm }: Stays,
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
    const still = (isLeft: boolean, isUnmet: boolean, lost: Ending | null = null): Still => {
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
    const endings = isInError && !firm.barred.has(sender.key) ? (firm.endings.get(sender.key) ?? []) : []
    return [
      ...(canMeet && !isAlone ? [still(false, false)] : []),
      ...(canMiss && !isAlone ? [still(false, true)] : []),
      ...(canMeet ? endings.map((lost) => still(false, false, lost)) : []),
      ...(canMiss ? endings.map((lost) => still(false, true, lost)) : []),
      ...(canMeet && isInError ? [still(true, false)] : []),
      ...(canMiss && isInError ? [still(true, true)] : []),
    ]
  }
}
