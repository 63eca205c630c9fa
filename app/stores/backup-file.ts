import { useDebounceFn } from '@vueuse/core'
import Dexie from 'dexie'
import { defineStore } from 'pinia'
import { askAway } from '~/lib/ask-away'
import { settingsHere } from '~/lib/settings'
import { dropFileChoice, fileChoice, keepFileChoice, type FileChoice } from '~/storage/file-choice'
import { backupWorker } from './backup'
import { database } from '~/storage/open'
import { shelfMark } from '~/storage/backup'
import type { BackupKeeper } from '~/workers/backup'

/** How writing to the chosen file stands. */
export type FileState =
  /** The browser cannot write to a file that was chosen once. */
  | 'not-here'
  | 'off'
  /** The browser wants to be told again that it may. */
  | 'asks'
  | 'writes'
  | 'failed'

/** What the File System Access draft (WICG) adds to a handle, where a browser has it. */
interface AskedHandle extends FileSystemFileHandle {
  queryPermission?: (how: { mode: 'readwrite' }) => Promise<PermissionState>
  requestPermission?: (how: { mode: 'readwrite' }) => Promise<PermissionState>
}
type PickingWindow = Window & {
  showSaveFilePicker?: (options: {
    suggestedName: string
    types: Array<{ description: string; accept: Record<string, string[]> }>
  }) => Promise<FileSystemFileHandle>
}

const NAME = 'deft-lattice-backup.json.gz'
/** The file is written when nothing has changed for so long, and at the latest after so long, in ms. */
const QUIET_MS = 3000
const MOST_MS = 60_000
/** Writing takes at most about this part of the time. */
const SHARE = 0.2
/** One tab writes for all. */
const LOCK = 'deft-lattice/backup-file'

const isAbort = (error: unknown): boolean => error instanceof DOMException && error.name === 'AbortError'
const WHY: Readonly<Record<string, string>> = {
  NotFoundError: 'The backup file is no longer where it was. Choose it again.',
  NotAllowedError: 'The browser no longer lets this page write to the backup file. Choose it again.',
  QuotaExceededError: 'The backup file could not be written: the disk is full. Make room, or choose another.',
}
const said = (error: unknown): string =>
  (error instanceof DOMException && WHY[error.name]) ||
  `The backup file could not be written: ${error instanceof Error ? error.message : String(error)}`

/** A backup that is written to a file of the player’s after every change, where the browser can. */
export const useBackupFileStore = defineStore('backup-file', () => {
  const backups = useBackupStore()
  const state = ref<FileState>('off')
  const fileName = ref<string | null>(null)
  const failure = ref<string | null>(null)
  let holding: (() => void) | null = null
  let isQueued = false
  let restUntil = 0

  const may = async (handle: AskedHandle): Promise<PermissionState> =>
    handle.queryPermission ? handle.queryPermission({ mode: 'readwrite' }) : 'granted'

  async function write({ handle }: FileChoice, mark: string): Promise<void> {
    const began = performance.now()
    const now = Date.now()
    const blob = await askAway<BackupKeeper, Blob>(backupWorker(), (keeper) =>
      keeper.make(settingsHere(), now),
    )
    // The file changes when this is closed, and not before: a browser that dies amid it leaves the old one.
    const out = await handle.createWritable()
    try {
      await out.write(blob)
      await out.close()
    } catch (error) {
      await out.abort().catch(() => undefined)
      throw error
    }
    await keepFileChoice(handle, mark)
    backups.lastAt = now
    restUntil = performance.now() + (performance.now() - began) / SHARE
  }

  /** Write the file if the shelf has changed since. */
  async function bringUpToDate(): Promise<void> {
    if (holding === null) return
    if (performance.now() < restUntil) return void soon()
    try {
      const choice = await fileChoice()
      if (!choice) return stop('off')
      if ((await may(choice.handle)) !== 'granted') return stop('asks')
      const mark = await shelfMark(database())
      if (mark === choice.mark) return
      await write(choice, mark)
      failure.value = null
      state.value = 'writes'
    } catch (error) {
      failure.value = said(error)
      state.value = 'failed'
      console.error('The backup file could not be written; it is tried again with the next change.', error)
    }
  }
  const soon = useDebounceFn(() => void bringUpToDate(), QUIET_MS, { maxWait: MOST_MS })
  const heed = (parts: Record<string, unknown>): void => {
    if (Object.keys(parts).some((part) => part.startsWith(`idb://${database().name}/`))) void soon()
  }

  function stop(next: FileState): void {
    state.value = next
    holding?.()
    holding = null
    Dexie.on('storagemutated').unsubscribe(heed)
  }

  /** Go on writing as this browser was told once; another tab that does it goes first. */
  async function goOn(): Promise<void> {
    const choice = await fileChoice()
    fileName.value = choice?.handle.name ?? null
    if (!choice) return stop('off')
    if ((await may(choice.handle)) !== 'granted') return stop('asks')
    if (holding !== null) return bringUpToDate()
    state.value = 'writes'
    if (isQueued) return
    isQueued = true
    void navigator.locks.request(LOCK, async () => {
      isQueued = false
      const released = new Promise<void>((resolve) => (holding = resolve))
      Dexie.on('storagemutated', heed)
      await bringUpToDate()
      await released
    })
  }

  /** Look what was chosen; called once, when the page is at rest. */
  async function start(): Promise<void> {
    if (!('showSaveFilePicker' in window)) return void (state.value = 'not-here')
    try {
      await goOn()
    } catch (error) {
      failure.value = said(error)
      state.value = 'failed'
    }
  }

  /** Let the player choose the file, and write to it from now on. */
  async function choose(): Promise<void> {
    failure.value = null
    try {
      const handle = await (window as PickingWindow).showSaveFilePicker?.({
        suggestedName: NAME,
        types: [{ description: 'Backup', accept: { 'application/gzip': ['.gz'] } }],
      })
      if (!handle) return
      await keepFileChoice(handle, '')
      await goOn()
    } catch (error) {
      if (!isAbort(error)) failure.value = said(error)
    }
  }

  /** The player says again that the browser may write. */
  async function allow(): Promise<void> {
    try {
      const handle: AskedHandle | undefined = (await fileChoice())?.handle
      if ((await handle?.requestPermission?.({ mode: 'readwrite' })) === 'granted') await goOn()
    } catch (error) {
      failure.value = said(error)
    }
  }

  async function leave(): Promise<void> {
    await dropFileChoice()
    fileName.value = null
    failure.value = null
    stop('off')
  }

  return { state, fileName, failure, start, choose, allow, leave }
})
