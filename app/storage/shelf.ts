import { redone, RIG_VERSION, undone, type Patch, type Rig, type Step } from '#core/rig'
import Dexie from 'dexie'
import type { LoggedStep, RigEntry, ShelfDatabase } from './database'

/** A new snapshot is written after this many steps, so that opening never replays more. */
const STEPS_A_SNAPSHOT = 48
/** Steps kept for undo before the position. */
const STEPS_KEPT = 1000

/** Another tab has taken the rig over: this one may no longer write to it. */
export class NotOwnerError extends Error {
  override name = 'NotOwnerError'
}

/** The rig is not on the shelf: it is in the bin, or everything was cleared. */
export class NotThereError extends Error {
  override name = 'NotThereError'

  constructor(readonly isInBin: boolean) {
    super(isInBin ? 'This rig was deleted.' : 'This rig is no longer in this browser.')
  }
}

/** The shelf stands at another position than the tab that writes to it: something in between was not written. */
export class PositionError extends Error {
  override name = 'PositionError'
}

/** One change to write: a new step, or so many steps on or back among those that are there. */
export type Change = { kind: 'step'; step: Step } | { kind: 'move'; by: 1 | -1 }

/** All of an open rig that is kept: as it stands, with the steps before and after. */
export interface Whole {
  rig: Rig
  past: readonly Step[]
  future: readonly Step[]
}

/** A rig as it stands, with the steps before (to undo) and after (to redo). */
export interface OpenRig {
  entry: RigEntry
  rig: Rig
  past: Step[]
  future: Step[]
  /** Was it stored in an older version of the format? Then it has to be written anew before anything is added to it. */
  isRenewed: boolean
}

/** A stored rig of an older version of the format that cannot be brought up to this one. */
export class OutdatedRigError extends Error {
  override name = 'OutdatedRigError'
}

/** A rig as it was stored, in the format of today. Steps of an older format no longer fit it. */
async function renewed(open: OpenRig): Promise<OpenRig> {
  if ((open.rig.version as number) === RIG_VERSION) return open
  // Reading files is loaded when it is needed, which here is once for each old rig.
  const { parseRig } = await import('#core/rig/parse')
  const result = parseRig(open.rig)
  if (result.ok) return { ...open, rig: result.rig, past: [], future: [], isRenewed: true }
  const [problem] = result.problems
  throw new OutdatedRigError(
    `“${open.entry.name}” was kept by an older version and cannot be read: ${problem?.path ?? ''} ${problem?.message ?? ''}. It stays on the shelf as it is. Open another rig, or import a copy of it that you exported.`,
  )
}

const stepsOf = (database: ShelfDatabase, id: string) =>
  database.steps.where('[rig+index]').between([id, Dexie.minKey], [id, Dexie.maxKey])

/** Rigs on the shelf, the last opened first. */
export const listRigs = async (database: ShelfDatabase): Promise<RigEntry[]> => {
  const rigs = await database.rigs.where('deletedAt').equals(0).toArray()
  return rigs.sort((a, b) => b.openedAt - a.openedAt)
}

/** Put a rig on the shelf, with the time in ms, under a new id or one that is free; gives its id. */
export async function addRig(
  database: ShelfDatabase,
  rig: Rig,
  now: number,
  id: string = crypto.randomUUID(),
): Promise<string> {
  const entry: RigEntry = {
    id,
    name: rig.name,
    position: 0,
    snapshotAt: 0,
    createdAt: now,
    openedAt: now,
    deletedAt: 0,
    owner: null,
  }
  await database.transaction('rw', database.rigs, database.snapshots, async () => {
    await database.rigs.add(entry)
    await database.snapshots.add({ id, rig })
  })
  return id
}

/** A step of the log. Most are never undone: their patches are read when they are asked for. */
function stepOf({ label, at, patches, inverse }: LoggedStep): Step {
  const read = { patches: null as Patch[] | null, inverse: null as Patch[] | null }
  return {
    label,
    ...(at === undefined ? {} : { at }),
    get patches() {
      return (read.patches ??= JSON.parse(patches) as Patch[])
    },
    get inverse() {
      return (read.inverse ??= JSON.parse(inverse) as Patch[])
    },
  }
}

/**
 * Open a rig: the snapshot and the steps from there to where it stands, in the format of today. Null if it is not on
 * the shelf; throws an OutdatedRigError if it is of a format that cannot be read.
 */
export async function loadRig(database: ShelfDatabase, id: string): Promise<OpenRig | null> {
  const open = await storedRig(database, id)
  return open && renewed(open)
}

async function storedRig(database: ShelfDatabase, id: string): Promise<OpenRig | null> {
  return database.transaction('r', database.rigs, database.snapshots, database.steps, async () => {
    const [entry, snapshot, steps] = await Promise.all([
      database.rigs.get(id),
      database.snapshots.get(id),
      stepsOf(database, id).toArray(),
    ])
    if (!entry || !snapshot || entry.deletedAt !== 0) return null
    const log = steps.map((logged) => ({ index: logged.index, step: stepOf(logged) }))
    let rig = snapshot.rig
    for (const { index, step } of log) {
      if (index >= entry.snapshotAt && index < entry.position) rig = redone(rig, step)
    }
    for (const { index, step } of log.toReversed()) {
      if (index < entry.snapshotAt && index >= entry.position) rig = undone(rig, step)
    }
    const stepsWhere = (test: (index: number) => boolean): Step[] =>
      log.filter(({ index }) => test(index)).map(({ step }) => step)
    return {
      entry,
      rig,
      past: stepsWhere((index) => index < entry.position),
      future: stepsWhere((index) => index >= entry.position),
      isRenewed: false,
    }
  })
}

/** Make a tab the one that writes; whoever wrote before is refused from now on. */
export const takeOwnership = async (
  database: ShelfDatabase,
  id: string,
  owner: string,
  now: number,
): Promise<void> => {
  await database.rigs.update(id, { owner, openedAt: now })
}

/**
 * As `takeOwnership`, once the storage works again: only if nobody has written since.
 *
 * @param before Who wrote last, when the rig was loaded.
 * @throws NotOwnerError if another tab has taken it, NotThereError if the rig is in the bin.
 */
export async function claimOwnership(
  database: ShelfDatabase,
  id: string,
  owner: string,
  before: string | null,
): Promise<void> {
  await database.transaction('rw', database.rigs, async () => {
    // What is not there any more is written whole, with its owner.
    if (!(await database.rigs.get(id))) return
    await ownedEntry(database, id, before)
    await database.rigs.update(id, { owner })
  })
}

async function ownedEntry(database: ShelfDatabase, id: string, owner: string | null): Promise<RigEntry> {
  const entry = await database.rigs.get(id)
  if (!entry) throw new NotThereError(false)
  if (entry.deletedAt !== 0) throw new NotThereError(true)
  if (entry.owner !== owner) throw new NotOwnerError('This rig is being edited in another tab.')
  return entry
}

const logged = (id: string, index: number, { label, at, patches, inverse }: Step): LoggedStep => ({
  rig: id,
  index,
  label,
  ...(at === undefined ? {} : { at }),
  patches: JSON.stringify(patches),
  inverse: JSON.stringify(inverse),
})

const everything = (database: ShelfDatabase) => [
  database.rigs,
  database.snapshots,
  database.steps,
  database.versions,
]

/**
 * Write changes one after the other and where the rig now stands, all or nothing. A step that was undone is dropped once
 * another is made.
 *
 * @param from Where the tab believes that the shelf stands.
 * @param rig The rig after all of the changes.
 * @returns Where the shelf stands now.
 * @throws NotOwnerError if another tab has taken over, NotThereError if the rig is gone, PositionError if the shelf
 * stands elsewhere; then nothing is written.
 */
export async function writeChanges(
  database: ShelfDatabase,
  id: string,
  owner: string,
  from: number,
  changes: readonly Change[],
  rig: Rig,
): Promise<number> {
  return database.transaction('rw', everything(database), async () => {
    const entry = await ownedEntry(database, id, owner)
    if (entry.position !== from)
      throw new PositionError(`The shelf stands at step ${entry.position}, not at ${from}.`)
    let at = from
    let isSnapshotGone = false
    for (const change of changes) {
      if (change.kind === 'move') {
        at += change.by
        continue
      }
      await database.steps.where('[rig+index]').between([id, at], [id, Dexie.maxKey]).delete()
      await database.steps.put(logged(id, at, change.step))
      isSnapshotGone ||= entry.snapshotAt > at
      at++
    }
    const isDue = isSnapshotGone || at - entry.snapshotAt >= STEPS_A_SNAPSHOT
    await database.rigs.update(id, {
      position: at,
      name: rig.name,
      snapshotAt: isDue ? at : entry.snapshotAt,
    })
    if (isDue) {
      await database.snapshots.put({ id, rig })
      await database.steps
        .where('[rig+index]')
        .between([id, Dexie.minKey], [id, at - STEPS_KEPT])
        .delete()
    }
    return at
  })
}

/**
 * Write a rig whole, whatever of it stands on the shelf; put it there again if all was cleared.
 *
 * @returns Where the shelf stands now.
 * @throws NotOwnerError if another tab has taken over, NotThereError if the rig is in the bin.
 */
export async function writeWhole(
  database: ShelfDatabase,
  id: string,
  owner: string,
  { rig, past, future }: Whole,
  now: number,
): Promise<number> {
  const kept = past.slice(-STEPS_KEPT)
  const position = kept.length
  return database.transaction('rw', everything(database), async () => {
    const entry = await database.rigs.get(id)
    if (entry) await ownedEntry(database, id, owner)
    await stepsOf(database, id).delete()
    await database.snapshots.put({ id, rig })
    await database.steps.bulkPut([...kept, ...future].map((step, index) => logged(id, index, step)))
    await database.rigs.put({
      ...(entry ?? { createdAt: now, openedAt: now, deletedAt: 0 }),
      id,
      owner,
      position,
      snapshotAt: position,
      name: rig.name,
    })
    return position
  })
}

/** A copy of a rig as it stands, under its own name, without its undo steps. */
export async function duplicateRig(database: ShelfDatabase, id: string, now: number): Promise<string | null> {
  const open = await loadRig(database, id)
  if (!open) return null
  const names = new Set((await listRigs(database)).map(({ name }) => name))
  return addRig(database, { ...open.rig, name: freeName(open.rig.name, names) }, now)
}

/** "Nine Rings", then "Nine Rings copy", "Nine Rings copy 2"… */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  const base = `${name.slice(0, 105)} copy`
  let candidate = base
  for (let count = 2; taken.has(candidate); count++) candidate = `${base} ${count}`
  return candidate
}

/** Rigs in the bin, the last thrown away first. */
export const listBin = async (database: ShelfDatabase): Promise<RigEntry[]> => {
  const rigs = await database.rigs.where('deletedAt').above(0).toArray()
  return rigs.sort((a, b) => b.deletedAt - a.deletedAt)
}

/** Put a rig into the bin, with the time in ms. */
export async function throwAway(database: ShelfDatabase, id: string, now: number): Promise<void> {
  await database.transaction('rw', database.rigs, database.usage, async () => {
    const deletedOn = (await database.usage.get('days'))?.days ?? 0
    await database.rigs.update(id, { deletedAt: now, deletedOn, owner: null })
  })
}

/** Take a rig out of the bin. */
export const takeBack = async (database: ShelfDatabase, id: string): Promise<void> => {
  await database.rigs.update(id, { deletedAt: 0, deletedOn: undefined })
}

/**
 * Count a day in use, if this is another than the last.
 *
 * @param today The date, in any writing.
 * @returns How many there have been. A clock that jumps adds one, however far it jumps.
 */
export async function countDay(database: ShelfDatabase, today: string): Promise<number> {
  return database.transaction('rw', database.usage, async () => {
    const before = (await database.usage.get('days')) ?? { days: 0, last: '' }
    const days = before.last === today ? before.days : before.days + 1
    await database.usage.put({ id: 'days', days, last: today })
    return days
  })
}

/** So many days in use a rig stays in the bin. */
export const BIN_DAYS = 30

/** How many days in use a rig in the bin is still there; what an older version threw away counts from now on. */
export const daysLeft = ({ deletedOn }: RigEntry, days: number): number =>
  deletedOn === undefined ? BIN_DAYS : Math.max(0, deletedOn + BIN_DAYS - days)

/** Remove for good what has been in the bin for `BIN_DAYS` days in use. */
export async function emptyBin(database: ShelfDatabase, days: number): Promise<void> {
  await database.transaction('rw', everything(database), async () => {
    const binned = await database.rigs.where('deletedAt').above(0).toArray()
    for (const entry of binned)
      if (entry.deletedOn === undefined) await database.rigs.update(entry.id, { deletedOn: days })
    await removeForGood(
      database,
      binned.filter((entry) => daysLeft(entry, days) === 0).map(({ id }) => id),
    )
  })
}

/** Remove rigs for good, as far as they are in the bin. */
export async function removeForGood(database: ShelfDatabase, ids: readonly string[]): Promise<void> {
  await database.transaction('rw', everything(database), async () => {
    const entries = await database.rigs.bulkGet([...ids])
    const gone = entries.flatMap((entry) => (entry && entry.deletedAt !== 0 ? [entry.id] : []))
    await database.rigs.bulkDelete(gone)
    await database.snapshots.bulkDelete(gone)
    await database.steps.where('rig').anyOf(gone).delete()
    await database.versions.where('rig').anyOf(gone).delete()
  })
}
