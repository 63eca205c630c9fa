import { toast } from '~/lib/toast'
import type { RigEdit } from '#core/rig'

/** Make edits, and tell the player if they are refused. True if they were made. */
export function useEdit(): (label: string, edits: readonly RigEdit[]) => boolean {
  const rigs = useRigStore()
  return (label, edits) => {
    const refusal = rigs.edit(label, edits)
    if (refusal !== null) toast.error(refusal)
    return refusal === null
  }
}
