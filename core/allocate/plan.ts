import type { Address, Channel } from '../midi'
import type { Finding, FindingPlace } from '../conflicts'
import type { Id, RigEdit } from '../rig'
import type { FirstCure } from './cures'
import type { Score, Term } from './solver/problem'

/** One address that a plan changes. */
export interface PlannedChange {
  /** The key by which a request strikes it out. */
  key: string
  at: FindingPlace
  /** `from` is null where a number was wanted. */
  from: Address | null
  to: Address
  channel: Channel
  /** Why, in a sentence. */
  reason: string
  edit: RigEdit
}

/** Gestures for which there is no address, and what would help. */
export interface Shortage {
  message: string
  help: string
  at: readonly FindingPlace[]
}

/** A mapping that a plan makes unheard: its destination has to be taught again. */
export interface Untaught {
  mapping: Id
  name: string
}

/** What a plan makes move nothing, although nothing that it moved is lost: another layer of its control moves that too. */
export interface Silenced {
  at: FindingPlace
  /** What would have to be taught, in a sentence: whichever of it this one is for. */
  message: string
}

/** What `allocate` proposes. Nothing is changed until its edits are made, as one step. */
export interface Plan {
  /** What goes first: cures that need no other number. */
  cures: readonly FirstCure[]
  changes: readonly PlannedChange[]
  /** All of it, cures and changes, to be made as one step. */
  edits: readonly RigEdit[]
  /** What is found now and would not be after it. */
  resolves: readonly Finding[]
  /** The errors of addresses that would be left. */
  leaves: readonly Finding[]
  stale: readonly Untaught[]
  silenced: readonly Silenced[]
  shortages: readonly Shortage[]
  /** How many assignments were free to change. */
  free: number
  score: Score
  /** The terms that are proven to be as low as they can be, given those before them. */
  proven: readonly Term[]
  /** The least that the first term that is not proven can be; null if all are. */
  bound: { term: Term; value: number } | null
  /** Of all plans that score the same, is it the one with the lowest addresses? */
  isLeast: boolean
}
