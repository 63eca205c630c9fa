import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { wouldMatch, type ResolvedMapping } from '../mappings'
import {
  resolveChannel,
  rigIndex,
  withChannel,
  type ChannelMessage,
  type GestureRef,
  type Mapping,
} from '../rig'
import { followersIn } from './followers'
import type { Listening } from './ground'

/** How a mapping that listens somewhere stands with those who may move. */
export interface Hearing {
  /** Is it heard where everyone is now? */
  isHeard: boolean
  /** Those who may move and send for it, each with all that goes with it. It is heard as long as one of them is. */
  leaders: readonly Sender[]
  /** Does it hear what a leader, or who goes with it, sends where they are now? */
  hearsNow: (leader: Sender) => boolean
  /** Would it hear this message of a sender, which is its own control's? */
  hears: (sender: Sender, message: ChannelMessage) => boolean
  /** Where it listens. */
  listening: Listening
  /** Does a sender send for it? */
  isOwn: (sender: Sender) => boolean
  mapping: Mapping
}

/** The mappings that depend on those who may move. */
export interface Hearings {
  all: readonly Hearing[]
  of: (leader: Sender) => readonly Hearing[]
  /** Where anything listens that a leader, or who goes with it, is joined to, whether it depends on it or not. */
  listenings: (leader: Sender) => readonly Listening[]
}

/** For those of whom it does not matter what hears them. */
export const NO_HEARINGS: Hearings = { all: [], of: () => [], listenings: () => [] }

/**
 * The mappings that depend on those who may move: such as nobody serves who stays. By leader, in the order of the
 * rig.
 */
export function hearingsOf(
  { rig, resolved }: CheckContext,
  leaders: readonly Sender[],
  withFollowers: (leader: Sender) => readonly Sender[],
): Hearings {
  const leaderOf = new Map<string, Sender>()
  const byGesture = new Map<GestureRef, Set<Sender>>()
  for (const leader of leaders) {
    for (const each of withFollowers(leader)) {
      leaderOf.set(each.key, leader)
      byGesture.set(each.gesture, (byGesture.get(each.gesture) ?? new Set()).add(leader))
    }
  }
  const listenings = new Map<Sender, Listening[]>()
  const all = resolved().flatMap((mapping) => {
    const { gesture } = mapping.mapping
    const own = gesture === null ? undefined : byGesture.get(gesture)
    if (!own || !mapping.listening) return []
    const listening = { destination: mapping.mapping.destination, address: mapping.listening.address }
    for (const leader of own) listenings.set(leader, [...(listenings.get(leader) ?? []), listening])
    return hearingOf(mapping, [...own], listening) ?? []
  })
  const of = new Map<Sender, Hearing[]>()
  for (const hearing of all)
    for (const leader of hearing.leaders) of.set(leader, [...(of.get(leader) ?? []), hearing])
  return {
    all,
    of: (leader) => of.get(leader) ?? [],
    listenings: (leader) => listenings.get(leader) ?? [],
  }

  function hearingOf(
    { mapping, meeting }: ResolvedMapping,
    own: readonly Sender[],
    listening: Listening,
  ): Hearing | null {
    if (meeting.some(({ key }) => !leaderOf.has(key))) return null
    const heardOf = new Set(meeting.map(({ key }) => leaderOf.get(key)))
    return {
      isHeard: meeting.length > 0,
      leaders: own,
      hearsNow: (leader) => heardOf.has(leader),
      hears: ({ place }, message) => {
        const owner = rigIndex(rig).controllers.get(place.controller)
        if (!owner) return false
        const sent = withChannel(message, resolveChannel(message.channel, owner.homeChannel))
        return wouldMatch(rig, owner.id, sent, mapping.destination, listening.address)
      },
      listening,
      isOwn: ({ gesture }) => gesture === mapping.gesture,
      mapping,
    }
  }
}

/** Those who may move, each with all that goes with it. */
export const withFollowersIn =
  (context: CheckContext) =>
  (leader: Sender): readonly Sender[] => [leader, ...followersIn(context).of(leader)]
