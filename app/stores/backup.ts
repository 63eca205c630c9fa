import { useStorage } from '@vueuse/core'
import type { Remote } from 'comlink'
import { defineStore } from 'pinia'
import {
  restoreRig,
  standings,
  type BackedUp,
  type Backup,
  type BackupResult,
  type Standing,
} from '~/storage/backup'
import { askAway } from '~/lib/ask-away'
import { isSetting, settingsHere, SETTINGS_PREFIX } from '~/lib/settings'
import { timeAgo } from '~/lib/time-ago'
import { database } from '~/storage/open'
import type { BackupKeeper } from '~/workers/backup'
import { useRigStore } from './rig'
import { useShelfStore } from './shelf'

/** One rig of an opened backup. */
export interface RestoreLine {
  backed: BackedUp
  standing: Standing
  /** It was restored just now. */
  isDone: boolean
}

/** Work is not backed up for so long, in ms, before it is said. */
const LONG_MS = 7 * 86_400_000

/** Backups are made and read in it. */
export const backupWorker = (): Worker =>
  new Worker(new URL('../workers/backup.worker.ts', import.meta.url), { type: 'module' })

const said = (error: unknown): string => (error instanceof Error ? error.message : String(error))

/** One file of everything, and back from it. */
export const useBackupStore = defineStore('backup', () => {
  const rigs = useRigStore()
  const shelf = useShelfStore()
  /** When the last backup was made here, in ms since 1970; 0 where there was none. */
  const lastAt = useStorage(`${SETTINGS_PREFIX}backed-up`, 0)
  const isBusy = ref(false)
  const failure = ref<string | null>(null)
  const opened = shallowRef<{ name: string; backup: Backup } | null>(null)
  const lines = shallowRef<readonly RestoreLine[]>([])
  /** Does the browser promise not to clear what is kept? Null where it does not say. */
  const isPromised = ref<boolean | null>(null)

  /** Has a rig been worked on for long since the last backup? */
  const isOld = computed(() => {
    const worked = shelf.rigs.some(({ position, openedAt }) => position > 0 && openedAt > lastAt.value)
    return worked && Date.now() - lastAt.value > LONG_MS
  })

  /** How long ago the last backup was, in words. */
  const since = computed(() =>
    lastAt.value === 0 ? 'none yet' : `last ${timeAgo(new Date(lastAt.value).toISOString())}`,
  )

  async function away<T>(work: (keeper: Remote<BackupKeeper>) => Promise<T>): Promise<T> {
    isBusy.value = true
    failure.value = null
    try {
      return await askAway<BackupKeeper, T>(backupWorker(), work)
    } finally {
      isBusy.value = false
    }
  }

  /** One file of all rigs, versions and settings; null where it could not be made. */
  async function make(): Promise<Blob | null> {
    await rigs.settled()
    const now = Date.now()
    try {
      const file = await away((keeper) => keeper.make(settingsHere(), now))
      lastAt.value = now
      return file
    } catch (error) {
      failure.value = `The backup could not be made: ${said(error)}`
      return null
    }
  }

  async function compareAgain(): Promise<void> {
    if (!opened.value) return
    const { backup } = opened.value
    const found = await standings(database(), backup)
    lines.value = backup.rigs.map((backed, index) => ({
      backed,
      standing: found[index] ?? 'new',
      isDone: lines.value[index]?.isDone ?? false,
    }))
  }

  async function open(file: File): Promise<void> {
    try {
      const result = await away<BackupResult>(async (keeper) => keeper.read(file))
      if (!result.ok) {
        const [problem] = result.problems
        failure.value = `“${file.name}” was not opened, and nothing has changed. ${problem?.path ?? ''}: ${problem?.message ?? ''}`
        return
      }
      lines.value = []
      opened.value = { name: file.name, backup: result.backup }
      await rigs.settled()
      await compareAgain()
    } catch (error) {
      failure.value = `“${file.name}” could not be opened: ${said(error)}`
    }
  }

  /** Put one rig of the backup on the shelf; what is there stays. */
  async function restore(line: RestoreLine): Promise<void> {
    failure.value = null
    try {
      await restoreRig(database(), line.backed, Date.now())
      lines.value = lines.value.map((each) =>
        each.backed.id === line.backed.id ? { ...each, isDone: true } : each,
      )
    } catch (error) {
      failure.value = `“${line.backed.rig.name}” could not be restored: ${said(error)} Nothing of it was written.`
    }
  }

  async function restoreNew(): Promise<void> {
    for (const line of lines.value) if (line.standing === 'new' && !line.isDone) await restore(line)
  }

  /** What the player liked when the backup was made, from the next load of the page on. Gives how many are not known here. */
  function takeSettings(): number {
    const all = Object.entries(opened.value?.backup.settings ?? {})
    const known = all.filter(([key, value]) => isSetting(key, value))
    for (const [key, value] of known) localStorage.setItem(key, value)
    return all.length - known.length
  }

  function close(): void {
    opened.value = null
    lines.value = []
  }

  async function lookAtPromise(): Promise<void> {
    isPromised.value = (await navigator.storage?.persisted?.()) ?? null
  }
  /** Ask the browser not to clear what is kept when its disk runs full. */
  async function askPromise(): Promise<void> {
    isPromised.value = (await navigator.storage?.persist?.()) ?? null
    if (isPromised.value === false)
      failure.value =
        'The browser does not promise it yet; some do once a page is installed or used often. Keep backups meanwhile.'
  }

  return {
    lastAt,
    isOld,
    since,
    isBusy,
    failure,
    opened,
    lines,
    isPromised,
    make,
    open,
    restore,
    restoreNew,
    takeSettings,
    close,
    lookAtPromise,
    askPromise,
  }
})
