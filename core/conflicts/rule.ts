import type { CheckContext } from './context'
import type { Draft, FixKind } from './finding'

/**
 * How far a finding of a rule looks, and so what an edit of assignments or mappings can change of it:
 * `cells`: who is in the same cells. `channel`: the programs and parameters of a channel. `mapping`: a mapping, its
 * control and who is where it listens. `controller`: one controller. `cable`: controllers that share a cable.
 * `accord`: the gestures of all accords. `room`: what is free, and who wants it. `lights`: all lights, and who listens.
 * `wiring`: no assignment at all.
 */
export const REACHES = [
  'cells',
  'channel',
  'mapping',
  'controller',
  'cable',
  'accord',
  'room',
  'lights',
  'wiring',
] as const
export type RuleReach = (typeof REACHES)[number]

/** What a finding is about, for a player who reads many: what has no nearer cause in common is told together by it. */
export const TOPICS = {
  meeting: 'Controls that meet',
  taken: 'Numbers with a meaning of their own',
  lessons: 'What destinations have learned',
  layers: 'Changes of layer',
  values: 'What a control makes of a value',
  cables: 'Cables and ports',
} as const
export type Topic = keyof typeof TOPICS

/**
 * One rule: what it looks for, and all that belongs to it. One file a rule, one line in `rules/index.ts`.
 */
export interface Rule {
  id: string
  /** For headings and the guide: what is wrong when this rule speaks. */
  title: string
  topic: Topic
  /** What has to be looked at again after an edit of assignments or mappings (`affected/`). */
  reach: RuleReach
  /** Looks at what the context holds; what lies outside the rule's reach may be missing from it. */
  find: (context: CheckContext) => readonly Draft[]
  /** Can other numbers cure it? Then a plan takes it for trouble, and its drafts say who would have to move. */
  byNumbers?: boolean
  /**
   * Would it be an error for the same message everywhere? A plan that brings it then leaves the message as it is. Nothing: at
   * other addresses it may be none.
   */
  extent?: 'everywhere'
  /** A cure that needs no other number and nothing to be taught again, which a plan makes first. */
  first?: FixKind
  /** The cures that change what was meant to be changed and nothing that others rely on: they can be made for all at once. */
  safe?: readonly FixKind[]
  /** Does an accord excuse it? Then its drafts name the gestures that meet, as senders or `between`. */
  excused?: boolean
  /** Says several drafts of one cause as one; `drafts` are two at least. */
  together?: (context: CheckContext, drafts: readonly Draft[]) => Draft
}
