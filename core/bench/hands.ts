import type { Expression } from '../midi'
import type { GestureKey } from '../rig'

/** What a hand or foot does with a controller. */
export type Hand =
  /** Turn, slide, tilt or lean to a place of the movement, 0–1; `overMs` long, it is read again and again on the way. */
  | { kind: 'move'; gesture: GestureKey; to: number; overMs?: number; key?: number }
  /** The same from where it stands, by a share of the movement, negative downwards. */
  | { kind: 'nudge'; gesture: GestureKey; by: number; overMs?: number }
  /** Turn by so many clicks, negative downwards, in so many ms. */
  | { kind: 'click'; gesture: GestureKey; by: number; overMs?: number }
  /** Press, push, strike or touch, with a force of 0–1; of a keyboard, a key by its note. */
  | { kind: 'press'; gesture: GestureKey; force?: number; key?: number }
  | { kind: 'let-go'; gesture: GestureKey; key?: number }
  /** Bend, lean into or slide along one held key of a per-note zone, to a place of 0–1: a bend rests at 0.5. */
  | { kind: 'express'; gesture: GestureKey; key: number; what: Expression; to: number }
  /** Shift the keys by octaves with the hardware's own buttons, from where they are written. */
  | { kind: 'octave'; gesture: GestureKey; octaves: number }
  /** Nothing is done; time goes on. */
  | { kind: 'wait' }
