import { openDatabase, type ShelfDatabase } from './database'

let opened: ShelfDatabase | null = null
const listeners = new Set<() => void>()

/** The one database of this browser; opened anew where it was cleared or deleted. */
export function database(): ShelfDatabase {
  if (opened) return opened
  const own = openDatabase()
  opened = own
  const gone = (): void => {
    if (opened !== own) return
    opened = null
    for (const listener of listeners) listener()
  }
  own.on('close', gone)
  own.on('versionchange', ({ newVersion }) => {
    // Another tab deletes it, or brings it up to a newer version: let go, or the other waits for ever.
    own.close()
    if (newVersion === null || newVersion === 0) gone()
  })
  return own
}

/** Be told when the database was deleted or cleared under the open page. Gives how to be told no more. */
export function onDatabaseGone(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** Why this browser keeps nothing, in a sentence; null if it does. */
export async function whyNothingIsKept(): Promise<string | null> {
  try {
    await database().open()
    return null
  } catch (error) {
    const { whyNothing } = await import('./trouble-words')
    return whyNothing(error)
  }
}
