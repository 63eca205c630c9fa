import type { Lead } from '../document'

/** One thing to do when a rig is set up. */
export interface Step {
  /** The same as long as what is to be done is the same: what the player adds stays with it. */
  id: string
  text: string
  /** Where or at which value: a port, a channel, a slot. */
  at: string
  lead?: Lead
}

/** The steps at one place, in the order of doing. */
export interface StepGroup {
  heading: string
  steps: readonly Step[]
}
