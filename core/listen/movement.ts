import { splitGestureRef, splitGestureKey, type GestureKind, type GestureRef } from '../rig'
import { actedSince, actWith, isPressed, meantOf, type Act, type Acted } from './act'
import { primaryOf } from './guesses'
import { listen, LISTEN_START, type ListenState } from './listen'
import { QUIET_MS } from './walk'

/** What a player moves among controls that are known: which gesture was meant, when the hand is done. Never changed in place. */
export interface Movement {
  heard: ListenState
  /** The gesture that each sender belongs to. */
  gestures: Readonly<Record<string, GestureRef>>
  act: Act | null
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

/** A gesture of a control has sent a message, at ms. */
export function movedBy(
  movement: Movement,
  { at, bytes, gesture }: { at: number; bytes: readonly number[]; gesture: GestureRef },
): Movement {
  const heard = listen({ ...movement.heard, last: null }, { kind: 'message', at, bytes })
  if (heard.last === null) return { ...movement, heard }
  return {
    heard,
    gestures: { ...movement.gestures, [heard.last]: gesture },
    act: actWith(movement.act, heard.last, at),
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
  const all = actedSince(heard, act, 'axes')
  const isMeant = (acted: Acted): boolean => {
    const ref = refOf(acted)
    if (ref === undefined || kindOf(ref) === 'touch') return false
    return isPressed(kindOf(ref)) || acted.points.length >= FEW
  }
  const meant = meantOf(all.filter(isMeant))
  const gesture = meant ? refOf(meant) : undefined
  const others = new Set(all.flatMap((each) => refOf(each) ?? []))
  return {
    movement: { ...movement, act: null },
    meant: gesture === undefined ? null : { gesture, others: [...others].filter((each) => each !== gesture) },
  }
}
