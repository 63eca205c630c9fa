import type { Control, GestureKind, Id } from '../rig'
import type { Act } from './act'
import { senderIn, type ListenState } from './listen'
import { pointsOf } from './trail'

/** What each sender belongs to, by its name; programs are told from others of their sender by the number. */
export type Belongings = Readonly<
  Record<string, { control: Id; gesture: GestureKind; sender: string; program: number | null }>
>

/** A player goes along the hardware, control after control: what was heard of each. Never changed in place. */
export interface Walk {
  heard: ListenState
  /** What is to be moved, in order. */
  steps: readonly Control[]
  /** The one that is next: an index of `steps`, or their number when all is done. */
  next: number
  belongs: Belongings
  /** May a control get gestures that it does not have yet, such as its touch? */
  adds: boolean
  /** What a hand is at and nothing is known of. */
  act: Act | null
  /** What is pressed again and again: since when, and when last (ms). */
  presses: { name: string; from: number; last: number } | null
  /** What came with what was moved last, and belongs to nothing. */
  others: readonly string[]
  /** The control that was moved last, of those that are known; null before any was. */
  last: Id | null
}

/** The name of what a sender has said last: the sender, of a program with its number. */
export function nameIn(heard: ListenState, key: string): { name: string; program: number | null } {
  const sender = senderIn(heard, key)
  const isProgram = sender?.address?.scope === 'channel' && sender.address.target.kind === 'program'
  const program = isProgram ? (pointsOf(sender.trail).at(-1)?.value ?? null) : null
  return { name: program === null ? key : `${key} ${program}`, program }
}
