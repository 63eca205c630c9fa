import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import { covers, messageAt, numberRank, preferencesAt, type CheckContext } from '../conflicts'
import {
  isChannelMessage,
  mappingsOf,
  numberOf,
  splitGestureKey,
  type ChannelMessage,
  type Message,
  type MessageKind,
} from '../rig'
import { liesAway } from './away'
import { followersIn } from './followers'
import { together, type Ground, type Takes } from './ground'
import { withFollowersIn, type Hearing } from './hearing'
import { freedomOf } from './movable'
import type { AllocateRequest } from './request'
import type { OwnTerm } from './solver/problem'

/** Addresses of neighbouring channels never touch. */
export const CHANNEL_STRIDE = 2 ** 15

/** A place that a sender could go to, or stay at. */
export interface Candidate {
  address: number
  takes: Takes
  costs: Partial<Record<OwnTerm, number>>
  /** Where to; null where nothing is changed. `number` is null where only the channel is another. */
  to: { channel: Channel; number: number | null } | null
  /** Mappings that several serve and that do not hear this one there. */
  unheardBy: readonly Hearing[]
}

/** What stands for a sender's number where runs are looked for: its own, the lowest of its keys, or none. */
export const anchorOf = (message: Message): number =>
  numberOf(message) ?? ('keys' in message && message.keys.kind !== 'one' ? message.keys.low : 0)

/** By what a sender is barred from an address: from it alone, from all of its channel, from everywhere. */
export const barSpots = (
  { key }: Sender,
  channel: Channel,
  number: number | null,
): readonly [spot: string, channel: string, all: string] => [
  `${key} ${channel} ${number}`,
  `${key} ${channel}`,
  key,
]

/** Is a sender left where it is, or given what it had, counted as a change that is to be rare? */
const isRepair = ({ kind }: AllocateRequest): boolean =>
  kind === 'repair' || kind === 'avoid' || kind === 'make-room'

/** The places that one free sender could go to on a channel, each with what it takes and costs; worked out once. */
export function placesFor(
  context: CheckContext,
  request: AllocateRequest,
  ground: Ground,
  sender: Sender,
  hearings: readonly Hearing[],
  numbersFor: (kind: MessageKind) => readonly number[],
): (channel: Channel) => readonly Candidate[] {
  const { rig } = context
  const { message } = sender
  const freedom = freedomOf(context, request, sender)
  if ('why' in freedom || !isChannelMessage(message)) return () => []
  const numbers =
    freedom.free === 'channel' ? [null] : (noteAlready(context, sender) ?? numbersFor(message.kind))
  const rules = preferencesAt(rig, request.rules, sender.place, message.kind)
  const avoid = rules.filter(({ kind }) => kind === 'avoid')
  const prefer = rules.filter(({ kind }) => kind === 'prefer')
  const all = withFollowersIn(context)(sender)
  const term = isRepair(request) ? 'changed' : 'moved'

  const place = (channel: Channel, number: number | null): Candidate | null => {
    const anchor = number ?? anchorOf(message)
    if (channel === sender.channel && (number === null || number === numberOf(message))) return null
    if (avoid.some((rule) => covers(rule, channel, anchor))) return null
    if (liesAway(request, message.kind, channel, anchor)) return null
    const rank = number === null ? 0 : numberRank(message, number)
    if (rank === null) return null
    const takes: Takes[] = []
    const sent: Array<{ each: Sender; at: ChannelMessage | null }> = []
    for (const each of all) {
      const taken = ground.takesAt(each, channel, number, request.shareLayers)
      if (!taken) return null
      takes.push(taken)
      sent.push({ each, at: hearings.length === 0 ? null : messageAt(rig, each, channel, number) })
    }
    const unheard = hearings.filter(
      (hearing) =>
        !sent.some(
          ({ each, at }) =>
            at !== null &&
            hearing.isOwn(each) &&
            // Asked first, because it is at hand: few places are anywhere near.
            ground.comesNear(each, channel, number, hearing.listening) &&
            hearing.hears(each, at),
        ),
    )
    const ownUnheard = unheard.filter(({ leaders }) => leaders.length === 1)
    const lost = ownUnheard.filter(({ isHeard }) => isHeard).length
    const leaves = request.policy.kind === 'keep-if-room' && channel !== sender.channel
    return {
      address: channel * CHANNEL_STRIDE + anchor,
      takes: together(takes),
      to: { channel, number },
      unheardBy: unheard.filter(({ leaders }) => leaders.length > 1),
      costs: {
        stale: lost,
        warnings: ownUnheard.length + (leaves ? 1 : 0),
        [term]: isWanting(sender) ? 0 : all.length,
        outside: prefer.length > 0 && !prefer.some((rule) => covers(rule, channel, anchor)) ? 1 : 0,
        rank,
      },
    }
  }

  const known = new Map<Channel, readonly Candidate[]>()
  return (channel) => {
    const found = known.get(channel) ?? numbers.flatMap((number) => place(channel, number) ?? [])
    known.set(channel, found)
    return found
  }
}

/** The one number that poly pressure can have whose control sends a note of a given number; null for everything else. */
function noteAlready({ occupancy }: CheckContext, sender: Sender): number[] | null {
  if (sender.message.kind !== 'polyPressure') return null
  const { controller, template, layer, gesture } = sender.place
  const { control } = splitGestureKey(gesture)
  const note = occupancy.senders.find(
    ({ message, place }) =>
      message.kind === 'note' &&
      place.controller === controller &&
      place.template === template &&
      place.layer === layer &&
      splitGestureKey(place.gesture).control === control,
  )
  const number = note && numberOf(note.message)
  return number === undefined || number === null ? null : [number]
}

/** What the places that a sender can go to depend on; null where that is itself alone. */
export function alikeKey(context: CheckContext, request: AllocateRequest, sender: Sender): string | null {
  const { rig, occupancy } = context
  const { message, place } = sender
  const followers = followersIn(context).of(sender)
  const isJoined = [sender, ...followers].some(({ gesture }) => mappingsOf(rig, gesture).length > 0)
  if (isJoined || !isWanting(sender) || message.kind === 'polyPressure') return null
  const reached = occupancy.emissionsOf(sender).map(({ bus }) => bus.id)
  const block = preferencesAt(rig, request.rules, place, message.kind)
  const layer = request.shareLayers ? standingKey(sender) : ''
  return JSON.stringify([
    place.controller,
    [message, ...followers.map((each) => each.message)].map((each) => ({
      ...each,
      number: 0,
      keys: 0,
      range: 0,
    })),
    reached,
    block,
    layer,
  ])
}

/** The template and layer that a sender stands in. */
export const standingKey = ({ place }: Sender): string =>
  `${place.controller}/${place.template}/${place.layer ?? ''}`
