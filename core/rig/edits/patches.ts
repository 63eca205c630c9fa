import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer'
import type { Rig } from '../types'

export type { Patch } from 'immer'

enablePatches()

/** What a change did: its name for undo, and the patches forward and back (RFC 6902 in spirit, as Immer writes them). */
export interface Step {
  label: string
  /** When it was made, in ms since 1970; not there where nobody said. */
  at?: number
  patches: Patch[]
  inverse: Patch[]
}

/** Change a rig by a recipe on a draft; gives the new rig and the step that leads there. */
export function recorded(rig: Rig, label: string, change: (draft: Rig) => void): { rig: Rig; step: Step } {
  const [next, patches, inverse] = produceWithPatches(rig, (draft) => change(draft as Rig))
  return { rig: next, step: { label, patches, inverse } }
}

/** The rig before a step. */
export const undone = (rig: Rig, step: Step): Rig => applyPatches(rig, step.inverse)

/** The rig after a step that was undone. */
export const redone = (rig: Rig, step: Step): Rig => applyPatches(rig, step.patches)

/** The rig after patches that another copy of it went through. */
export const patched = (rig: Rig, patches: readonly Patch[]): Rig => applyPatches(rig, patches as Patch[])
