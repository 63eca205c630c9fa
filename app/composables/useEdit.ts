import type { RigEdit } from '#core/rig'
import type { EditManner } from '~/stores/pending-edit'

/** A way to make edits from a component; see `edit` of the store of pending edits. */
export function useEdit(manner: EditManner = {}): (label: string, edits: readonly RigEdit[]) => boolean {
  const pending = usePendingEditStore()
  return (label, edits) => pending.edit(label, edits, manner)
}
