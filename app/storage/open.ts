import { openDatabase, type ShelfDatabase } from './database'

let opened: ShelfDatabase | null = null

/** The one database of this browser. */
export const database = (): ShelfDatabase => (opened ??= openDatabase())
