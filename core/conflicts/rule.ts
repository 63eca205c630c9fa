import type { CheckContext } from './context'
import type { Draft } from './finding'

/** One rule: an id, what it looks for in a few words, and how it looks. One file a rule, one line in `rules/index.ts`. */
export interface Rule {
  id: string
  /** For headings and the guide: what is wrong when this rule speaks. */
  title: string
  find: (context: CheckContext) => readonly Draft[]
}
