import { unheardAfter } from '#core/mappings'
import { toast } from '~/lib/toast'
import type { RigEdit } from '#core/rig'

/** Edits of mappings themselves say what they do; nobody has to be told. */
const speaksForItself = (edits: readonly RigEdit[]): boolean =>
  edits.every(({ type }) => type.startsWith('mapping-'))

/**
 * Make edits, and tell the player if they are refused. True if they were made. What would make a mapping unheard is
 * held first, until the player has seen what must be taught again; unless that `isSeen` already. `refused` is told why an edit
 * cannot be made, instead of a notice.
 */
export function useEdit({ isSeen = false, refused = (why: string): void => toast.error(why) } = {}): (
  label: string,
  edits: readonly RigEdit[],
) => boolean {
  const rigs = useRigStore()
  const held = useHeldStore()
  const preferences = usePreferencesStore()
  return (label, edits) => {
    held.drop()
    const prepared = rigs.prepare(label, edits)
    if (typeof prepared === 'string') {
      refused(prepared)
      return false
    }
    const unheard =
      preferences.askBefore && !isSeen && !speaksForItself(edits)
        ? unheardAfter(prepared.before, prepared.rig)
        : []
    if (unheard.length > 0) {
      held.hold(label, prepared, unheard)
      return false
    }
    rigs.commit(prepared)
    return true
  }
}
