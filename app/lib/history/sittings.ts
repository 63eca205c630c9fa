import { undone, type Rig, type Step } from '#core/rig'
import { database } from '~/storage/open'
import { keepVersion } from '~/storage/versions'
import { beginsSitting } from './rows'

/**
 * After one more edit, keep the rig as the last sitting left it, where this edit is the first after a pause. It is written aside: that
 * it could not be is no reason to hold an edit up.
 */
export async function keepSitting(
  id: string,
  rig: Rig,
  past: readonly Step[],
  before: readonly Step[],
): Promise<void> {
  const [last, previous] = [past.at(-1), past.at(-2)]
  const isNew = previous !== undefined && previous === before.at(-1)
  if (!last || !isNew || !beginsSitting(last, previous)) return
  const at = previous.at ?? (last.at ?? Date.now()) - 1
  try {
    await keepVersion(database(), id, undone(rig, last), { name: null, at, label: previous.label })
  } catch (error) {
    console.error('The version of the last sitting could not be kept.', error)
  }
}
