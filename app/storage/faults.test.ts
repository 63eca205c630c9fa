import 'fake-indexeddb/auto'
import * as fc from 'fast-check'
import { afterEach, expect, it } from 'vitest'
import { emptyRig } from '../../core/rig/parse'
import type { ShelfDatabase } from './database'
import { addRig, listBin, listRigs, loadRig, takeBack, throwAway } from './shelf'
import { deleteDatabases, failWhen, freshDatabase, workAgain } from './testing/disk'
import { edited, moved, openedIn, untilKept, type Tab } from './testing/tab'
import { keepVersion, listVersions, readVersion } from './versions'

/** The long form (`npm run faults`) goes through more. */
const isLong = process.env.FAULT_RUNS !== undefined

afterEach(deleteDatabases)

/** What stands on the shelf must open, show only what was shown before, and be what the tab shows if it says `kept`. */
async function looksRight(database: ShelfDatabase, id: string, tab: Tab, shown: Set<string>): Promise<void> {
  const before = workAgain()
  const open = await loadRig(database, id)
  failWhen(before)
  if (open) expect(shown).toContain(open.rig.name)
  if (!open || tab.lost !== null || !tab.keeper.isKept() || open.entry.owner !== tab.owner) return
  expect(tab.state).toBe('kept')
  const { rig, past, future } = open
  expect({ rig, past, future }).toEqual(tab.whole)
}

/** Every version that was said to be kept is there once and is the rig as it was; and no other is. */
async function hasVersions(
  database: ShelfDatabase,
  id: string,
  kept: ReadonlyMap<string, string>,
): Promise<void> {
  const before = workAgain()
  const versions = await listVersions(database, id)
  expect(versions.map(({ name }) => name).toSorted()).toEqual([...kept.keys()].toSorted())
  for (const version of versions)
    expect((await readVersion(database, version.id))?.name).toBe(kept.get(version.name ?? ''))
  failWhen(before)
}

/** A sitting with everything in it; `check` is called at each pause. */
async function sitting(failsAt: (write: number) => boolean): Promise<number> {
  const database = freshDatabase()
  const shown = new Set(['First'])
  const id = await addRig(database, emptyRig('First'), 1)
  let writes = 0
  failWhen(() => failsAt(writes++))
  const join = async (owner: string): Promise<Tab> => {
    const tab = await openedIn(database, id, owner)
    if (!tab) throw new Error('The rig is not there.')
    return tab
  }
  const write = (tab: Tab, name: string): void => {
    edited(tab, name)
    shown.add(name)
  }
  let tab = await join('first tab')
  const versions = new Map<string, string>()
  const pause = async (): Promise<void> => {
    await tab.keeper.settled()
    await looksRight(database, id, tab, shown)
    const { rig } = tab.whole
    const name = `Version ${versions.size}`
    await keepVersion(database, id, rig, { name, at: versions.size, label: '' }).then(
      () => versions.set(name, rig.name),
      (error: unknown) => expect(String(error)).toContain('The disk is full'),
    )
    await hasVersions(database, id, versions)
  }
  write(tab, 'Second')
  await pause()
  for (let edit = 0; edit < 42; edit++) write(tab, `Burst ${edit}`)
  await pause()
  for (let back = 0; back < 5; back++) moved(tab, -1)
  await pause()
  moved(tab, 1)
  write(tab, 'Another way')
  await pause()
  await untilKept(tab)
  tab.keeper.stop()
  tab = await join('second tab')
  write(tab, 'In the second')
  await pause()
  await untilKept(tab)
  // Deleting lets go of the rig first, as the application does.
  tab.keeper.stop()
  for (const act of [() => throwAway(database, id, 1), () => takeBack(database, id)])
    await act().catch((error: unknown) => expect(String(error)).toContain('The disk is full'))
  workAgain()
  await takeBack(database, id)
  failWhen(() => failsAt(writes++))
  tab = await join('third tab')
  write(tab, 'Last')
  await pause()
  workAgain()
  await untilKept(tab)
  expect(tab.lost).toBe(null)
  expect(tab.keeper.isKept()).toBe(true)
  await looksRight(database, id, tab, shown)
  await hasVersions(database, id, versions)
  expect((await loadRig(database, id))?.rig.name).toBe('Last')
  tab.keeper.stop()
  return writes
}

it('one write that fails, whichever it is, loses nothing; nor do all from one on', async () => {
  const writes = await sitting(() => false)
  expect(writes).toBeGreaterThan(40)
  const step = isLong ? 1 : 9
  for (let at = 0; at < writes; at += step) await sitting((write) => write === at)
  // A disk that fills and has room again after a while.
  for (let at = 0; at < writes; at += step) await sitting((write) => write >= at && write < at + 6)
}, 600_000)

const ORDERS = ['edits', 'takes over', 'deletes', 'restores', 'clears', 'undoes', 'names'] as const
type Act = { tab: 0 | 1; what: (typeof ORDERS)[number] }
const ACTS: readonly Act[] = ([0, 1] as const).flatMap((tab) => ORDERS.map((what) => ({ tab, what })))

/** Every list of so many acts. */
function* orders(length: number): Generator<readonly Act[]> {
  if (length === 0) yield []
  else for (const rest of orders(length - 1)) for (const act of ACTS) yield [...rest, act]
}

/** Two tabs do one thing after another, without waiting for one another more than the application does. */
async function twoTabs(acts: readonly Act[]): Promise<void> {
  const database = freshDatabase()
  const shown = new Set(['First'])
  const id = await addRig(database, emptyRig('First'), 1)
  const tabs: [Tab | null, Tab | null] = [await openedIn(database, id, 'tab 0'), null]
  let openings = 0
  const versions = new Map<string, string>()
  /** Whose tab holds the right to edit. */
  let holder: 0 | 1 | null = 0
  const letGo = async (): Promise<void> => {
    if (holder === null) return
    const tab = tabs[holder]
    await tab?.keeper.settled()
    tab?.keeper.stop()
    holder = null
  }
  for (const [index, { tab: own, what }] of acts.entries()) {
    const tab = tabs[own]
    const canEdit = holder === own && tab?.lost === null
    switch (what) {
      case 'edits':
        if (!tab || !canEdit) break
        edited(tab, `Edit ${index}`)
        shown.add(`Edit ${index}`)
        break
      case 'names': {
        // Also a tab that only reads may keep what it shows.
        if (!tab) break
        const { rig } = tab.whole
        await keepVersion(database, id, rig, { name: `At ${index}`, at: index, label: '' })
        versions.set(`At ${index}`, rig.name)
        break
      }
      case 'undoes':
        if (tab && canEdit) moved(tab, -1)
        break
      case 'takes over':
        if (holder === own) break
        await letGo()
        tabs[own] = await openedIn(database, id, `tab ${own}, ${openings++}`)
        if (tabs[own]) holder = own
        break
      case 'deletes':
        await letGo()
        await throwAway(database, id, 1)
        break
      case 'restores':
        await takeBack(database, id)
        break
      case 'clears': {
        await Promise.all(database.tables.map((table) => table.clear()))
        versions.clear()
        const holding = holder === null ? null : tabs[holder]
        if (holding?.lost === null) holding.keeper.rewrite(holding.whole)
        break
      }
    }
  }
  const holding = holder === null ? null : tabs[holder]
  if (holding) {
    await untilKept(holding)
    expect(holding.lost).toBe(null)
    expect(holding.keeper.isKept()).toBe(true)
    await looksRight(database, id, holding, shown)
    expect((await loadRig(database, id))?.rig).toEqual(holding.whole.rig)
  }
  await hasVersions(database, id, versions)
  // Unless it was cleared with no tab that holds it, it is on the shelf or in the bin, once.
  const everywhere = [...(await listRigs(database)), ...(await listBin(database))]
  if (!acts.some(({ what }) => what === 'clears')) expect(everywhere.map((entry) => entry.id)).toEqual([id])
  if (everywhere.length > 0) {
    await takeBack(database, id)
    expect(shown).toContain((await loadRig(database, id))?.rig.name)
  }
  for (const tab of tabs) tab?.keeper.stop()
  await database.delete()
}

it('two tabs that edit, undo, name versions, take over, delete, restore and clear, in any order: every rig opens, as it was shown', async () => {
  const some = fc.sample(fc.array(fc.constantFrom(...ACTS), { minLength: 3, maxLength: 6 }), 250)
  for (const acts of isLong ? orders(4) : some) await twoTabs(acts)
}, 1_800_000)
