import { makeBackup, readBackup, type BackupResult } from '~/storage/backup'
import { openDatabase } from '~/storage/database'

/** Making and reading backups as the page sees it. */
export interface BackupKeeper {
  make: (settings: Readonly<Record<string, string>>, now: number) => Promise<Blob>
  read: (file: Blob) => Promise<BackupResult>
}

/** Backups, to be made and read in a worker. */
export const createBackupKeeper = (): BackupKeeper => ({
  make: async (settings, now) => {
    const database = openDatabase()
    try {
      return await makeBackup(database, settings, now)
    } finally {
      database.close()
    }
  },
  read: readBackup,
})
