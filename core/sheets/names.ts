import { findGesture, gestureName, type GestureRef, type Rig } from '../rig'

/** A gesture in a player's words; empty where its control is gone. */
export function gestureOf(rig: Rig, ref: GestureRef): string {
  const found = findGesture(rig, ref)
  return found ? gestureName(found.control, found.gesture) : ''
}
