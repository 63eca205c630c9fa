import { livenessOf, occupancyOf } from '../addresses'
import { joinsOf, purposesOf, type Join, type Purpose } from '../mappings'
import type { Sender, Occupancy } from '../addresses'
import { mappingsOf, type Controller, type GestureRef, type Id, type Mapping, type Rig } from '../rig'
import { findMeetings, type Meetings } from './meetings'

/** What all rules share: the rig, who sends where, and who meets whom. Each worked out when first asked for. */
export interface CheckContext {
  rig: Rig
  /** The controllers that are looked at: all of them, or after an edit those that it touches. */
  controllers: readonly Controller[]
  occupancy: Occupancy
  /** Can two senders act at the same time? */
  live: (a: Sender, b: Sender) => boolean
  readonly meetings: Meetings
  purposes: (sender: Sender) => readonly Purpose[]
  /** Every mapping that is looked at, with what it rests on. */
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

/** What a check looks at, where that is not the whole rig. */
export interface Scope {
  occupancy?: Occupancy
  controllers?: readonly Controller[]
  mappings?: readonly Mapping[]
}

export function contextOf(rig: Rig, scope: Scope = {}): CheckContext {
  const { occupancy = occupancyOf(rig), controllers = rig.controllers, mappings = rig.mappings } = scope
  const known = new Map<Sender, readonly Purpose[]>()
  const purposes = (sender: Sender): readonly Purpose[] => {
    if (mappingsOf(rig, sender.gesture).length === 0) return NO_PURPOSES
    const found = known.get(sender) ?? purposesOf(rig, sender)
    known.set(sender, found)
    return found
  }
  const standing = livenessOf(rig)
  let joined: readonly Join[] | undefined
  let met: Meetings | undefined
  return {
    rig,
    controllers,
    occupancy,
    purposes,
    live: (a, b) => standing(a.standing, b.standing),
    joins: () => (joined ??= joinsOf(rig, mappings)),
    get meetings() {
      return (met ??= findMeetings(occupancy, standing, excusedBy(rig)))
    },
  }
}
