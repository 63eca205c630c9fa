import type { Sender } from '../addresses'
import type { Id, Place, RigEdit } from '../rig'

export const SEVERITIES = ['error', 'warning', 'advice'] as const
export type Severity = (typeof SEVERITIES)[number]

/** A place, with the number of the message in its assignment. */
export interface FindingPlace extends Place {
  message: number
}

/** A thing of the rig, other than a control, that a finding speaks of. */
export interface FindingThing {
  kind: 'controller' | 'destination' | 'computer' | 'cable'
  id: Id
}

/** A change offered to cure a finding, ready to be made as one step. */
export interface Fix {
  id: string
  kind:
    | 'move'
    | 'share'
    | 'narrow'
    | 'rephrase'
    | 'clear'
    | 'teach'
    | 'follow'
    | 'soften'
    | 'withdraw'
    | 'unplug'
    | 'stop'
    | 'close'
    | 'lighten'
    | 'local-off'
    | 'expect'
    | 'behave'
    | 'feed-back'
    | 'widen'
  label: string
  edits: readonly RigEdit[]
}

/** Something a rule found. One a rule and address. */
export interface Finding {
  id: string
  rule: string
  severity: Severity
  /** One sentence in the player's terms. */
  message: string
  at: readonly FindingPlace[]
  /** Address tags concerned, spans written as one. */
  addresses: readonly string[]
  destinations: readonly Id[]
  things: readonly FindingThing[]
}

/** What a rule reports, before places are drawn from its senders. */
export interface Draft {
  severity: Severity
  message: string
  senders: readonly Sender[]
  addresses: readonly string[]
  destinations: readonly Id[]
  /** What tells it from others of its rule where its addresses do not. */
  about?: string
  /** Where to go for it, if not to its senders. */
  places?: readonly FindingPlace[]
  /** Cables, ports and instruments that it speaks of. */
  things?: readonly FindingThing[]
  cures: Cures
}

/** Which cures make sense for what a rule reports. */
export interface Cures {
  /** Alternatives: moving all senders of one of these lists cures the finding. */
  moves: ReadonlyArray<readonly Sender[]>
  /** Can the sharing be declared as meant? */
  share: boolean
  /** Destinations that would all have to hear fewer channels. */
  narrow?: readonly Id[]
  /** Mappings that could be taken out of their destination. */
  clear?: readonly Id[]
  /** Mappings that could be taught what their control sends. */
  teach?: readonly Id[]
  /** Mappings whose control could send what their parameter takes. */
  follow?: readonly Id[]
  /** Mappings that could be taken over when met instead of at once. */
  soften?: readonly Id[]
  /** Accords that could be withdrawn. */
  withdraw?: readonly Id[]
  /** Cures that the rule knows itself; each is tried before it is offered. */
  ready?: readonly Fix[]
}

/** Of more senders than these at one address, only the first is offered to be kept. */
const MOST_KEPT = 12

/** Alternatives for senders that meet at one address: keep one of them where it is, move the others. */
export const allButOne = (senders: readonly Sender[]): Sender[][] =>
  senders.length > MOST_KEPT
    ? [senders.slice(1)]
    : senders.map((kept) => senders.filter((sender) => sender !== kept))

export const findingPlace = (sender: Sender): FindingPlace => ({
  ...sender.place,
  message: sender.messageIndex,
})
