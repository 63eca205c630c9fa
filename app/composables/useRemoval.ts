import { mappingName, unheardAfter } from '#core/mappings'
import type { RigEdit } from '#core/rig'
import { someOf } from '~/lib/some-of'
import { toast } from '~/lib/toast'

const NAMED = 3

/** Take something away, and say which mappings no longer hear what they were taught; it can be undone there. */
export function useRemoval(): (label: string, edits: readonly RigEdit[]) => boolean {
  const rigs = useRigStore()
  const edit = useEdit()
  return (label, edits) => {
    const before = rigs.rig
    if (!edit(label, edits)) return false
    const lost = before && rigs.rig ? unheardAfter(before, rigs.rig) : []
    const names = lost.map((mapping) => (before ? mappingName(before, mapping) : ''))
    const note = lost.length === 0 ? '' : ` Nothing moves ${someOf(names, NAMED)} any longer.`
    toast(`${label}: done.${note}`, {
      action: { label: 'Undo', onClick: () => void rigs.undo() },
      duration: lost.length === 0 ? 5000 : 12_000,
    })
    return true
  }
}
