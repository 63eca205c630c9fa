import type { Address, RelativeEncoding } from '../midi'
import type { Point, Trail } from './trail'

/** What a player is asked to do, so that what fits can be told apart. */
export type Ask =
  /** Press it and let go, `ASKED_PRESSES` times, about once a second. */
  | 'press'
  /** Turn it by single clicks: `ASKED_CLICKS` one way, then as many back. */
  | 'clicks'
  /** Move it slowly from one end to the other, and back. */
  | 'sweep'
  /** Turn it once round: asked for only to count its clicks. */
  | 'round'

export const ASKED_PRESSES = 6
export const ASKED_CLICKS = 5

/** What was heard of a sender after a player was asked for something. */
export interface Answer {
  ask: Ask
  points: readonly Point[]
}

/** How a sender that says values may work. What sends the same value for every press is a trigger, whatever its range says. */
export type Manner =
  | { kind: 'swept' }
  /** One value while pressed, another when let go. */
  | { kind: 'momentary'; pressed: number; released: number }
  | { kind: 'toggle'; on: number; off: number }
  | { kind: 'trigger'; value: number }
  | { kind: 'list'; values: readonly number[] }
  | { kind: 'relative'; encoding: RelativeEncoding }
  /** Data increment and decrement. */
  | { kind: 'steps' }
  /** It happens, without a value. */
  | { kind: 'signal' }

/** What a theory makes of what was heard. */
export interface Judgement {
  manner: Manner
  /** How much was heard that it never explains. */
  hard: number
  /** How much was heard that it explains only if messages were lost. */
  soft: number
  /** Has enough been heard that it can be seen, if nothing else explains it? */
  isShown: boolean
}

/** What theories rest on. */
export interface Evidence {
  points: readonly Point[]
  /** The highest value that the kind of message has. */
  top: number
  answers: readonly Answer[]
}

/** A way in which a sender may work, judged by what was heard; null where the kind of message cannot work so. */
export type Theory = (evidence: Evidence) => Judgement | null

/** One thing that was heard to send: an address, or what has none. */
export interface Sender {
  key: string
  /** Where it lands; null for SysEx that is no command. */
  address: Address | null
  top: number
  /** Of SysEx, the bytes between F0 and F7. */
  sysex: readonly number[] | null
  trail: Trail
  answers: readonly Answer[]
  /** Does it say how many steps, in place of a value? */
  isSteps: boolean
  /** Of notes: how they end. */
  ends: 'note-off' | 'velocity-zero' | null
  /** Of parameters: how often the number came before the value, and how often not. */
  numbered: { with: number; without: number }
}

/** The two halves of a CC pair as they came, in order. */
export interface Halves {
  channel: number
  /** The number of the MSB. */
  number: number
  /** Value and time of each; the mark says which half it is. */
  trail: Trail
}
