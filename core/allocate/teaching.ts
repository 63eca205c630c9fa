import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { memoOf, type Id, type Mapping } from '../rig'
import { followersIn } from './followers'
import type { Trouble } from './free'
import { hearingsOf, withFollowersIn, type Hearing } from './hearing'
import { limitsOf } from './limits'

/** A mapping that is taught elsewhere once all of these, by key, have gone from where it hears them. */
export interface Ending {
  mapping: Id
  leaders: readonly string[]
  /** Those of them whom it hears now. */
  heard: readonly string[]
}

/**
 * Who may stay in no error though they are in some now, by key: for each of these errors, the mappings of which one has to be
 * taught elsewhere.
 */
export type Teaching = ReadonlyMap<string, ReadonlyArray<readonly Ending[]>>

/**
 * Who sets off a mapping that is not its own is in an error no more when that is taught elsewhere; or when a mapping of its own
 * is taught where it sends, which moves the same then. Either has to lose those whom it hears first. Null where no error can end so.
 *
 * @param senders Those who may move.
 */
export function teachingOf(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): Teaching | null {
  const concerned = troubles.filter(({ setsOff }) => setsOff !== null)
  if (concerned.length === 0) return null
  const byId = new Map(context.rig.mappings.map((mapping) => [mapping.id, mapping]))
  const sent = new Set(context.occupancy.senders.map(({ gesture }) => gesture))
  const free = new Set(senders)
  const { leaderOf } = followersIn(context)
  const heard = hearingsOf(context, senders, withFollowersIn(context)).all.filter(({ isHeard }) => isHeard)
  const endingOf = memoOf(({ mapping, leaders, hearsNow }: Hearing): Ending => ({
    mapping: mapping.id,
    leaders: leaders.map(({ key }) => key),
    heard: leaders.filter(hearsNow).map(({ key }) => key),
  }))
  const firm = limitsOf(
    context,
    senders,
    troubles.filter(({ setsOff }) => setsOff === null),
  )
  const endings = new Map<string, Array<readonly Ending[]>>()
  for (const { setsOff, senders: all } of concerned) {
    const moved = setsOff === null ? undefined : byId.get(setsOff)
    if (!moved) continue
    const isOld = moved.gesture === null || !sent.has(moved.gesture)
    for (const sender of all) {
      const staying = leaderOf(sender) ?? sender
      if (!free.has(staying) || firm.barred.has(staying.key)) continue
      // What nobody sends for is set off by whoever does not move the same. Else whatever it moves may make them layers that share.
      const isOwn = ({ gesture, destination, parameter }: Mapping): boolean =>
        gesture === sender.gesture &&
        destination === moved.destination &&
        (parameter === moved.parameter || !isOld)
      const ends = ({ mapping, hearsNow }: Hearing): boolean =>
        (mapping.id === setsOff || isOwn(mapping)) &&
        // Whoever stays and is heard keeps a mapping from being lost.
        !hearsNow(staying)
      endings.set(staying.key, [...(endings.get(staying.key) ?? []), heard.filter(ends).map(endingOf)])
    }
  }
  const ending = [...endings].filter(([, errors]) => errors.every((own) => own.length > 0))
  return ending.length > 0 ? new Map(ending) : null
}
