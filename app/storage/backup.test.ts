import 'fake-indexeddb/auto'
import * as fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { emptyRig, perform } from '../../core/rig'
import type { Problem } from '../../core/rig/problems'
import { anyDamage, damaged } from '../../core/testing/damage'
import { makeBackup, readBackup, restoreRig, shelfMark, standings, type Backup } from './backup'
import { openDatabase, type ShelfDatabase } from './database'
import { addRig, listBin, listRigs, loadRig, takeBack, takeOwnership, throwAway, writeChanges } from './shelf'
import { keepVersion, listVersions, nameVersion, readVersion, removeVersion } from './versions'

const performed = nineRingsRig('as-performed')
const found = nineRingsRig('as-found')
const SETTINGS = { 'deft-lattice/theme': '"night"' }
let database: ShelfDatabase
let other: ShelfDatabase
let id: string
beforeEach(async () => {
  database = openDatabase(`backup-${crypto.randomUUID()}`)
  other = openDatabase(`backup-${crypto.randomUUID()}`)
  id = await addRig(database, performed, 7)
  await addRig(database, emptyRig('Small'), 8)
  await keepVersion(database, id, found, { name: 'As found', at: 5, label: 'Move Drift' })
})
afterEach(async () => {
  await database.delete()
  await other.delete()
})
const made = () => makeBackup(database, SETTINGS, 99)
async function read(file: Blob): Promise<Backup> {
  const result = await readBackup(file)
  if (!result.ok) throw new Error(result.problems[0]?.message)
  return result.backup
}
const bytesOf = async (file: Blob): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await file.arrayBuffer())
const packedText = (text: string): Promise<Blob> =>
  new Response(new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'))).blob()
const packed = (value: unknown): Promise<Blob> => packedText(JSON.stringify(value))
async function unpacked(
  file: Blob,
): Promise<Record<string, unknown> & { rigs: Array<Record<string, unknown>> }> {
  return new Response(file.stream().pipeThrough(new DecompressionStream('gzip'))).json() as never
}

/** Why a file was refused can be shown: places, and sentences that are not too long. */
function expectSaid(problems: readonly Problem[]): void {
  expect(problems.length).toBeGreaterThan(0)
  for (const { path, message } of problems) {
    expect(path).not.toBe('')
    expect(message).not.toMatch(/^$|Invalid input|undefined|\[object/)
    expect(message.length).toBeLessThan(2000)
  }
}

describe('a backup', () => {
  it('holds every rig on the shelf with its versions, and nothing of the bin', async () => {
    const binned = await addRig(database, emptyRig('Gone'), 9)
    await throwAway(database, binned, 10)
    const backup = await read(await made())
    expect(backup).toMatchObject({ madeAt: 99, settings: SETTINGS })
    expect(backup.rigs.map(({ rig }) => rig.name).toSorted()).toEqual([performed.name, 'Small'].toSorted())
    expect(backup.rigs.find((each) => each.id === id)?.rig).toEqual(performed)
  })

  it('brings all of it back on another computer: rigs, versions, names and times', async () => {
    const backup = await read(await made())
    expect(await standings(other, backup)).toEqual(['new', 'new'])
    for (const each of backup.rigs) await restoreRig(other, each, 100)
    expect((await loadRig(other, id))?.rig).toEqual(performed)
    expect((await other.rigs.get(id))?.createdAt).toBe(7)
    const [version] = await listVersions(other, id)
    expect(version).toMatchObject({ name: 'As found', at: 5, label: 'Move Drift' })
    expect(await readVersion(other, version?.id ?? '')).toEqual(found)
    expect(await standings(other, backup)).toEqual(['same', 'same'])
  })

  it('says what would differ, and restores beside what is there', async () => {
    const backup = await read(await made())
    await takeOwnership(database, id, 'me', 11)
    const { rig, step } = perform(performed, 'Note', [{ type: 'rig-set', set: { notes: 'Changed since' } }])
    await writeChanges(database, id, 'me', 0, [{ kind: 'step', step }], rig)
    const at = backup.rigs.findIndex((each) => each.id === id)
    const [own] = backup.rigs.slice(at)
    expect((await standings(database, backup))[at]).toBe('differs')
    if (!own) throw new Error('not there')
    const copy = await restoreRig(database, own, 12)
    expect(copy).not.toBe(id)
    expect((await loadRig(database, id))?.rig.notes).toBe('Changed since')
    expect((await loadRig(database, copy))?.rig).toEqual({ ...performed, name: `${performed.name} copy` })
    expect(await listVersions(database, copy)).toHaveLength(1)
    expect(await listVersions(database, id)).toHaveLength(1)
    expect(await listRigs(database)).toHaveLength(3)
  })

  it('is refused where any byte of what it holds was altered, or it was cut', async () => {
    const bytes = await bytesOf(await made())
    // The ten bytes of its head say nothing of what it holds.
    for (let at = 10; at < bytes.length; at += Math.ceil(bytes.length / 60)) {
      const broken = bytes.slice()
      broken[at] = (broken[at] ?? 0) ^ 0x10
      expect((await readBackup(new Blob([broken]))).ok, `byte ${at}`).toBe(false)
    }
    for (const length of [0, 1, 9, 200, bytes.length - 1])
      expect((await readBackup(new Blob([bytes.slice(0, length)]))).ok).toBe(false)
  })

  it('is refused where it is something else, newer, or its ids clash, with the place', async () => {
    const content = await unpacked(await made())
    const [first, second] = content.rigs
    const withVersion = (packed: string) => ({
      ...content,
      rigs: [{ ...first, versions: [{ id: 'v', name: null, at: 1, label: '', packed }] }],
    })
    const refusals: Array<[unknown, RegExp]> = [
      [performed, /^format$/],
      [{ ...content, version: 2 }, /^version$/],
      [{ ...content, more: 1 }, /more|\(rig\)/],
      [{ ...content, rigs: [first, { ...second, id: first?.id }] }, /^rigs\[1\]\.id$/],
      [
        { ...content, rigs: [{ ...first, rig: { ...(first?.rig as object), name: 7 } }] },
        /^rigs\[0\]\.rig\.name$/,
      ],
      [withVersion('AAAA'), /^rigs\[0\]\.versions\[0\]$/],
      [withVersion('AAAAA'), /^rigs\[0\]\.versions\[0\]\.packed$/],
    ]
    for (const [value, path] of refusals) {
      const result = await readBackup(await packed(value))
      if (result.ok) throw new Error(`${path.source} was read`)
      expect(result.problems[0]?.path).toMatch(path)
      expectSaid(result.problems)
    }
    expect((await readBackup(new Blob([JSON.stringify(content)]))).ok).toBe(false)
  })

  it(
    'is read or refused in a sentence with its place, however its text was damaged',
    { timeout: 3_600_000 },
    async () => {
      const text = JSON.stringify(await unpacked(await made()))
      /** Whatever is read is valid: it can be restored, and read from there. */
      const restores = async (backup: Backup): Promise<void> => {
        const shelf = openDatabase(`fuzz-${crypto.randomUUID()}`)
        for (const each of backup.rigs)
          expect((await loadRig(shelf, await restoreRig(shelf, each, 1)))?.rig).toEqual(each.rig)
        await shelf.delete()
      }
      await fc.assert(
        fc.asyncProperty(anyDamage, async (damage) => {
          const result = await readBackup(await packedText(damaged(text, damage)))
          if (result.ok) return restores(result.backup)
          expectSaid(result.problems)
        }),
        { numRuns: Number(process.env.FUZZ_RUNS ?? 800) / 100 },
      )
    },
  )

  it('stops before it fills the memory', async () => {
    const zeros = new Blob(Array.from({ length: 270 }, () => new Uint8Array(1024 * 1024)))
    const bomb = await new Response(zeros.stream().pipeThrough(new CompressionStream('gzip'))).blob()
    const result = await readBackup(bomb)
    expect(result.ok ? '' : result.problems[0]?.message).toContain('more than any backup')
  })
})

describe('the mark of the shelf', () => {
  it('is another after every change, and the same after what changes nothing', async () => {
    const marks = [await shelfMark(database)]
    const changes = async (act: () => Promise<unknown>): Promise<void> => {
      await act()
      const mark = await shelfMark(database)
      expect(marks).not.toContain(mark)
      marks.push(mark)
    }
    expect(await takeOwnership(database, id, 'me', 11).then(() => shelfMark(database))).toBe(marks[0])
    const { rig, step } = perform(performed, 'Note', [{ type: 'rig-set', set: { notes: 'Changed since' } }])
    await changes(() => writeChanges(database, id, 'me', 0, [{ kind: 'step', step }], rig))
    await changes(() => addRig(database, emptyRig('Third'), 12))
    await changes(() => throwAway(database, id, 13))
    const [version] = await listVersions(database, id)
    await changes(() => nameVersion(database, version?.id ?? '', 'Another name'))
    await changes(() => keepVersion(database, id, found, { name: null, at: 6, label: '' }))
    await changes(() => removeVersion(database, version?.id ?? ''))
    await loadRig(database, id)
    expect(await shelfMark(database)).toBe(marks.at(-1))
  })
})

describe('versions, bin and backups in every order', () => {
  const ACTS = ['keep', 'remove', 'delete', 'take back', 'back up', 'restore'] as const
  type Act = (typeof ACTS)[number]
  function* orders(length: number): Generator<readonly Act[]> {
    if (length === 0) yield []
    else for (const rest of orders(length - 1)) for (const act of ACTS) yield [...rest, act]
  }

  async function done(acts: readonly Act[]): Promise<void> {
    const shelf = openDatabase(`orders-${crypto.randomUUID()}`)
    const first = await addRig(shelf, emptyRig('First'), 1)
    let file: Blob | null = null
    let [at, kept] = [0, 0]
    for (const act of acts) {
      at++
      const [newest] = await listVersions(shelf, first)
      if (act === 'keep') {
        await keepVersion(shelf, first, emptyRig(`At ${at}`), { name: `At ${at}`, at, label: '' })
        kept++
      } else if (act === 'remove' && newest) {
        await removeVersion(shelf, newest.id)
        kept--
      } else if (act === 'delete') await throwAway(shelf, first, at)
      else if (act === 'take back') await takeBack(shelf, first)
      else if (act === 'back up') file = await makeBackup(shelf, {}, at)
      else if (act === 'restore' && file)
        for (const each of (await read(file)).rigs) await restoreRig(shelf, each, at)
    }
    // The rig itself lost none of its versions, and gained none; whatever is there can be read.
    expect(await listVersions(shelf, first)).toHaveLength(kept)
    const all = [...(await listRigs(shelf)), ...(await listBin(shelf))]
    expect(all.map(({ id: each }) => each)).toContain(first)
    for (const entry of all) {
      await takeBack(shelf, entry.id)
      expect((await loadRig(shelf, entry.id))?.rig.name).toMatch(/^First/)
      for (const version of await listVersions(shelf, entry.id))
        expect((await readVersion(shelf, version.id))?.name).toBe(version.name)
    }
    expect(new Set((await listRigs(shelf)).map(({ name }) => name)).size).toBe(all.length)
    await shelf.delete()
  }

  it('lose no version, and nothing that is there', { timeout: 120_000 }, async () => {
    for (const acts of orders(process.env.FAULT_RUNS === undefined ? 2 : 5)) await done(acts)
    await done(['keep', 'back up', 'delete', 'restore', 'keep', 'restore', 'take back', 'remove', 'restore'])
  })
})
