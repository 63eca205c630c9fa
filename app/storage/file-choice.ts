import Dexie, { type EntityTable } from 'dexie'

/** The file that the player chose for backups, and what of the shelf it holds. */
export interface FileChoice {
  id: 'backup'
  handle: FileSystemFileHandle
  /** How the shelf stood when the file was written last (`markOf`); empty before that. */
  mark: string
}

/** A database of its own: what is here says where this browser writes, and is in no backup. */
function open() {
  const own = new Dexie('deft-lattice-files') as Dexie & { files: EntityTable<FileChoice, 'id'> }
  own.version(1).stores({ files: 'id' })
  return own
}

async function within<T>(work: (files: EntityTable<FileChoice, 'id'>) => Promise<T>): Promise<T> {
  const own = open()
  try {
    return await work(own.files)
  } finally {
    own.close()
  }
}

/** The chosen file, or null where none is. */
export const fileChoice = (): Promise<FileChoice | null> =>
  within(async (files) => (await files.get('backup')) ?? null)
/** Remember the chosen file and what it holds. */
export const keepFileChoice = (handle: FileSystemFileHandle, mark: string): Promise<unknown> =>
  within((files) => files.put({ id: 'backup', handle, mark }))
/** Write to no file any more. The file itself stays. */
export const dropFileChoice = (): Promise<void> => within((files) => files.delete('backup'))
