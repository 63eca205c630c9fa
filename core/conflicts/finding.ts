import type { Sender } from '../addresses'
import type { Address } from '../midi'
import type { GestureRef, Id, Place, RigEdit } from '../rig'

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

/** What a cure does. */
export type FixKind =
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
  | 'home'

/** A change offered to cure a finding, ready to be made as one step. */
export interface Fix {
  id: string
  kind: FixKind
  label: string
  edits: readonly RigEdit[]
  /**
   * Mappings that have to be taught again afterwards. Until that is done, whoever stays at the old address moves them.
   */
  teach?: readonly Id[]
}

/** Something a rule found. One a rule and address; where many have one cause, one for the cause. */
export interface Finding {
  /** The same as long as it is about the same; for comparing only. */
  id: string
  rule: string
  severity: Severity
  /** One sentence in the player's terms. */
  message: string
  at: readonly FindingPlace[]
  /** Addresses concerned, spans as one. */
  addresses: readonly Address[]
  destinations: readonly Id[]
  things: readonly FindingThing[]
}

/** What a rule reports, before places are drawn from its senders. */
export interface Draft {
  severity: Severity
  message: string
  senders: readonly Sender[]
  addresses: readonly Address[]
  destinations: readonly Id[]
  /** What tells it from others of its rule, whatever else changes in the rig. */
  about: string
  /** What it has in common with others of its rule that are there for the same reason. */
  cause?: string
  /** The gestures that it brings together, where those are not its senders'. */
  between?: readonly GestureRef[]
  /** Where to go for it, if not to its senders. */
  places?: readonly FindingPlace[]
  /** Cables, ports and instruments that it speaks of. */
  things?: readonly FindingThing[]
  /** Alternatives, where other numbers cure it: moving all senders of one of these lists does. */
  moves?: readonly Movers[]
  /** Which two of its senders may not both stay, where moving all but one would be more than it takes. */
  meetings?: ReadonlyArray<readonly [Sender, Sender]>
  /** The mapping that its senders set off, by its id, where it is there no more once that is taught elsewhere. */
  setsOff?: Id
  /** What can be done about it, worked out when asked for; each is tried before it is offered. */
  cures?: () => readonly Fix[]
}

/** Senders that all have to move. */
export type Movers = readonly Sender[]

/** Of more senders than these at one address, only the first is offered to be kept. */
const MOST_KEPT = 12

/** Alternatives for senders that meet at one address: keep one of them where it is, move the others. */
export const allButOne = (senders: readonly Sender[]): Movers[] =>
  senders.length > MOST_KEPT
    ? [senders.slice(1)]
    : senders.map((kept) => senders.filter((sender) => sender !== kept))

/**
 * As `allButOne`, where not each of the senders meets each: keep one of them, and all that meet nobody who is kept, in the
 * order of the rig; move the others.
 */
export function allWhoMeet(
  senders: readonly Sender[],
  meetings: ReadonlyArray<readonly [Sender, Sender]>,
): Movers[] {
  const met = new Map<Sender, Set<Sender>>()
  const add = (a: Sender, b: Sender): void => void met.set(a, (met.get(a) ?? new Set()).add(b))
  for (const [a, b] of meetings) {
    add(a, b)
    add(b, a)
  }
  const found = new Map<string, Movers>()
  for (const first of senders.slice(0, senders.length > MOST_KEPT ? 1 : MOST_KEPT)) {
    const kept = [first]
    for (const sender of senders)
      if (sender !== first && !kept.some((other) => met.get(sender)?.has(other))) kept.push(sender)
    const movers = senders.filter((sender) => !kept.includes(sender))
    found.set(movers.map(({ key }) => key).join(' '), movers)
  }
  return [...found.values()]
}

/** Where a sender stands, to go to. */
export const findingPlace = ({ place, messageIndex }: Sender): FindingPlace => ({
  controller: place.controller,
  template: place.template,
  layer: place.layer,
  gesture: place.gesture,
  message: messageIndex,
})
