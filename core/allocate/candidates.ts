import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { arrivedAs, meetsExpected } from '../mappings'
import { channelOf, mappingsOf, numberBounds, numberOf, rigIndex, type ChannelMessage } from '../rig'
import { preferencesAt, type Preference } from './asked'
import { liesAway } from './free'
import { messageAt, type Ground } from './ground'
import { classRank } from './rank'
import type { AllocateRequest } from './request'
import type { OwnTerm } from './solver/problem'

/** Numbers of NRPN above this are not given out: their runs would be beyond remembering. */
const HIGHEST_NRPN = 1023
/** Addresses of neighbouring channels never touch. */
export const CHANNEL_STRIDE = 2 ** 15

/** A place that a sender could go to, or stay at. */
export interface Candidate {
  address: number
  takes: readonly number[]
  costs: Partial<Record<OwnTerm, number>>
  message: ChannelMessage | null
}

/** Is a sender left where it is, or given what it had, counted as a change that is to be rare? */
const isRepair = ({ kind }: AllocateRequest): boolean =>
  kind === 'repair' || kind === 'avoid' || kind === 'make-room'

export const rankOf = (message: ChannelMessage, number: number): number | null => {
  if (message.kind !== 'cc' && message.kind !== 'cc14') return 0
  return classRank(number)
}

export const covers = (rule: Preference, channel: Channel, number: number): boolean =>
  (rule.channel === null || rule.channel === channel) && number >= rule.low && number <= rule.high

/** A mapping of a sender's gesture that was taught, and how it stands with it. */
interface OwnMapping {
  hears: (message: ChannelMessage) => boolean
  /** Is it this sender, and no other of its gesture, that the mapping hears now? */
  isHeldUp: boolean
  /** Could this sender, as the only one of its gesture, bring a mapping back that hears nothing now? */
  isUnheard: boolean
}

export function ownMappings({ rig, joins }: CheckContext, sender: Sender): OwnMapping[] {
  const owner = rigIndex(rig).controllers.get(sender.place.controller)
  const ids = new Set(mappingsOf(rig, sender.gesture).map(({ id }) => id))
  if (!owner || ids.size === 0) return []
  return joins()
    .filter(({ mapping }) => ids.has(mapping.id))
    .flatMap(({ mapping, expected, senders, meeting }) => {
      if (!expected) return []
      return [
        {
          hears: (message: ChannelMessage): boolean =>
            arrivedAs(rig, owner, message, mapping.destination).some((arrived) =>
              meetsExpected(arrived, channelOf(arrived, owner.homeChannel), expected),
            ),
          isHeldUp: meeting.length === 1 && meeting[0] === sender,
          isUnheard: meeting.length === 0 && senders.length === 1,
        },
      ]
    })
}

/** Everything that could be said of one free sender's places to go. */
export function candidatesFor(
  context: CheckContext,
  request: AllocateRequest,
  ground: Ground,
  sender: Sender,
  channels: readonly Channel[],
  barred: ReadonlySet<string>,
): Candidate[] {
  const { rig } = context
  const { message } = sender
  const bounds = numberBounds(message.kind)
  if (bounds === null) return []
  const rules = preferencesAt(rig, request.rules, sender.place, message.kind)
  const avoid = rules.filter(({ kind }) => kind === 'avoid')
  const prefer = rules.filter(({ kind }) => kind === 'prefer')
  const own = ownMappings(context, sender)
  const term = isRepair(request) ? 'changed' : 'moved'
  const candidates: Candidate[] = []
  for (const channel of channels) {
    for (let number = bounds.low; number <= Math.min(bounds.high, HIGHEST_NRPN); number++) {
      if (channel === sender.channel && number === numberOf(message)) continue
      if (
        avoid.some((rule) => covers(rule, channel, number)) ||
        liesAway(request, message.kind, channel, number)
      )
        continue
      if (barred.has(`${sender.key} ${channel} ${number}`)) continue
      const at = messageAt(rig, sender, channel, number)
      const rank = at && rankOf(at, number)
      if (!at || rank === null) continue
      const takes = ground.takesAt(sender, at, request.shareLayers)
      if (takes === null) continue
      const lost = own.filter(({ isHeldUp, hears }) => isHeldUp && !hears(at)).length
      const unheard = own.filter(({ isUnheard, hears }) => isUnheard && !hears(at)).length
      candidates.push({
        address: channel * CHANNEL_STRIDE + number,
        takes,
        message: at,
        costs: {
          stale: lost,
          warnings:
            lost + unheard + (request.policy.kind === 'keep-if-room' && channel !== sender.channel ? 1 : 0),
          [term]: isWanting(sender) ? 0 : 1,
          outside: prefer.length > 0 && !prefer.some((rule) => covers(rule, channel, number)) ? 1 : 0,
          rank,
        },
      })
    }
  }
  return candidates
}

/** What the places that a sender can go to depend on; null where that is itself alone. */
export function alikeKey(
  { rig, occupancy }: CheckContext,
  request: AllocateRequest,
  sender: Sender,
  barred: ReadonlySet<string>,
): string | null {
  const { message, place } = sender
  if (mappingsOf(rig, sender.gesture).length > 0 || barred.size > 0 || !isWanting(sender)) return null
  const reached = occupancy.emissionsOf(sender).map(({ bus }) => bus.id)
  const block = preferencesAt(rig, request.rules, place, message.kind)
  const layer = request.shareLayers || request.policy.kind === 'each-layer' ? standingKey(sender) : ''
  return JSON.stringify([
    place.controller,
    { ...message, number: 0, keys: 0, range: 0 },
    reached,
    block,
    layer,
  ])
}

/** The template and layer that a sender stands in. */
export const standingKey = ({ place }: Sender): string =>
  `${place.controller}/${place.template}/${place.layer ?? ''}`
