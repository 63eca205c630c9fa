import { undone } from '#core/rig'
import { database } from '~/storage/open'
import { keepVersion } from '~/storage/versions'
import { beginsSitting } from './rows'

/**
 * Keep the rig as each sitting left it: the first edit after a pause keeps a version of what was before. It is written aside; that it
 * could not be is no reason to hold an edit up.
 */
export function keepSittings(rigs: ReturnType<typeof useRigStore>): void {
  watch(
    () => rigs.past,
    (past, before) => {
      const { id, rig } = rigs
      const [last, previous] = [past.at(-1), past.at(-2)]
      const isNew = past.length === before.length + 1 && past[0] === before[0] && last !== before.at(-1)
      if (!isNew || id === null || !rig || !last || !previous || !beginsSitting(last, previous)) return
      const at = previous.at ?? (last.at ?? Date.now()) - 1
      keepVersion(database(), id, undone(rig, last), { name: null, at, label: previous.label }).catch(
        (error: unknown) => console.error('The version of the last sitting could not be kept.', error),
      )
    },
  )
}
