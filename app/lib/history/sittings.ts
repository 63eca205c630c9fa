import type { Id, Step } from '#core/rig'
import { rigAfter } from '#core/history/steps'
import { database } from '~/storage/open'
import { keepVersion, listVersions } from '~/storage/versions'
import { beginsSitting } from './rows'

/**
 * How many edits lead to the rig as the last sitting left it: those before the first one that this page made after a pause. Null where
 * this page goes on with a sitting, or has made no edit.
 *
 * @param openedAt When the page was opened, in ms since 1970.
 */
export function lastSittingEnd(
  past: ReadonlyArray<Pick<Step, 'label' | 'at'>>,
  openedAt: number,
): number | null {
  for (let index = past.length - 1; index > 0; index--) {
    const step = past[index]
    if (step?.at === undefined || step.at < openedAt) return null
    if (beginsSitting(step, past[index - 1])) return index
  }
  return null
}

/** Keep a version of the rig as each sitting left it, once the next one begins. It is written aside, and once. */
export function keepSittings(rigs: ReturnType<typeof useRigStore>): void {
  const kept = new Set<string>()
  watch(
    () => rigs.past,
    async (past) => {
      const { id, rig } = rigs
      const count = lastSittingEnd(past, performance.timeOrigin)
      const last = count === null ? undefined : past[count - 1]
      if (id === null || !rig || count === null || !last) return
      const at = last.at ?? (past[count]?.at ?? Date.now()) - 1
      const key = `${id} ${at}`
      if (kept.has(key)) return
      kept.add(key)
      try {
        if (await isThere(id, at)) return
        const label = last.label
        await keepVersion(database(), id, rigAfter(rig, past, count), { name: null, at, label })
      } catch (error) {
        kept.delete(key)
        console.error('The version of the last sitting could not be kept.', error)
      }
    },
    { immediate: true },
  )
}

/** Was the rig kept already as it was then? */
const isThere = async (id: Id, at: number): Promise<boolean> =>
  (await listVersions(database(), id)).some((version) => version.at === at)
