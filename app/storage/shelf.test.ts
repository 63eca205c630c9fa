import 'fake-indexeddb/auto'
import { readFileSync } from 'node:fs'
import * as fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, redone, undone, type Rig, type Step } from '../../core/rig'
import { openDatabase, type ShelfDatabase } from './database'
import {
  addRig,
  appendStep,
  duplicateRig,
  emptyBin,
  listRigs,
  loadRig,
  moveTo,
  NotOwnerError,
  OutdatedRigError,
  takeBack,
  takeOwnership,
  throwAway,
  writeWhole,
} from './shelf'

const opened: ShelfDatabase[] = []
function freshDatabase(): ShelfDatabase {
  const database = openDatabase(`test-${Math.random()}`)
  opened.push(database)
  return database
}
afterEach(async () => {
  for (const database of opened.splice(0)) await database.delete()
})

const small: Rig = {
  ...nineRingsRig('as-found'),
  controllers: [],
  mappings: [],
  destinations: [],
  accords: [],
  choices: [],
  cables: [],
  passages: [],
  houseRules: [],
}
const renamed = (rig: Rig, name: string): { rig: Rig; step: Step } =>
  perform(rig, `Name it ${name}`, [{ type: 'rig-set', set: { name } }])

describe('the shelf', () => {
  it('gives back whatever any run of edits, undos and redos left, after every one of them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.constantFrom('edit', 'undo', 'redo'), { minLength: 1, maxLength: 130 }),
        async (acts) => {
          const database = freshDatabase()
          const id = await addRig(database, small, 1)
          await takeOwnership(database, id, 'me', 2)
          let rig = small
          let past: Step[] = []
          let future: Step[] = []
          for (const [index, act] of acts.entries()) {
            if (act === 'edit') {
              const done = renamed(rig, `Name ${index}`)
              rig = done.rig
              past = [...past, done.step]
              future = []
              await appendStep(database, id, 'me', done.step, rig)
            } else if (act === 'undo' && past.length > 0) {
              const step = past.at(-1) as Step
              rig = undone(rig, step)
              past = past.slice(0, -1)
              future = [step, ...future]
              await moveTo(database, id, 'me', past.length, rig.name)
            } else if (act === 'redo' && future.length > 0) {
              const step = future[0] as Step
              rig = redone(rig, step)
              past = [...past, step]
              future = future.slice(1)
              await moveTo(database, id, 'me', past.length, rig.name)
            }
          }
          const loaded = await loadRig(database, id)
          expect(loaded?.rig).toEqual(rig)
          expect(loaded?.past).toEqual(past)
          expect(loaded?.future).toEqual(future)
          expect((await listRigs(database))[0]?.name).toBe(rig.name)
        },
      ),
      { numRuns: 12 },
    )
  })

  it('refuses a tab that another has taken over from, and writes nothing', async () => {
    const database = freshDatabase()
    const id = await addRig(database, small, 1)
    await takeOwnership(database, id, 'first', 2)
    await takeOwnership(database, id, 'second', 3)
    const { rig, step } = renamed(small, 'Late')
    await expect(appendStep(database, id, 'first', step, rig)).rejects.toBeInstanceOf(NotOwnerError)
    expect((await loadRig(database, id))?.rig.name).toBe(small.name)
    await appendStep(database, id, 'second', step, rig)
    expect((await loadRig(database, id))?.rig.name).toBe('Late')
  })

  it('copies under a free name, throws away, takes back, and empties only what is old', async () => {
    const database = freshDatabase()
    const id = await addRig(database, small, 1)
    await duplicateRig(database, id, 2)
    await duplicateRig(database, id, 3)
    expect((await listRigs(database)).map(({ name }) => name).sort()).toEqual([
      small.name,
      `${small.name} copy`,
      `${small.name} copy 2`,
    ])
    await throwAway(database, id, 10)
    expect(await loadRig(database, id)).toBeNull()
    await emptyBin(database, 5)
    await takeBack(database, id)
    expect((await loadRig(database, id))?.rig).toEqual(small)
    await throwAway(database, id, 10)
    await emptyBin(database, 20)
    await takeBack(database, id)
    expect(await loadRig(database, id)).toBeNull()
  })

  /** A database with a rig as an older version of the application left it: a snapshot and a step. */
  async function withOldRig(spoil: (old: any) => void = () => undefined): Promise<[ShelfDatabase, string]> {
    const database = freshDatabase()
    const id = await addRig(database, small, 1)
    const old = JSON.parse(
      readFileSync(new URL('../../core/testing/old-rigs/version-1.json', import.meta.url), 'utf8'),
    )
    spoil(old)
    await database.snapshots.put({ id, rig: old })
    await takeOwnership(database, id, 'me', 2)
    const { step } = renamed(small, 'Renamed before')
    await database.steps.add({
      rig: id,
      index: 0,
      label: step.label,
      patches: JSON.stringify(step.patches),
      inverse: JSON.stringify(step.inverse),
    })
    await database.rigs.update(id, { position: 1 })
    return [database, id]
  }

  it('brings a rig of an older version up to this one, where its steps had left it', async () => {
    const [database, id] = await withOldRig()
    const open = await loadRig(database, id)
    expect(open?.rig).toEqual({ ...nineRingsRig('as-found'), name: 'Renamed before' })
    expect(open?.isRenewed).toBe(true)
    expect(open?.past).toEqual([])
    if (!open) return
    await expect(writeWhole(database, id, 'another', open.rig)).rejects.toBeInstanceOf(NotOwnerError)
    expect((await loadRig(database, id))?.isRenewed).toBe(true)
    await writeWhole(database, id, 'me', open.rig)
    const { rig, step } = renamed(open.rig, 'Renamed after')
    await appendStep(database, id, 'me', step, rig)
    const again = await loadRig(database, id)
    expect(again?.rig).toEqual(rig)
    expect(again?.past).toEqual([step])
    expect(again?.isRenewed).toBe(false)
  })

  it('says of an older rig that cannot be read where it fails, and leaves it as it is', async () => {
    const [database, id] = await withOldRig((old) => (old.controllers[0].homeChannel = 17))
    const before = await database.snapshots.get(id)
    await expect(loadRig(database, id)).rejects.toThrow(/controllers\[0\]\.homeChannel/)
    await expect(loadRig(database, id)).rejects.toBeInstanceOf(OutdatedRigError)
    expect(await database.snapshots.get(id)).toEqual(before)
  })
})
