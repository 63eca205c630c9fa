import Dexie, { type EntityTable, type Table } from 'dexie'
import type { Rig } from '#core/rig'

/** A rig on the shelf, without its contents. Times are ms since 1970. */
export interface RigEntry {
  id: string
  name: string
  /** How many steps of the log lead to the rig as it stands. */
  position: number
  createdAt: number
  openedAt: number
  /** How many steps lead to its snapshot. */
  snapshotAt: number
  /** When it was thrown away, or 0. It can be taken back until the bin is emptied. */
  deletedAt: number
  /** On which day in use it was thrown away (`usage.ts`); not there while it is on the shelf. */
  deletedOn?: number
  /** The tab that may write to it. */
  owner: string | null
}

/** The whole rig as it was after `snapshotAt` steps. */
export interface Snapshot {
  id: string
  rig: Rig
}

/** A step of the log; its patches as JSON text, which is written at once however many there are. */
export interface LoggedStep {
  rig: string
  label: string
  patches: string
  inverse: string
  /** The step leads from position `index` to `index + 1`. */
  index: number
  /** When it was made, in ms since 1970; not there on steps of older versions of the application. */
  at?: number
}

/** A rig as it was at some time. */
export interface StoredVersion {
  id: string
  rig: string
  /** What the player called it; null where it was kept by itself, as a sitting ended. */
  name: string | null
  /** When the rig was so, in ms since 1970. */
  at: number
  /** What was done last before, or empty. */
  label: string
  /** The rig’s file, compressed (gzip, RFC 1952). */
  bytes: Uint8Array<ArrayBuffer>
}

/** How many days the application has been used in this browser. */
export interface Usage {
  id: 'days'
  days: number
  /** The date of the last of them, as the browser had it. */
  last: string
}

export type ShelfDatabase = Dexie & {
  usage: EntityTable<Usage, 'id'>
  rigs: EntityTable<RigEntry, 'id'>
  snapshots: EntityTable<Snapshot, 'id'>
  steps: Table<LoggedStep, [string, number]>
  versions: EntityTable<StoredVersion, 'id'>
}

/**
 * The shelf’s database in this browser; made when it is first used. Its calls reject where the browser keeps
 * nothing.
 */
export function openDatabase(name = 'deft-lattice'): ShelfDatabase {
  // What is said to be kept is on the disk, not only on its way there: a browser may be killed, or the power fail.
  const database = new Dexie(name, { chromeTransactionDurability: 'strict' }) as ShelfDatabase
  database.version(1).stores({
    rigs: 'id, openedAt, deletedAt',
    snapshots: 'id',
    steps: '[rig+index], rig',
  })
  database.version(2).stores({ usage: 'id' })
  database.version(3).stores({ versions: 'id, rig' })
  return database
}
