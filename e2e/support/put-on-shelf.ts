import { openDatabase } from '../../app/storage/database'
import { addRig } from '../../app/storage/shelf'
import type { Rig } from '../../core/rig'

/**
 * Runs inside the browser: put a rig on the shelf of the application, with the application's own code.
 * The browser tests start from there, so they need no import unless the import is what they test.
 */
export async function putOnShelf(rig: Rig): Promise<void> {
  const database = openDatabase()
  await addRig(database, rig, Date.now())
  database.close()
}
