import 'fake-indexeddb/auto'
import * as fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { emptyRig, perform, writeRig } from '../../core/rig'
import { openDatabase, type ShelfDatabase } from './database'
import { failWhen, workAgain } from './testing/disk'
import { addRig, emptyBin, loadRig, removeForGood, takeOwnership, throwAway, writeChanges } from './shelf'
import {
  keepVersion,
  KEPT_UNNAMED,
  listVersions,
  nameVersion,
  packRig,
  readVersion,
  removeVersion,
  superfluous,
  unpackRig,
} from './versions'

const rig = nineRingsRig('as-performed')
const DAY = 86_400_000
let database: ShelfDatabase
let shelf: string
beforeEach(async () => {
  database = openDatabase(`versions-${crypto.randomUUID()}`)
  shelf = await addRig(database, rig, 0)
})
afterEach(async () => database.delete())
const keep = (at: number, name: string | null = null, what = rig) =>
  keepVersion(database, shelf, what, { name, at, label: 'Set channel' })

describe('versions', () => {
  it('give back the rig that was kept, and take a small part of its file', async () => {
    const id = await keep(5, 'Before the show')
    expect(await readVersion(database, id)).toEqual(rig)
    const [entry] = await listVersions(database, shelf)
    expect(entry).toMatchObject({ id, name: 'Before the show', at: 5, label: 'Set channel' })
    expect(entry?.byteLength ?? Infinity).toBeLessThan(writeRig(rig).length / 8)
    expect(await readVersion(database, 'gone')).toBeNull()
  })

  it('are those of one rig, the latest first, and go with it', async () => {
    const other = await addRig(database, emptyRig('Other'), 0)
    await keepVersion(database, other, emptyRig('Other'), { name: null, at: 9, label: '' })
    await keep(1)
    await keep(3)
    await keep(2)
    expect((await listVersions(database, shelf)).map(({ at }) => at)).toEqual([3, 2, 1])
    await throwAway(database, shelf, 1)
    await emptyBin(database, 0)
    expect(await listVersions(database, shelf)).toHaveLength(3)
    await removeForGood(database, [shelf])
    expect(await listVersions(database, shelf)).toEqual([])
    expect(await listVersions(database, other)).toHaveLength(1)
  })

  it('never let go of what has a name, whatever comes after', () => {
    const any = fc.array(
      fc.record({
        id: fc.uuid(),
        name: fc.option(fc.constant('A name')),
        at: fc.integer({ min: 0, max: 900 * DAY }),
      }),
      // Many: with few the rule lets nothing go.
      { maxLength: 200, size: 'max' },
    )
    const most = KEPT_UNNAMED.sittings + KEPT_UNNAMED.days + KEPT_UNNAMED.months
    fc.assert(
      fc.property(any, (versions) => {
        const gone = new Set(superfluous(versions))
        const left = versions.filter(({ id }) => !gone.has(id))
        expect(versions.filter(({ name, id }) => name !== null && gone.has(id))).toEqual([])
        const unnamed = left.filter(({ name }) => name === null)
        expect(unnamed.length).toBeLessThanOrEqual(most)
        // The last eight are always there, and thinning out again lets go of no more.
        const latest = versions.filter(({ name }) => name === null).sort((a, b) => b.at - a.at)
        for (const { id } of latest.slice(0, KEPT_UNNAMED.sittings)) expect(gone.has(id)).toBe(false)
        expect(superfluous(left)).toEqual([])
      }),
    )
  })

  it('stay few through years of sittings, and reach back for months', async () => {
    const small = emptyRig('Small')
    for (let day = 0; day < 400; day++) await keep(day * DAY, null, small)
    const kept = await listVersions(database, shelf)
    expect(kept.length).toBe(24)
    expect((kept.at(-1)?.at ?? Infinity) / DAY).toBeLessThan(400 - 200)
  })

  it('can be named later, and removed', async () => {
    const id = await keep(1)
    await nameVersion(database, id, 'Tour')
    expect((await listVersions(database, shelf))[0]?.name).toBe('Tour')
    await removeVersion(database, id)
    expect(await listVersions(database, shelf)).toEqual([])
  })

  it('are kept whole or not at all while the disk is full, and nothing older is let go', async () => {
    for (let day = 0; day < 30; day++) await keep(day * DAY, null, emptyRig('Small'))
    const before = await listVersions(database, shelf)
    failWhen(() => true)
    try {
      await expect(keep(31 * DAY, 'Not kept')).rejects.toThrow()
    } finally {
      workAgain()
    }
    expect(await listVersions(database, shelf)).toEqual(before)
    await keep(31 * DAY, 'Kept')
    expect((await listVersions(database, shelf))[0]?.name).toBe('Kept')
  })

  it('are refused when they are damaged, with the reason', async () => {
    const bytes = await packRig(rig)
    for (const broken of [
      bytes.slice(0, 100),
      new Uint8Array(),
      bytes.map((byte, at) => (at === 500 ? byte ^ 9 : byte)),
    ])
      await expect(unpackRig(broken)).rejects.toThrow(/damaged|cannot be read/)
    const { version, ...newer } = JSON.parse(writeRig(rig)) as { version: number }
    const text = JSON.stringify({ ...newer, version: version + 1 })
    const stream = new Response(text).body?.pipeThrough(new CompressionStream('gzip'))
    await expect(unpackRig(new Uint8Array(await new Response(stream).arrayBuffer()))).rejects.toThrow('newer')
  })
})

describe('the log', () => {
  it('says when each step was made, and reads its patches only when they are needed', async () => {
    await takeOwnership(database, shelf, 'me', 0)
    const made = perform(rig, 'Rename', [{ type: 'rig-set', set: { name: 'Other' } }])
    await writeChanges(database, shelf, 'me', 0, [{ kind: 'step', step: { ...made.step, at: 77 } }], made.rig)
    const open = await loadRig(database, shelf)
    expect(open?.past[0]).toMatchObject({ label: 'Rename', at: 77 })
    expect(open?.past[0]?.inverse).toEqual(made.step.inverse)
    expect(open?.rig.name).toBe('Other')
  })
})
