import { openDatabase, type ShelfDatabase } from '../database'

/** Does the next write to any store fail, as it does on a full disk? */
let fails: () => boolean = () => false
for (const method of ['put', 'add', 'delete'] as const) {
  const real = IDBObjectStore.prototype[method] as (...all: unknown[]) => IDBRequest
  IDBObjectStore.prototype[method] = function (this: IDBObjectStore, ...all: unknown[]): never {
    if (fails()) throw new DOMException('The disk is full.', 'QuotaExceededError')
    return real.apply(this, all) as never
  }
}

/** Say which writes fail from now on; gives what was said before. */
export function failWhen(test: () => boolean): () => boolean {
  const before = fails
  fails = test
  return before
}
/** Every write works from now on. */
export const workAgain = (): (() => boolean) => failWhen(() => false)

const opened: ShelfDatabase[] = []

/** A database of its own, which `deleteDatabases` deletes. */
export function freshDatabase(): ShelfDatabase {
  const database = openDatabase(`test-${opened.length}-${Math.random()}`)
  opened.push(database)
  return database
}

export async function deleteDatabases(): Promise<void> {
  workAgain()
  for (const database of opened.splice(0)) await database.delete()
}
