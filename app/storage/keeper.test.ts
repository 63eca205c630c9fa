import 'fake-indexeddb/auto'
import * as fc from 'fast-check'
import { afterEach, expect, it } from 'vitest'
import { seeded } from '../../core/allocate/solver/seeded'
import { emptyRig } from '../../core/rig/parse'
import type { ShelfDatabase } from './database'
import { addRig, loadRig, takeBack, takeOwnership, throwAway, type Whole } from './shelf'
import { deleteDatabases, failWhen, freshDatabase, workAgain } from './testing/disk'
import { edited, moved, tabOf, untilKept, type Tab } from './testing/tab'

afterEach(deleteDatabases)

/** A tab in which a new rig is open. */
async function openedTab(): Promise<{ database: ShelfDatabase; id: string; tab: Tab }> {
  const database = freshDatabase()
  const rig = emptyRig('First')
  const id = await addRig(database, rig, 1)
  await takeOwnership(database, id, 'me', 1)
  const tab = tabOf(database, 'me', { rig, past: [], future: [] })
  tab.keeper.start(id, 0)
  return { database, id, tab }
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
      workAgain()
      const database = freshDatabase()
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
        const before = workAgain()
        const isKept = tab.keeper.isKept() && tab.lost === null
        if (isKept) expect(tab.state).toBe('kept')
        const open = await loadRig(database, id)
        failWhen(before)
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
            if (tab.lost === null) moved(tab, -1)
            break
          case 'many edits':
            for (let more = 0; more < 30 && tab.lost === null; more++) {
              edited(tab, `Name ${index}.${more}`)
              shown.add(tab.whole.rig.name)
            }
            break
          case 'many undos':
            for (let more = 0; more < 20 && tab.lost === null; more++) moved(tab, -1)
            break
          case 'redo':
            if (tab.lost === null) moved(tab, 1)
            break
          case 'pause':
            await tab.keeper.settled()
            await looksRight()
            break
          case 'disk fills':
            failWhen(() => true)
            break
          case 'disk has room':
            workAgain()
            break
          case 'hiccup':
            failWhen(() => random() < 0.3)
            break
          case 'clear': {
            workAgain()
            await Promise.all(database.tables.map((table) => table.clear()))
            // The browser tells the page, which has it all.
            if (tab.lost === null) tab.keeper.rewrite(tab.whole)
            break
          }
          case 'other tab': {
            workAgain()
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
            workAgain()
            await tab.keeper.settled()
            await throwAway(database, id, 1)
            break
          case 'take back':
            workAgain()
            await takeBack(database, id)
            if (tab.lost !== null) {
              const open = await loadRig(database, id)
              if (open) tab = await join(open, open.entry.position)
            }
            break
        }
      }
      workAgain()
      await untilKept(tab)
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
  for (let back = 0; back < 20; back++) moved(tab, -1)
  edited(tab, 'Another way')
  await tab.keeper.settled()
  const open = await loadRig(database, id)
  expect(open?.rig).toEqual(tab.whole.rig)
  expect(open?.past).toEqual(tab.whole.past)
})

it('does not write over another tab what it could not keep before that took over', async () => {
  const { database, id, tab } = await openedTab()
  failWhen(() => true)
  edited(tab, 'Not kept')
  await tab.keeper.settled()
  expect(tab.state).toBe('failing')
  workAgain()
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
