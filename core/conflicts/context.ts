import { livenessOf, occupancyOf } from '../addresses'
import { purposesOf, type Purpose } from '../mappings'
import type { Sender, Occupancy } from '../addresses'
import { mappingsOf, type GestureRef, type Id, type Rig } from '../rig'
import { joinsOf, type Join } from './joins'
import { findMeetings, type Meetings } from './meetings'

/** What all rules share: the rig, who sends where, and who meets whom. Worked out once a check. */
export interface CheckContext {
  rig: Rig
  occupancy: Occupancy
  meetings: Meetings
  purposes: (sender: Sender) => readonly Purpose[]
  /** Every mapping with what it rests on; worked out when first asked for. */
  joins: () => readonly Join[]
}

/** Do these two gestures share on purpose? */
export type Excused = (a: GestureRef, b: GestureRef) => boolean

/** The accords of a rig as a question about two gestures. */
export function excusedBy(rig: Rig): Excused {
  const accordsOf = new Map<GestureRef, Set<Id>>()
  for (const accord of rig.accords) {
    for (const gesture of accord.gestures) {
      const set = accordsOf.get(gesture) ?? new Set()
      accordsOf.set(gesture, set.add(accord.id))
    }
  }
  return (a, b) => {
    const other = accordsOf.get(b)
    return other !== undefined && [...(accordsOf.get(a) ?? [])].some((id) => other.has(id))
  }
}

const NO_PURPOSES: readonly Purpose[] = []

export function contextOf(rig: Rig): CheckContext {
  const occupancy = occupancyOf(rig)
  const known = new Map<Sender, readonly Purpose[]>()
  const purposes = (sender: Sender): readonly Purpose[] => {
    if (mappingsOf(rig, sender.gesture).length === 0) return NO_PURPOSES
    const found = known.get(sender) ?? purposesOf(rig, sender)
    known.set(sender, found)
    return found
  }
  let joined: readonly Join[] | null = null
  const joins = (): readonly Join[] => (joined ??= joinsOf(rig, occupancy.senders))
  return {
    rig,
    occupancy,
    purposes,
    joins,
    meetings: findMeetings(occupancy, livenessOf(rig), excusedBy(rig)),
  }
}
