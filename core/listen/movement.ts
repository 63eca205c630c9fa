import { splitGestureRef, splitGestureKey, type GestureKind, type GestureRef } from '../rig'
import { actedSince, meaningOf, type Acted } from './act'
import { primaryOf } from './guesses'
import { listen, LISTEN_START, type ListenState } from './listen'
import { QUIET_MS } from './walk'

/** What a player moves among controls that are known: which gesture was meant, when the hand is done. Plain data. */
export interface Movement {
  heard: ListenState
  /** The gesture that each sender belongs to. */
  gestures: Readonly<Record<string, GestureRef>>
  act: { from: number; last: number; senders: readonly string[] } | null
}

export const MOVEMENT_START: Movement = { heard: LISTEN_START, gestures: {}, act: null }

/** What a hand has done: the gesture that was meant, and others that came with it. */
export interface Meant {
  gesture: GestureRef
  others: readonly GestureRef[]
}

/** Something that goes on without an end is looked at after so long, in ms. */
const ENDLESS_MS = 3000
/** Of what is moved, fewer messages than this are a click that was meant for nothing. */
const FEW = 3

const kindOf = (ref: GestureRef): GestureKind => splitGestureKey(splitGestureRef(ref).gesture).gesture
const PRESSED: ReadonlySet<GestureKind> = new Set(['press', 'push', 'strike'])

/** A gesture of a control has sent a message, at ms. */
export function movedBy(
  movement: Movement,
  { at, bytes, gesture }: { at: number; bytes: readonly number[]; gesture: GestureRef },
): Movement {
  const heard = listen({ ...movement.heard, last: null }, { kind: 'message', at, bytes })
  if (heard.last === null) return { ...movement, heard }
  const act = movement.act ?? { from: at, last: at, senders: [] }
  const senders = act.senders.includes(heard.last) ? act.senders : [...act.senders, heard.last]
  return {
    heard,
    gestures: { ...movement.gestures, [heard.last]: gesture },
    act: { ...act, last: at, senders },
  }
}

/**
 * Time goes on, in ms: gives what was meant, once the hand is done. Of a touch alone, or of few values of what is moved, nothing is
 * meant yet.
 */
export function doneBy(movement: Movement, at: number): { movement: Movement; meant: Meant | null } {
  const { act, heard, gestures } = movement
  if (!act || (at - act.last <= QUIET_MS && at - act.from <= ENDLESS_MS)) return { movement, meant: null }
  const refOf = ({ sender }: Acted): GestureRef | undefined =>
    gestures[sender] ?? gestures[primaryOf(heard, sender)]
  const all = actedSince(heard, act.senders, act.from, 'axes')
  const isMeant = (acted: Acted): boolean => {
    const ref = refOf(acted)
    if (ref === undefined || kindOf(ref) === 'touch') return false
    return PRESSED.has(kindOf(ref)) || acted.points.length >= FEW
  }
  const { meant } = meaningOf(all.filter(isMeant))
  const gesture = meant ? refOf(meant) : undefined
  const others = new Set(all.flatMap((each) => refOf(each) ?? []))
  return {
    movement: { ...movement, act: null },
    meant: gesture === undefined ? null : { gesture, others: [...others].filter((each) => each !== gesture) },
  }
}
