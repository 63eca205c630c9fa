import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import { covers, messageAt, numberRank, preferencesAt, reachOf, type CheckContext } from '../conflicts'
import { isChannelMessage, numberOf, splitGestureKey, type Message, type MessageKind } from '../rig'
import { liesAway } from './away'
import { numberless } from './arrivals'
import type { Ground } from './ground'
import { withFollowersIn, type Hearing, type Hearings } from './hearing'
import { freedomOf } from './movable'
import type { AllocateRequest } from './request'
import { together, type Takes } from './takes'

/** Addresses of neighbouring channels never touch. */
export const CHANNEL_STRIDE = 2 ** 15

/** An address that a sender could go to. */
export interface Spot {
  /** A number for the channel and the number, by which addresses are told apart and put in order. */
  address: number
  channel: Channel
  /** Null where only the channel is another. */
  number: number | null
  takes: Takes
  /** Is it outside of what the house rules prefer? */
  isOutside: boolean
  rank: number
}

/** A spot at which something listens that its sender is joined to, with the mappings that do not hear it there. */
export interface NearSpot extends Spot {
  unheard: readonly Hearing[]
}

/** The spots of one sender on one channel, each in the order of addresses. */
export interface Spots {
  /** Where nothing hears it that it is joined to; shared by all that are alike. */
  far: readonly Spot[]
  near: readonly NearSpot[]
}

/** Where one sender could go. */
export interface SpotsOfOne {
  on: (channel: Channel) => Spots
  /** Is there any spot on a channel? Soon seen where there are many. */
  isAnyOn: (channel: Channel) => boolean
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

/** The template and layer that a sender stands in. */
export const standingKey = ({ place }: Sender): string =>
  `${place.controller}/${place.template}/${place.layer ?? ''}`

/** Finds the spots of senders; what is the same for many is found once. */
export function spotFinder(
  context: CheckContext,
  request: AllocateRequest,
  ground: Ground,
  hearings: Hearings,
  numbersFor: (kind: MessageKind) => readonly number[],
): (sender: Sender) => SpotsOfOne {
  const { rig, occupancy } = context
  const withFollowers = withFollowersIn(context)
  const shares = request.shareLayers
  const far = new Map<string, readonly Spot[]>()
  const arriving = new Map<string, Map<number, Array<number | null>>>()

  return (sender) => {
    const { message } = sender
    const freedom = freedomOf(context, request, sender)
    if ('why' in freedom || !isChannelMessage(message)) return NOWHERE_TO_GO
    const all = withFollowers(sender)
    const own = freedom.free === 'channel' ? [null] : noteAlready(context, sender)
    const numbers = own ?? numbersFor(message.kind)
    const rules = preferencesAt(rig, request.rules, sender.place, message.kind)
    const avoid = rules.filter(({ kind }) => kind === 'avoid')
    const prefer = rules.filter(({ kind }) => kind === 'prefer')
    /** The same for those who can go to the same spots. */
    const likeness = (): string =>
      own !== null
        ? sender.key
        : JSON.stringify([
            sender.place.controller,
            all.map((each) => [
              numberless(each.message),
              isWanting(each),
              reachOf(rig, occupancy, each).key,
              ground.twiceNow(each),
            ]),
            rules,
            shares ? standingKey(sender) : '',
          ])

    const spotAt = (channel: Channel, number: number | null, isStranger: boolean): Spot | null => {
      const anchor = number ?? anchorOf(message)
      if (avoid.some((rule) => covers(rule, channel, anchor))) return null
      if (liesAway(request, message.kind, channel, anchor)) return null
      const rank = number === null ? 0 : numberRank(message, number)
      if (rank === null) return null
      const takes: Takes[] = []
      for (const each of all) {
        const taken = ground.takesAt(each, channel, number, { shares, isStranger })
        if (!taken) return null
        takes.push(taken)
      }
      return {
        address: channel * CHANNEL_STRIDE + anchor,
        channel,
        number,
        takes: together(takes),
        isOutside: prefer.length > 0 && !prefer.some((rule) => covers(rule, channel, anchor)),
        rank,
      }
    }
    let known: string | null = null
    const keyOn = (channel: Channel): string => `${channel} ${(known ??= likeness())}`
    /** The numbers with which it arrives in each cell of a channel. */
    const arrivingOn = (channel: Channel): Map<number, Array<number | null>> => {
      const key = keyOn(channel)
      const before = arriving.get(key)
      if (before) return before
      const found = new Map<number, Array<number | null>>()
      arriving.set(key, found)
      for (const number of numbers)
        for (const each of all)
          for (const cell of ground.arrivesIn(each, channel, number)) {
            const own = found.get(cell)
            if (own) own.push(number)
            else found.set(cell, [number])
          }
      return found
    }
    const heardIn = hearings.listenings(sender).flatMap(ground.cellsHeard)
    const nearNumbers = (channel: Channel): Array<number | null> => {
      if (heardIn.length === 0) return []
      const arrivals = arrivingOn(channel)
      const near = new Set(heardIn.flatMap((cell) => arrivals.get(cell) ?? []))
      return near.size === 0 ? [] : numbers.filter((number) => near.has(number))
    }
    const unheardAt = (channel: Channel, number: number | null): Hearing[] => {
      const sent = all.map((each) => ({ each, at: messageAt(rig, each, channel, number) }))
      const isHeard = (hearing: Hearing): boolean =>
        sent.some(({ each, at }) => at !== null && hearing.isOwn(each) && hearing.hears(each, at))
      return hearings.of(sender).filter((hearing) => !isHeard(hearing))
    }

    const isElsewhere = (channel: Channel, number: number | null): boolean =>
      channel !== sender.channel || (number !== null && number !== numberOf(message))
    const spotsOn = new Map<Channel, Spots>()
    const on = (channel: Channel): Spots => {
      const before = spotsOn.get(channel)
      if (before) return before
      const key = keyOn(channel)
      const shared = far.get(key) ?? numbers.flatMap((number) => spotAt(channel, number, true) ?? [])
      far.set(key, shared)
      const near = nearNumbers(channel)
      const isFar = ({ number }: Spot): boolean => isElsewhere(channel, number) && !near.includes(number)
      const spots = {
        // The list itself where it is the same for others, so that they are seen to be alike.
        far: shared.every(isFar) ? shared : shared.filter(isFar),
        near: near.flatMap((number): NearSpot[] => {
          const spot = isElsewhere(channel, number) ? spotAt(channel, number, false) : null
          return spot ? [{ ...spot, unheard: unheardAt(channel, number) }] : []
        }),
      }
      spotsOn.set(channel, spots)
      return spots
    }
    // Whether it is a stranger matters only where something listens that it is joined to, and there it is none.
    const isAnyOn = (channel: Channel): boolean =>
      numbers.some((number) => isElsewhere(channel, number) && spotAt(channel, number, false) !== null)
    return { on, isAnyOn }
  }
}

const NOWHERE_TO_GO: SpotsOfOne = { on: () => ({ far: [], near: [] }), isAnyOn: () => false }

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
