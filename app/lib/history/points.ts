import { rigAfter } from '#core/history'
import type { Rig } from '#core/rig'
import type { RigSource } from '~/workers/history'

/** What the rig as it is now is compared with. */
export type Point =
  /** As it was after so many of the edits that are kept, just before the next. */
  | { kind: 'step'; count: number }
  | { kind: 'version'; id: string }
  /** Another rig on the shelf. */
  | { kind: 'shelf'; id: string; name: string }
  | { kind: 'file'; name: string; rig: Rig }

type Rigs = ReturnType<typeof useRigStore>

/** Where the open rig is to be had: on the shelf, once its last edits are kept; else as it is. Throws where none is open. */
export async function openSource(rigs: Rigs): Promise<RigSource> {
  await rigs.settled()
  const { id, rig, keepState } = rigs
  if (!rig) throw new Error('No rig is open.')
  return id !== null && keepState === 'kept'
    ? { kind: 'shelf', id, name: rig.name }
    : { kind: 'given', rig: toRaw(rig) }
}

/** Where the rig of a point is to be had. */
export async function sourceOf(rigs: Rigs, at: Point): Promise<RigSource> {
  switch (at.kind) {
    case 'step': {
      const open = await openSource(rigs)
      if (open.kind === 'shelf') return { kind: 'step', id: open.id, count: at.count }
      return { kind: 'given', rig: rigAfter(toRaw(rigs.rig) as Rig, rigs.past, at.count) }
    }
    case 'version':
    case 'shelf':
      return at
    case 'file':
      return { kind: 'given', rig: at.rig }
  }
}
