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

/** Put a rig on the shelf, with the time in ms; gives its id. */
export async function addRig(database: ShelfDatabase, rig: Rig, now: number): Promise<string> {
  const id = crypto.randomUUID()
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

const stepOf = ({ label, patches, inverse }: LoggedStep): Step => ({
  label,
  patches: JSON.parse(patches) as Patch[],
  inverse: JSON.parse(inverse) as Patch[],
})

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

async function ownedEntry(database: ShelfDatabase, id: string, owner: string): Promise<RigEntry> {
  const entry = await database.rigs.get(id)
  if (!entry || entry.owner !== owner) throw new NotOwnerError('This rig is being edited in another tab.')
  return entry
}

/**
 * Write one new step and where the rig now stands, all or nothing. Steps that had been undone are
 * dropped. Throws a NotOwnerError if another tab has taken over.
 */
export async function appendStep(
  database: ShelfDatabase,
  id: string,
  owner: string,
  step: Step,
  rig: Rig,
): Promise<void> {
  const { label } = step
  const [patches, inverse] = [JSON.stringify(step.patches), JSON.stringify(step.inverse)]
  await database.transaction('rw', database.rigs, database.snapshots, database.steps, async () => {
    const { position, snapshotAt } = await ownedEntry(database, id, owner)
    await database.steps.where('[rig+index]').between([id, position], [id, Dexie.maxKey]).delete()
    await database.steps.put({ rig: id, index: position, label, patches, inverse })
    const isDue = snapshotAt > position || position + 1 - snapshotAt >= STEPS_A_SNAPSHOT
    await database.rigs.update(id, {
      position: position + 1,
      name: rig.name,
      snapshotAt: isDue ? position + 1 : snapshotAt,
    })
    if (isDue) {
      await database.snapshots.put({ id, rig })
      await database.steps
        .where('[rig+index]')
        .between([id, Dexie.minKey], [id, position - STEPS_KEPT])
        .delete()
    }
  })
}

/** Write a rig whole, without the steps that led to it. Throws a NotOwnerError if another tab has taken over. */
export async function writeWhole(
  database: ShelfDatabase,
  id: string,
  owner: string,
  rig: Rig,
): Promise<void> {
  await database.transaction('rw', database.rigs, database.snapshots, database.steps, async () => {
    await ownedEntry(database, id, owner)
    await stepsOf(database, id).delete()
    await database.snapshots.put({ id, rig })
    await database.rigs.update(id, { position: 0, snapshotAt: 0, name: rig.name })
  })
}

/** Write that undo or redo moved the rig to another position. */
export async function moveTo(
  database: ShelfDatabase,
  id: string,
  owner: string,
  position: number,
  name: string,
): Promise<void> {
  await database.transaction('rw', database.rigs, async () => {
    await ownedEntry(database, id, owner)
    await database.rigs.update(id, { position, name })
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

/** Put a rig into the bin, with the time in ms. */
export const throwAway = async (database: ShelfDatabase, id: string, now: number): Promise<void> => {
  await database.rigs.update(id, { deletedAt: now, owner: null })
}

/** Take a rig out of the bin. */
export const takeBack = async (database: ShelfDatabase, id: string): Promise<void> => {
  await database.rigs.update(id, { deletedAt: 0 })
}

/** Remove for good what was thrown away before a time. */
export async function emptyBin(database: ShelfDatabase, before: number): Promise<void> {
  await database.transaction('rw', database.rigs, database.snapshots, database.steps, async () => {
    const gone = await database.rigs.where('deletedAt').between(1, before).primaryKeys()
    await database.rigs.bulkDelete(gone)
    await database.snapshots.bulkDelete(gone)
    await database.steps.where('rig').anyOf(gone).delete()
  })
}
