import 'fake-indexeddb/auto'
import { readFileSync } from 'node:fs'
import { afterEach, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, type Rig, type Step } from '../../core/rig'
import { openDatabase, type ShelfDatabase } from './database'
import {
  addRig,
  BIN_DAYS,
  countDay,
  duplicateRig,
  emptyBin,
  listBin,
  listRigs,
  loadRig,
  NotOwnerError,
  NotThereError,
  OutdatedRigError,
  PositionError,
  removeForGood,
  takeBack,
  takeOwnership,
  throwAway,
  writeChanges,
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
  it('refuses a tab that another has taken over from, and writes nothing', async () => {
    const database = freshDatabase()
    const id = await addRig(database, small, 1)
    await takeOwnership(database, id, 'first', 2)
    await takeOwnership(database, id, 'second', 3)
    const { rig, step } = renamed(small, 'Late')
    await expect(
      writeChanges(database, id, 'first', 0, [{ kind: 'step', step }], rig),
    ).rejects.toBeInstanceOf(NotOwnerError)
    expect((await loadRig(database, id))?.rig.name).toBe(small.name)
    await writeChanges(database, id, 'second', 0, [{ kind: 'step', step }], rig)
    expect((await loadRig(database, id))?.rig.name).toBe('Late')
  })

  it('refuses what was not made from where it stands, and what is in the bin, and writes nothing', async () => {
    const database = freshDatabase()
    const id = await addRig(database, small, 1)
    await takeOwnership(database, id, 'me', 2)
    const { rig, step } = renamed(small, 'Second')
    const second = () => writeChanges(database, id, 'me', 1, [{ kind: 'step', step }], rig)
    await expect(second()).rejects.toBeInstanceOf(PositionError)
    expect((await loadRig(database, id))?.past).toEqual([])
    await throwAway(database, id, 3)
    await expect(second()).rejects.toBeInstanceOf(NotThereError)
    await expect(writeWhole(database, id, 'me', { rig, past: [], future: [] }, 4)).rejects.toBeInstanceOf(
      NotThereError,
    )
    await takeBack(database, id)
    expect((await loadRig(database, id))?.rig).toEqual(small)
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
    await takeBack(database, id)
    expect((await loadRig(database, id))?.rig).toEqual(small)
  })

  it('keeps what was thrown away for thirty days in use, wherever the clock jumps', async () => {
    const database = freshDatabase()
    const id = await addRig(database, small, 1)
    let days = await countDay(database, 'day 0')
    await throwAway(database, id, 10)
    // A clock that jumps far on, and back again.
    days = await countDay(database, 'in ninety years')
    days = await countDay(database, 'day 0')
    expect(days).toBe(3)
    for (let day = days; day < BIN_DAYS; day++) {
      days = await countDay(database, `day ${day}`)
      await countDay(database, `day ${day}`)
      await emptyBin(database, days)
    }
    expect((await listBin(database)).map((entry) => entry.id)).toEqual([id])
    await emptyBin(database, await countDay(database, 'the last day'))
    expect(await listBin(database)).toEqual([])
    await takeBack(database, id)
    expect(await loadRig(database, id)).toBeNull()
  })

  it('removes for good only what is in the bin', async () => {
    const database = freshDatabase()
    const [kept, gone] = [await addRig(database, small, 1), await addRig(database, small, 2)]
    await throwAway(database, gone, 3)
    await removeForGood(database, [kept, gone])
    expect((await listRigs(database)).map(({ id }) => id)).toEqual([kept])
    expect(await listBin(database)).toEqual([])
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
    await expect(writeWhole(database, id, 'another', open, 3)).rejects.toBeInstanceOf(NotOwnerError)
    expect((await loadRig(database, id))?.isRenewed).toBe(true)
    await writeWhole(database, id, 'me', open, 3)
    const { rig, step } = renamed(open.rig, 'Renamed after')
    await writeChanges(database, id, 'me', 0, [{ kind: 'step', step }], rig)
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
