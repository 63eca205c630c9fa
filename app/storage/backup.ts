import * as z from 'zod/mini'
import type { Rig } from '#core/rig'
import { isSame } from '#core/rig/compare'
import { parseRig, readJson } from '#core/rig/parse'
import { problemsOf, type Problem } from '#core/rig/problems'
import type { ShelfDatabase, StoredVersion } from './database'
import { gunzipped, gzipped } from './gzip'
import { addRig, freeName, listBin, listRigs, loadRig } from './shelf'
import { unpackRig } from './versions'

export const BACKUP_FORMAT = 'deft-lattice/backup'
export const BACKUP_VERSION = 1

/** So large a file may be, compressed, and so long its text. */
export const BACKUP_LIMITS = { bytes: 128 * 1024 * 1024, text: 256 * 1024 * 1024 } as const

const Time = z.number().check(z.nonnegative())
const Text = z.string().check(z.maxLength(2000))
/** What is in a backup around the rigs, which are read as any rig. */
const BackupSchema = z.strictObject({
  format: z.literal(BACKUP_FORMAT),
  version: z.literal(BACKUP_VERSION),
  /** ms since 1970. */
  madeAt: Time,
  rigs: z
    .array(
      z.strictObject({
        id: z.string().check(z.minLength(1), z.maxLength(64)),
        createdAt: Time,
        rig: z.unknown(),
        versions: z
          .array(
            z.strictObject({
              id: z.string().check(z.minLength(1), z.maxLength(64)),
              name: z.nullable(Text),
              at: Time,
              label: Text,
              /** The rig’s file, compressed (gzip, RFC 1952), in base64 (RFC 4648). */
              packed: z.base64('is damaged: it is not written in base64'),
            }),
          )
          .check(z.maxLength(10_000)),
      }),
    )
    .check(z.maxLength(10_000)),
  settings: z.record(z.string().check(z.maxLength(200)), z.string().check(z.maxLength(100_000))),
})

/** A rig of a backup, with its versions. */
export interface BackedUp {
  id: string
  createdAt: number
  rig: Rig
  versions: Array<Omit<StoredVersion, 'rig'>>
}

/** All that a browser keeps: rigs, their versions, and what the player likes. */
export interface Backup {
  madeAt: number
  rigs: BackedUp[]
  settings: Readonly<Record<string, string>>
}

export type BackupResult = { ok: true; backup: Backup } | { ok: false; problems: Problem[] }

const CHUNK = 0x8000
function toBase64(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += CHUNK)
    text += String.fromCharCode(...bytes.subarray(at, at + CHUNK))
  return btoa(text)
}
const fromBase64 = (text: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0))

/** Everything on the shelf in one file: JSON, compressed (gzip), whose checksum tells whether it is whole. */
export async function makeBackup(
  database: ShelfDatabase,
  settings: Readonly<Record<string, string>>,
  madeAt: number,
): Promise<Blob> {
  const { toJson } = await import('#core/midi')
  const rigs: unknown[] = []
  for (const { id, createdAt } of await listRigs(database)) {
    const open = await loadRig(database, id)
    if (!open) continue
    const versions = await database.versions.where('rig').equals(id).toArray()
    rigs.push({
      id,
      createdAt,
      rig: open.rig,
      versions: versions.map(({ id: own, name, at, label, bytes }) => ({
        id: own,
        name,
        at,
        label,
        packed: toBase64(bytes),
      })),
    })
  }
  return gzipped(toJson({ format: BACKUP_FORMAT, version: BACKUP_VERSION, madeAt, rigs, settings }, 0))
}

/** One string for how the shelf stands: another as soon as a rig or a version on it is. */
export async function shelfMark(database: ShelfDatabase): Promise<string> {
  const rigs = await listRigs(database)
  const versions = await database.versions.toArray()
  return JSON.stringify([
    rigs.map(({ id, position, name }) => [id, position, name]).toSorted(),
    versions.map(({ id, name }) => [id, name]).toSorted(),
  ])
}

const refuse = (path: string, message: string): BackupResult => ({ ok: false, problems: [{ path, message }] })

function again(ids: readonly string[]): number {
  const seen = new Set<string>()
  return ids.findIndex((id) => seen.size === seen.add(id).size)
}

async function readContent(value: unknown): Promise<BackupResult> {
  if (typeof value !== 'object' || value === null || !('format' in value) || value.format !== BACKUP_FORMAT)
    return refuse('format', `This is not a backup: it should be an object with "format": "${BACKUP_FORMAT}".`)
  if ('version' in value && typeof value.version === 'number' && value.version > BACKUP_VERSION)
    return refuse('version', 'This backup was written by a newer Deft Lattice. Open it with a newer version.')
  const parsed = BackupSchema.safeParse(value, { reportInput: true })
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error, 5) }
  const rigs: BackedUp[] = []
  const twice = again(parsed.data.rigs.map(({ id }) => id))
  if (twice >= 0) return refuse(`rigs[${twice}].id`, 'stands in this backup for the second time')
  const versionIds = parsed.data.rigs.flatMap(({ versions }) => versions.map(({ id }) => id))
  if (again(versionIds) >= 0) return refuse('rigs', 'two versions have one id')
  for (const [index, { id, createdAt, rig, versions }] of parsed.data.rigs.entries()) {
    const read = parseRig(rig)
    if (!read.ok) {
      const problems = read.problems.map((each) => ({ ...each, path: `rigs[${index}].rig.${each.path}` }))
      return { ok: false, problems }
    }
    const kept: BackedUp['versions'] = []
    for (const [at, { packed, ...version }] of versions.entries()) {
      const bytes = fromBase64(packed)
      try {
        await unpackRig(bytes)
      } catch (error) {
        return refuse(
          `rigs[${index}].versions[${at}]`,
          error instanceof Error ? error.message : String(error),
        )
      }
      kept.push({ ...version, bytes })
    }
    rigs.push({ id, createdAt, rig: read.rig, versions: kept })
  }
  return { ok: true, backup: { madeAt: parsed.data.madeAt, rigs, settings: parsed.data.settings } }
}

/** Read a backup: every rig and every version in it, or where and why all of it is refused. */
export async function readBackup(file: Blob): Promise<BackupResult> {
  if (file.size > BACKUP_LIMITS.bytes)
    return refuse(
      '(file)',
      `It is ${Math.ceil(file.size / 2 ** 20)} MB large; a backup has ${BACKUP_LIMITS.bytes / 2 ** 20} MB at most.`,
    )
  let text: string | null
  try {
    text = await gunzipped(file, BACKUP_LIMITS.text)
  } catch {
    return refuse('(file)', 'It is no backup, or it is damaged: it cannot be unpacked. Choose another.')
  }
  if (text === null) return refuse('(file)', 'It holds more than any backup does.')
  const read = readJson(text)
  return read.ok ? readContent(read.value) : { ok: false, problems: [read.problem] }
}

/** How a rig of a backup stands to the shelf. */
export type Standing =
  /** The shelf does not have it. */
  | 'new'
  /** The shelf has it just so. */
  | 'same'
  /** The shelf has it, and it has changed since. */
  | 'differs'
  /** It is in the bin. */
  | 'binned'

/** How each rig of a backup stands to the shelf, in its order. */
export async function standings(database: ShelfDatabase, { rigs }: Backup): Promise<Standing[]> {
  return Promise.all(
    rigs.map(async ({ id, rig }): Promise<Standing> => {
      const entry = await database.rigs.get(id)
      if (!entry) return 'new'
      if (entry.deletedAt !== 0) return 'binned'
      const open = await loadRig(database, id)
      return open && isSame(open.rig, rig) ? 'same' : 'differs'
    }),
  )
}

/**
 * Put a rig of a backup on the shelf with its versions: as the one it was, where the shelf has none of its id, else as a copy with a name
 * of its own. Nothing that is there is changed. Gives its id. Rejects where the browser cannot write; then nothing is changed.
 */
export async function restoreRig(database: ShelfDatabase, backed: BackedUp, now: number): Promise<string> {
  // What is in the bin may be taken back.
  const all = [...(await listRigs(database)), ...(await listBin(database))]
  const names = new Set(all.map(({ name }) => name))
  return database.transaction(
    'rw',
    [database.rigs, database.snapshots, database.steps, database.versions],
    async () => {
      const isThere = (await database.rigs.get(backed.id)) !== undefined
      const rig =
        isThere && names.has(backed.rig.name)
          ? { ...backed.rig, name: freeName(backed.rig.name, names) }
          : backed.rig
      const id = await addRig(database, rig, now, isThere ? undefined : backed.id)
      await database.rigs.update(id, { createdAt: backed.createdAt })
      const taken = new Set(
        (await database.versions.bulkGet(backed.versions.map((each) => each.id))).flatMap(
          (each) => each?.id ?? [],
        ),
      )
      await database.versions.bulkAdd(
        backed.versions.map((version) => ({
          ...version,
          id: taken.has(version.id) ? crypto.randomUUID() : version.id,
          rig: id,
        })),
      )
      return id
    },
  )
}
