import type { CheckContext } from './context'
import type { Draft } from './finding'

/**
 * How far a finding of a rule looks, and so what an edit of assignments or mappings can change of it:
 * `cells`: who is in the same cells. `channel`: the programs and parameters of a channel. `number`: who sends
 * the same controller number. `mapping`: a mapping, its control and who is where it listens. `controller`: one
 * controller. `cable`: controllers that share a cable. `accord`: the gestures of all accords. `room`: what is
 * free, and who wants it. `lights`: all lights, and who listens. `wiring`: no assignment at all.
 */
export const REACHES = [
  'cells',
  'channel',
  'number',
  'mapping',
  'controller',
  'cable',
  'accord',
  'room',
  'lights',
  'wiring',
] as const
export type RuleReach = (typeof REACHES)[number]

/** One rule: an id, what it looks for in a few words, and how it looks. One file a rule, one line in `rules/index.ts`. */
export interface Rule {
  id: string
  /** For headings and the guide: what is wrong when this rule speaks. */
  title: string
  /** What has to be looked at again after an edit of assignments or mappings (`islands/`). */
  reach: RuleReach
  /** Looks at what the context holds; what lies outside the rule's reach may be missing from it. */
  find: (context: CheckContext) => readonly Draft[]
}
