import Dexie, { type EntityTable, type Table } from 'dexie'
import type { Rig, Step } from '#core/rig'

/** A rig on the shelf, without its contents. Times are ms since 1970. */
export interface RigEntry {
  id: string
  name: string
  /** How many steps of the log lead to the rig as it stands. */
  position: number
  createdAt: number
  openedAt: number
  /** When it was thrown away, or 0. It can be taken back until the bin is emptied. */
  deletedAt: number
  /** The tab that may write to it. */
  owner: string | null
}

/** The whole rig as it was after `at` steps. */
export interface Snapshot {
  id: string
  rig: Rig
  at: number
}

export interface LoggedStep extends Step {
  rig: string
  /** The step leads from position `index` to `index + 1`. */
  index: number
}

export type ShelfDatabase = Dexie & {
  rigs: EntityTable<RigEntry, 'id'>
  snapshots: EntityTable<Snapshot, 'id'>
  steps: Table<LoggedStep, [string, number]>
}

export function openDatabase(name = 'deft-lattice'): ShelfDatabase {
  const database = new Dexie(name) as ShelfDatabase
  database.version(1).stores({
    rigs: 'id, openedAt, deletedAt',
    snapshots: 'id',
    steps: '[rig+index], rig',
  })
  return database
}
