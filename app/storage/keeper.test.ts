import 'fake-indexeddb/auto'
import * as fc from 'fast-check'
import { afterEach, expect, it } from 'vitest'
import { seeded } from '../../core/allocate/solver/seeded'
import { perform, redone, undone } from '../../core/rig'
import { emptyRig } from '../../core/rig/parse'
import { openDatabase, type ShelfDatabase } from './database'
import { createKeeper, type Keeper, type KeepState, type Loss } from './keeper'
import { addRig, loadRig, takeBack, takeOwnership, throwAway, type Whole } from './shelf'

/** Does the next write to any store fail, as it does on a full disk? */
let fails: () => boolean = () => false
for (const method of ['put', 'add', 'delete'] as const) {
  const real = IDBObjectStore.prototype[method] as (...all: unknown[]) => IDBRequest
  IDBObjectStore.prototype[method] = function (this: IDBObjectStore, ...all: unknown[]): never {
    if (fails()) throw new DOMException('The disk is full.', 'QuotaExceededError')
    return real.apply(this, all) as never
  }
}

const opened: ShelfDatabase[] = []
afterEach(async () => {
  fails = () => false
  for (const database of opened.splice(0)) await database.delete()
})

/** What a tab shows, and how it says that this is kept. */
interface Tab {
  owner: string
  whole: Whole
  keeper: Keeper
  state: KeepState
  lost: Loss | null
}

function tabOf(database: ShelfDatabase, owner: string, whole: Whole): Tab {
  const tab: Tab = { owner, whole, state: 'kept', lost: null, keeper: null as unknown as Keeper }
  tab.keeper = createKeeper({
    database: () => database,
    owner,
    whenFree: () => Promise.resolve(),
    now: () => 1,
    firstRetryMs: 15,
    onState: (state) => (tab.state = state),
    onLost: (loss) => {
      tab.lost = loss
      tab.keeper.stop()
    },
  })
  return tab
}

/** A tab in which a new rig is open. */
async function openedTab(): Promise<{ database: ShelfDatabase; id: string; tab: Tab }> {
  const database = openDatabase(`keeper-${Math.random()}`)
  opened.push(database)
  const rig = emptyRig('First')
  const id = await addRig(database, rig, 1)
  await takeOwnership(database, id, 'me', 1)
  const tab = tabOf(database, 'me', { rig, past: [], future: [] })
  tab.keeper.start(id, 0)
  return { database, id, tab }
}

function edited(tab: Tab, name: string): void {
  const { rig, step } = perform(tab.whole.rig, `Name it ${name}`, [{ type: 'rig-set', set: { name } }])
  tab.whole = { rig, past: [...tab.whole.past, step], future: [] }
  tab.keeper.add({ kind: 'step', step }, tab.whole)
}

function wentBack({ whole: { rig, past, future } }: Tab): Whole | null {
  const step = past.at(-1)
  return step ? { rig: undone(rig, step), past: past.slice(0, -1), future: [step, ...future] } : null
}

function wentOn({ whole: { rig, past, future } }: Tab): Whole | null {
  const [step, ...rest] = future
  return step ? { rig: redone(rig, step), past: [...past, step], future: rest } : null
}

function moved(tab: Tab, whole: Whole | null, by: 1 | -1): void {
  if (!whole) return
  tab.whole = whole
  tab.keeper.add({ kind: 'move', by }, whole)
}

const acts = fc.array(
  fc.oneof(
    {
      weight: 8,
      arbitrary: fc.constantFrom('edit', 'many edits', 'undo', 'many undos', 'redo', 'pause' as const),
    },
    {
      weight: 2,
      arbitrary: fc.constantFrom('disk fills', 'disk has room', 'hiccup', 'clear', 'other tab' as const),
    },
    { weight: 1, arbitrary: fc.constantFrom('throw away', 'take back' as const) },
  ),
  { minLength: 1, maxLength: 60 },
)

it('what is said to be kept is kept, every rig opens, and with room again all is kept: whatever fails', async () => {
  await fc.assert(
    fc.asyncProperty(acts, fc.integer(), async (list, seed) => {
      const random = seeded(seed)
      fails = () => false
      const database = openDatabase(`keeper-${Math.random()}`)
      opened.push(database)
      const first: Whole = { rig: emptyRig('First'), past: [], future: [] }
      const id = await addRig(database, first.rig, 1)
      const shown = new Set<string>(['First'])
      let tabs = 0
      const join = async ({ rig, past, future }: Whole, position: number): Promise<Tab> => {
        const tab = tabOf(database, `tab ${tabs++}`, { rig, past, future })
        await takeOwnership(database, id, tab.owner, 1)
        tab.keeper.start(id, position)
        return tab
      }
      let tab = await join(first, 0)
      const looksRight = async (): Promise<void> => {
        const before = fails
        const isKept = tab.keeper.isKept() && tab.lost === null
        if (isKept) expect(tab.state).toBe('kept')
        const open = await loadRig(database, id)
        fails = before
        if (open) expect(shown).toContain(open.rig.name)
        if (!isKept || !open || open.entry.owner !== tab.owner) return
        const { rig, past, future } = open
        expect({ rig, past, future }).toEqual(tab.whole)
      }
      for (const [index, act] of list.entries()) {
        switch (act) {
          case 'edit':
            if (tab.lost === null) edited(tab, `Name ${index}`)
            shown.add(tab.whole.rig.name)
            break
          case 'undo':
            if (tab.lost === null) moved(tab, wentBack(tab), -1)
            break
          case 'many edits':
            for (let more = 0; more < 30 && tab.lost === null; more++) {
              edited(tab, `Name ${index}.${more}`)
              shown.add(tab.whole.rig.name)
            }
            break
          case 'many undos':
            for (let more = 0; more < 20 && tab.lost === null; more++) moved(tab, wentBack(tab), -1)
            break
          case 'redo':
            if (tab.lost === null) moved(tab, wentOn(tab), 1)
            break
          case 'pause':
            await tab.keeper.settled()
            await looksRight()
            break
          case 'disk fills':
            fails = () => true
            break
          case 'disk has room':
            fails = () => false
            break
          case 'hiccup':
            fails = () => random() < 0.3
            break
          case 'clear': {
            fails = () => false
            await Promise.all(database.tables.map((table) => table.clear()))
            // The browser tells the page, which has it all.
            if (tab.lost === null) tab.keeper.rewrite(tab.whole)
            break
          }
          case 'other tab': {
            fails = () => false
            await tab.keeper.settled()
            const open = await loadRig(database, id)
            if (!open) break
            const before = tab
            tab = await join(open, open.entry.position)
            if (before.lost === null) edited(before, `Late ${index}`)
            await before.keeper.settled()
            if (before.lost === null) expect(before.keeper.isKept()).toBe(false)
            before.keeper.stop()
            break
          }
          case 'throw away':
            fails = () => false
            await tab.keeper.settled()
            await throwAway(database, id, 1)
            break
          case 'take back':
            fails = () => false
            await takeBack(database, id)
            if (tab.lost !== null) {
              const open = await loadRig(database, id)
              if (open) tab = await join(open, open.entry.position)
            }
            break
        }
      }
      fails = () => false
      for (let turn = 0; turn < 200 && !tab.keeper.isKept() && tab.lost === null; turn++)
        await new Promise((resolve) => setTimeout(resolve, 2))
      if (tab.lost === null) expect(tab.keeper.isKept()).toBe(true)
      await looksRight()
      tab.keeper.stop()
    }),
    { numRuns: Number(process.env.FAULT_RUNS ?? 60) },
  )
}, 600_000)

it('writes a burst of edits as one', async () => {
  const { database, id, tab } = await openedTab()
  let written = 0
  database.rigs.hook('updating', () => {
    written++
  })
  for (let edit = 0; edit < 200; edit++) edited(tab, `Name ${edit}`)
  await tab.keeper.settled()
  expect(tab.keeper.isKept()).toBe(true)
  expect(written).toBeLessThan(5)
  expect((await loadRig(database, id))?.rig.name).toBe('Name 199')
})

it('keeps what is made anew from before the last snapshot', async () => {
  const { database, id, tab } = await openedTab()
  for (let edit = 0; edit < 50; edit++) edited(tab, `Name ${edit}`)
  await tab.keeper.settled()
  for (let back = 0; back < 20; back++) moved(tab, wentBack(tab), -1)
  edited(tab, 'Another way')
  await tab.keeper.settled()
  const open = await loadRig(database, id)
  expect(open?.rig).toEqual(tab.whole.rig)
  expect(open?.past).toEqual(tab.whole.past)
})

it('does not write over another tab what it could not keep before that took over', async () => {
  const { database, id, tab } = await openedTab()
  fails = () => true
  edited(tab, 'Not kept')
  await tab.keeper.settled()
  expect(tab.state).toBe('failing')
  fails = () => false
  await takeOwnership(database, id, 'other', 1)
  edited(tab, 'Not kept either')
  await tab.keeper.settled()
  expect(tab.lost).toBe('taken-over')
  expect((await loadRig(database, id))?.rig).toEqual(emptyRig('First'))
})

it('puts a rig back whole, with its steps, when all was cleared under it', async () => {
  const { database, id, tab } = await openedTab()
  edited(tab, 'Second')
  await tab.keeper.settled()
  await Promise.all(database.tables.map((table) => table.clear()))
  // Nobody tells it: the next edit notices.
  edited(tab, 'Third')
  while (!tab.keeper.isKept()) await new Promise((resolve) => setTimeout(resolve, 2))
  const open = await loadRig(database, id)
  expect(open && { rig: open.rig, past: open.past, future: open.future }).toEqual(tab.whole)
})
