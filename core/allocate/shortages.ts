import { CHANNELS } from '../midi'
import type { Sender } from '../addresses'
import { findingPlace, listed, placeWords, type Apply, type Check, type CheckContext } from '../conflicts'
import { MESSAGE_KIND_NAME, rigIndex, type Rig } from '../rig'
import { followersIn } from './followers'
import type { Trouble } from './free'
import { helpsOf } from './helps'
import { freedomOf, whyFixed, whyLeftOut } from './movable'
import type { Shortage } from './plan'
import type { Planned } from './planned'
import { isOneForEach, type AllocateRequest } from './request'

/** Who is left, with the channel groups and the numbers they could have had. */
interface Left {
  senders: readonly Sender[]
  /** Addresses that one of them could have if it were alone. */
  room: ReadonlySet<number>
}

/** Who is left as it is, in an error, without a number, or where it was not to stay: by controller, channel and kind. */
function leftBy({ built, solution: { choice } }: Planned): Left[] {
  const groups = new Map<string, { senders: Sender[]; room: Set<number> }>()
  built.senders.forEach((sender, item) => {
    if (!built.isLeft(item, choice[item] ?? 0)) return
    const key = `${sender.place.controller} ${sender.channel} ${sender.message.kind}`
    const group = groups.get(key) ?? { senders: [], room: new Set() }
    groups.set(key, group)
    group.senders.push(sender)
    for (const address of built.roomFor(item)) group.room.add(address)
  })
  return [...groups.values()]
}

/** On which channels a sender was looked for a place, in a few words. */
function whereWords({ policy }: AllocateRequest, rig: Rig, { channel, place }: Sender): string {
  switch (policy.kind) {
    case 'keep-if-room':
      return 'on any channel'
    case 'keep':
      return `on channel ${channel}`
    case 'home':
      return `on channel ${rigIndex(rig).controllers.get(place.controller)?.homeChannel ?? channel}`
    case 'among':
      return policy.channels.length === CHANNELS.length
        ? 'on any channel'
        : `on ${channelWords(policy.channels)}`
    case 'each-controller':
    case 'each-layer':
    case 'each-destination':
      return 'on the channel of all that belong to it'
  }
}

const channelWords = (channels: readonly number[]): string => {
  const sorted = channels.toSorted((a, b) => a - b)
  return sorted.length === 1 ? `channel ${sorted[0]}` : `channels ${listed(sorted.map(String))}`
}

/** What kind of place a sender needs: a number, or for what keeps its number a channel. */
function placeNeeded(context: CheckContext, request: AllocateRequest, sender: Sender): string {
  const freedom = freedomOf(context, request, sender)
  const kind = MESSAGE_KIND_NAME[sender.message.kind]
  return 'free' in freedom && freedom.free === 'channel' ? `channel for its ${kind}` : `${kind} number`
}

/**
 * Who is left without an address, gathered by where they could have gone, with what would help.
 *
 * @param after The rig once the plan is made.
 */
export function shortagesOf(
  check: Check,
  after: Check,
  request: AllocateRequest,
  plan: Planned,
  troubles: readonly Trouble[],
  apply: Apply,
): Shortage[] {
  const { context } = check
  const { rig } = context
  const { built } = plan
  const lefts = leftBy(plan)
  // What is wanted at once does not wait for what would help.
  const helpFor = request.steps === 0 ? () => [] : helpsOf(check, after, request, plan, troubles, apply)
  return lefts.flatMap(({ senders, room }) => {
    const [first] = senders
    if (!first) return []
    const contested = new Map<readonly number[], boolean>()
    const isContested = (own: readonly number[]): boolean => {
      const is = contested.get(own) ?? own.some((address) => room.has(address))
      contested.set(own, is)
      return is
    }
    const rivals = new Set([
      ...senders,
      ...built.senders.filter((sender, item) => built.free.has(sender) && isContested(built.roomFor(item))),
    ])
    const needed = placeNeeded(context, request, first)
    const where = whereWords(request, rig, first)
    const what = isOneForEach(request)
      ? 'no one channel has room for all that are to be together on it and reaches what each of them moves'
      : room.size === 0
        ? `no ${needed} is free ${where}`
        : `${rivals.size === 1 ? '1 gesture wants' : `${rivals.size} gestures compete for`} ${room.size} free ${kindWords(first, room.size)} ${where}`
    const helps = helpFor(senders)
    return [
      {
        message: `${placeWords(rig, senders.map(findingPlace))}: ${what}; ${senders.length === 1 ? 'this one is' : `these ${senders.length} are`} left.`,
        help: helps.length === 0 ? '' : `To help: ${helps.join(', or ')}.`,
        at: senders.map(findingPlace),
      },
    ]
  })
}

const kindWords = ({ message }: Sender, count: number): string =>
  `${MESSAGE_KIND_NAME[message.kind]} ${count === 1 ? 'number' : 'numbers'}`

/** Whom it was asked to give another address and may not, by why. */
export function heldBack(
  context: CheckContext,
  request: AllocateRequest,
  fixed: readonly Sender[],
): Shortage[] {
  const said = new Map<string, Sender[]>()
  for (const sender of fixed) {
    const isCarried = followersIn(context).leaderOf(sender) !== null
    const why = isCarried || whyLeftOut(request, sender) ? null : whyFixed(context, request, sender)
    if (why !== null) said.set(why, [...(said.get(why) ?? []), sender])
  }
  const movesIfNamed = (sender: Sender): boolean =>
    whyFixed(context, { ...request, gestures: [...request.gestures, sender.gesture] }, sender) === null
  return [...said].map(([why, senders]) => ({
    message: `${placeWords(context.rig, senders.map(findingPlace))}: ${why}, so ${senders.length === 1 ? 'it is left as it is' : 'they are left as they are'}.`,
    help: senders.every(movesIfNamed)
      ? 'To help: name it, by selecting it and letting only what is selected change, or change it yourself.'
      : 'No plan may change it: change it yourself.',
    at: senders.map(findingPlace),
  }))
}

/** Errors of which nothing may be moved, each with why. */
export function heldErrors(
  context: CheckContext,
  request: AllocateRequest,
  troubles: readonly Trouble[],
): Shortage[] {
  return troubles.flatMap((trouble) => {
    const cures = new Set([...trouble.alone, ...trouble.cliques.flat()])
    const whys = trouble.senders
      .filter(({ key }) => cures.has(key))
      .map((sender) => ({ sender, why: whyFixed(context, request, sender) }))
    const movers = whys.filter(({ why }) => why === null)
    if (movers.length > 0) return []
    const said = new Map<string, Sender[]>()
    for (const { sender, why } of whys) said.set(why ?? '', [...(said.get(why ?? '') ?? []), sender])
    const parts = [...said].map(
      ([why, senders]) => `${placeWords(context.rig, senders.map(findingPlace))}: ${why}`,
    )
    return [
      {
        message: trouble.message,
        help: `None of it may move. ${parts.join('. ')}.`,
        at: trouble.senders.map(findingPlace),
      },
    ]
  })
}
