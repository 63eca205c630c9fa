import { defineStore } from 'pinia'
import { unheardAfter } from '#core/mappings'
import type { Mapping, RigEdit } from '#core/rig'
import { toast } from '~/lib/toast'
import { usePreferencesStore } from './preferences'
import { useRigStore, type Prepared } from './rig'

/** A change that is held back until the player has seen what it makes unheard. */
export interface PendingEdit {
  label: string
  prepared: Prepared
  unheard: readonly Mapping[]
}

/** How edits are made: at once, or after a look at what they make unheard. */
export interface EditManner {
  /** Has the player seen already what has to be taught again? */
  isSeen?: boolean
  /** Is told why an edit cannot be made, instead of a notice. */
  refused?: (why: string) => void
}

/** Edits of mappings themselves say what they do; nobody has to be told. */
const speaksForItself = (edits: readonly RigEdit[]): boolean =>
  edits.every(({ type }) => type.startsWith('mapping-'))

/** Edits, and the one that waits for the player. */
export const usePendingEditStore = defineStore('pending-edit', () => {
  const rigs = useRigStore()
  const preferences = usePreferencesStore()
  const current = shallowRef<PendingEdit | null>(null)

  const drop = (): void => {
    current.value = null
  }

  /**
   * Make edits, and tell the player if they are refused. True if they were made. What would make a mapping unheard
   * waits until the player has seen what must be taught again.
   */
  function edit(label: string, edits: readonly RigEdit[], manner: EditManner = {}): boolean {
    const { isSeen = false, refused = (why: string): void => toast.error(why) } = manner
    drop()
    const prepared = rigs.prepare(label, edits)
    if (typeof prepared === 'string') {
      refused(prepared)
      return false
    }
    const isAsked = preferences.askBefore && !isSeen && !speaksForItself(edits)
    const unheard = isAsked ? unheardAfter(prepared.before, prepared.rig) : []
    if (unheard.length > 0) {
      current.value = { label, prepared, unheard }
      return false
    }
    rigs.commit(prepared)
    return true
  }

  /** Make it after all. */
  function make(): void {
    const now = current.value
    drop()
    if (now) rigs.commit(now.prepared)
  }
  // It was worked out for the rig as it was.
  watch(() => rigs.revision, drop, { flush: 'sync' })

  return { current, edit, drop, make }
})
