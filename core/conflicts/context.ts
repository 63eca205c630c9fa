import {
  changedOccupancy,
  livenessOf,
  occupancyOf,
  senderChange,
  type Liveness,
  type Occupancy,
  type Sender,
} from '../addresses'
import {
  inForceTogether,
  passagesInForce,
  purposesOf,
  resolveMappings,
  type Purpose,
  type ResolvedMapping,
} from '../mappings'
import { mappingsOf, type Controller, type GestureRef, type Id, type Mapping, type Rig } from '../rig'
import { findCollisions, type Collisions } from './collisions'

/** What all rules share: the rig, who sends where, and who collides. Each worked out when first asked for. */
export interface CheckContext {
  rig: Rig
  /** The controllers that are looked at: all of them, or after an edit those that it touches. */
  controllers: readonly Controller[]
  occupancy: Occupancy
  liveness: Liveness
  /** Can two senders act at the same time? */
  live: (a: Sender, b: Sender) => boolean
  /** Can these senders act at the same time, while all of these mappings of one destination are in force? */
  acting: (senders: readonly Sender[], mappings: readonly Mapping[]) => boolean
  /** Do these two gestures share on purpose? */
  excused: Excused
  collisions: () => Collisions
  purposes: (sender: Sender) => readonly Purpose[]
  /** Every mapping that is looked at, with what it rests on. */
  resolved: () => readonly ResolvedMapping[]
}

/** Do these two gestures share on purpose? */
export type Excused = (a: GestureRef, b: GestureRef) => boolean

/** The accords of a rig as a question about two gestures. */
export function excusedBy(rig: Pick<Rig, 'accords'>): Excused {
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
  excused?: Excused
}

const everyTwo = <T>(items: readonly T[], test: (a: T, b: T) => boolean): boolean =>
  items.every((a, index) => items.slice(index + 1).every((b) => test(a, b)))

/** What rules look at of a rig that came from another by edits: of what is alike nothing is worked out again. */
export function contextAfter({ occupancy }: CheckContext, rig: Rig): CheckContext {
  const change = senderChange(occupancy.rig, rig)
  return contextOf(rig, change === null ? {} : { occupancy: changedOccupancy(occupancy, rig, change) })
}

/** What rules look at, of a whole rig or of a part of it. */
export function contextOf(rig: Rig, scope: Scope = {}): CheckContext {
  const { occupancy = occupancyOf(rig), controllers = rig.controllers, mappings = rig.mappings } = scope
  const known = new Map<Sender, readonly Purpose[]>()
  const purposes = (sender: Sender): readonly Purpose[] => {
    if (mappingsOf(rig, sender.gesture).length === 0) return NO_PURPOSES
    const found = known.get(sender) ?? purposesOf(rig, sender)
    known.set(sender, found)
    return found
  }
  const liveness = livenessOf(rig)
  const excused = scope.excused ?? excusedBy(rig)
  let resolved: readonly ResolvedMapping[] | undefined
  let collided: Collisions | undefined
  return {
    rig,
    controllers,
    occupancy,
    liveness,
    purposes,
    excused,
    live: liveness.together,
    acting: (senders, joined) => {
      if (!everyTwo(senders, liveness.together)) return false
      if (rig.passages.length === 0) return inForceTogether(rig, ...joined)
      const sets = [
        ...senders.map((sender) => liveness.passages(sender)),
        passagesInForce(rig, ...joined),
      ].flatMap((set) => set ?? [])
      const [first, ...others] = sets
      return first !== undefined && [...first].some((index) => others.every((set) => set.has(index)))
    },
    resolved: () => (resolved ??= resolveMappings(rig, mappings)),
    collisions: () => (collided ??= findCollisions(occupancy, liveness.together, excused)),
  }
}
