import type { Rig } from '#core/rig'
import type { ShelfDatabase, StoredVersion } from './database'
import { gunzipped, gzipped } from './gzip'

/** A version without its contents. */
export type VersionEntry = Omit<StoredVersion, 'bytes'> & { byteLength: number }

/** A version that cannot be read: damaged, or of a newer application. */
export class VersionError extends Error {
  override name = 'VersionError'
}

const entryOf = ({ bytes, ...entry }: StoredVersion): VersionEntry => ({
  ...entry,
  byteLength: bytes.byteLength,
})

/** A rig’s file, compressed. */
export async function packRig(rig: Rig): Promise<Uint8Array<ArrayBuffer>> {
  const { writeRig } = await import('#core/rig/parse')
  return new Uint8Array(await (await gzipped(writeRig(rig))).arrayBuffer())
}

/** So long a text a version may hold: what is longer is no rig. */
const MOST_TEXT = 128 * 1024 * 1024

/** The rig of a compressed file, in the format of today. Throws a VersionError that says why it cannot be read. */
export async function unpackRig(bytes: Uint8Array<ArrayBuffer>): Promise<Rig> {
  const text = await gunzipped(new Blob([bytes]), MOST_TEXT).catch(() => {
    throw new VersionError('It is damaged and cannot be read.')
  })
  if (text === null) throw new VersionError('It is larger than any rig.')
  const { readRig } = await import('#core/rig/parse')
  const read = readRig(text)
  if (read.ok) return read.rig
  const [problem] = read.problems
  throw new VersionError(`It cannot be read: ${problem?.path ?? ''} ${problem?.message ?? ''}`)
}

/** The versions of a rig, the latest first. */
export async function listVersions(database: ShelfDatabase, rig: string): Promise<VersionEntry[]> {
  const found = await database.versions.where('rig').equals(rig).toArray()
  return found.map(entryOf).sort((a, b) => b.at - a.at)
}

/** How many versions that nobody named are kept of the last sittings, of days before, and of months before those. */
export const KEPT_UNNAMED = { sittings: 8, days: 8, months: 8 } as const

/**
 * Which versions can go: named ones never; of the others the last eight stay, then the last of each of eight days before, then the
 * last of each of eight months before.
 */
export function superfluous(
  versions: ReadonlyArray<Pick<VersionEntry, 'id' | 'name' | 'at'>>,
  dateOf: (at: number) => string = (at) => new Date(at).toISOString().slice(0, 10),
): string[] {
  const unnamed = versions.filter(({ name }) => name === null).sort((a, b) => b.at - a.at)
  const older = unnamed.slice(KEPT_UNNAMED.sittings)
  const firstOfEach = (items: typeof older, keyOf: (at: number) => string, most: number): typeof older => {
    const seen = new Set<string>()
    return items.filter(({ at }) => {
      const key = keyOf(at)
      return seen.has(key) || seen.size >= most ? false : (seen.add(key), true)
    })
  }
  const ofDays = firstOfEach(older, dateOf, KEPT_UNNAMED.days)
  const before = ofDays.at(-1)?.at ?? -Infinity
  const ofMonths = firstOfEach(
    older.filter(({ at }) => at < before),
    (at) => dateOf(at).slice(0, 7),
    KEPT_UNNAMED.months,
  )
  const kept = new Set([...ofDays, ...ofMonths].map(({ id }) => id))
  return older.filter(({ id }) => !kept.has(id)).map(({ id }) => id)
}

/**
 * Keep a rig as it is at some time as a version of the one on the shelf, and let go of versions that the rule lets go. Gives its id.
 * Rejects where the browser cannot write; then nothing is changed.
 */
export async function keepVersion(
  database: ShelfDatabase,
  rigId: string,
  rig: Rig,
  { name, at, label }: Pick<StoredVersion, 'name' | 'at' | 'label'>,
): Promise<string> {
  const bytes = await packRig(rig)
  const id = crypto.randomUUID()
  await database.transaction('rw', database.versions, async () => {
    await database.versions.add({ id, rig: rigId, name, at, label, bytes })
    const all = await database.versions.where('rig').equals(rigId).toArray()
    await database.versions.bulkDelete(superfluous(all))
  })
  return id
}

/** The rig of a version; null where it is no longer there. Throws a VersionError where it cannot be read. */
export async function readVersion(database: ShelfDatabase, id: string): Promise<Rig | null> {
  const found = await database.versions.get(id)
  return found ? unpackRig(found.bytes) : null
}

/** Give a version a name, which keeps it for good; null takes it away. */
export const nameVersion = async (
  database: ShelfDatabase,
  id: string,
  name: string | null,
): Promise<void> => {
  await database.versions.update(id, { name })
}

/** Remove a version for good. */
export const removeVersion = (database: ShelfDatabase, id: string): Promise<void> =>
  database.versions.delete(id)
