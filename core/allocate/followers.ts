import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { memoOf, splitGestureKey, type Keys } from '../rig'

/** Poly pressure that goes wherever a note of its control goes. */
export interface Followers {
  of: (leader: Sender) => readonly Sender[]
  leaderOf: (follower: Sender) => Sender | null
}

/**
 * Who goes with whom: poly pressure for one key, with the first note that the same control sends for the same
 * key on the same channel in the same layer, or with the one that wants a number as it does.
 */
export const followersIn = memoOf(({ occupancy: { senders } }: CheckContext): Followers => {
  const leaders = new Map<string, Sender>()
  for (const sender of senders) {
    const spot = sender.message.kind === 'note' ? spotOf(sender, sender.message.keys) : null
    if (spot !== null && !leaders.has(spot)) leaders.set(spot, sender)
  }
  const leaderOf = new Map<string, Sender>()
  const of = new Map<string, Sender[]>()
  for (const sender of senders) {
    const spot = sender.message.kind === 'polyPressure' ? spotOf(sender, sender.message.keys) : null
    const leader = spot === null ? undefined : leaders.get(spot)
    if (!leader) continue
    leaderOf.set(sender.key, leader)
    of.set(leader.key, [...(of.get(leader.key) ?? []), sender])
  }
  return {
    of: ({ key }) => of.get(key) ?? [],
    leaderOf: ({ key }) => leaderOf.get(key) ?? null,
  }
})

function spotOf({ place, channel }: Sender, keys: Keys): string | null {
  if (keys.kind !== 'one') return null
  const { control } = splitGestureKey(place.gesture)
  return [place.controller, place.template, place.layer ?? '', control, channel, keys.number].join(' ')
}
