import { perform, redone, undone } from '../../../core/rig'
import type { ShelfDatabase } from '../database'
import { createKeeper, type Keeper, type KeepState, type Loss } from '../keeper'
import { loadRig, takeOwnership, type Whole } from '../shelf'

/** What a tab shows, and how it says that this is kept. */
export interface Tab {
  owner: string
  whole: Whole
  keeper: Keeper
  state: KeepState
  lost: Loss | null
}

/** A tab that keeps nothing yet. */
export function tabOf(database: ShelfDatabase, owner: string, whole: Whole): Tab {
  const tab: Tab = { owner, whole, state: 'kept', lost: null, keeper: null as unknown as Keeper }
  tab.keeper = createKeeper({
    database: () => database,
    owner,
    whenFree: () => Promise.resolve(),
    now: () => 1,
    firstRetryMs: 5,
    onState: (state) => (tab.state = state),
    onLost: (loss) => {
      tab.lost = loss
      tab.keeper.stop()
    },
  })
  return tab
}

/** A tab that opens a rig to edit it, also where the disk is full; null where the rig is not there. */
export async function openedIn(database: ShelfDatabase, id: string, owner: string): Promise<Tab | null> {
  const isClaimed = await takeOwnership(database, id, owner, 1).then(
    () => true,
    () => false,
  )
  const open = await loadRig(database, id)
  if (!open) return null
  const { entry, rig, past, future } = open
  const tab = tabOf(database, owner, { rig, past, future })
  tab.keeper.start(id, entry.position, isClaimed ? undefined : { owner: entry.owner })
  return tab
}

/** Name the rig, as one step. */
export function edited(tab: Tab, name: string): void {
  const { rig, step } = perform(tab.whole.rig, `Name it ${name}`, [{ type: 'rig-set', set: { name } }])
  tab.whole = { rig, past: [...tab.whole.past, step], future: [] }
  tab.keeper.add({ kind: 'step', step }, tab.whole)
}

/** Undo a step (-1) or make it again (1), if there is one. */
export function moved(tab: Tab, by: 1 | -1): void {
  const { rig, past, future } = tab.whole
  const step = by < 0 ? past.at(-1) : future[0]
  if (!step) return
  tab.whole =
    by < 0
      ? { rig: undone(rig, step), past: past.slice(0, -1), future: [step, ...future] }
      : { rig: redone(rig, step), past: [...past, step], future: future.slice(1) }
  tab.keeper.add({ kind: 'move', by }, tab.whole)
}

/** Wait until all is kept, or the tab has lost the right to keep it. */
export async function untilKept(tab: Tab): Promise<void> {
  for (let turn = 0; turn < 400 && !tab.keeper.isKept() && tab.lost === null; turn++)
    await new Promise((resolve) => setTimeout(resolve, 2))
}
