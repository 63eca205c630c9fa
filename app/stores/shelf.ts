import { liveQuery, type Subscription } from 'dexie'
import { defineStore } from 'pinia'
import type { Problem, Rig } from '#core/rig'
import type { DemoState } from '#demo'
import type { RigEntry } from '~/storage/database'
import { toast } from '~/lib/toast'
import { askHolder } from '~/storage/lock'
import { database, onDatabaseGone, whyNothingIsKept } from '~/storage/open'
import {
  addRig,
  countDay,
  daysLeft,
  duplicateRig,
  emptyBin,
  freeName,
  listBin,
  listRigs,
  OutdatedRigError,
  removeForGood,
  takeBack,
  throwAway,
} from '~/storage/shelf'
import type { IncomingFile } from '~/lib/reading'
import { useRigStore } from './rig'

const LAST_OPENED = 'deft-lattice/last-opened'

const remembered = (): string | null =>
  sessionStorage.getItem(LAST_OPENED) ?? localStorage.getItem(LAST_OPENED)

function remember(id: string): void {
  sessionStorage.setItem(LAST_OPENED, id)
  localStorage.setItem(LAST_OPENED, id)
}

/** A file that was refused: its name, and where and why. */
export interface RefusedFile {
  name: string
  problems: readonly Problem[]
}

/** A rig in the bin, with the days in use that it is still there. */
export interface BinnedRig {
  id: string
  name: string
  daysLeft: number
}

/** The rigs of this browser: list, open, copy, throw away, bring in and out. */
export const useShelfStore = defineStore('shelf', () => {
  const rigs = ref<RigEntry[]>([])
  const bin = ref<BinnedRig[]>([])
  const refused = ref<RefusedFile | null>(null)
  /** The file that is being read. */
  const incoming = shallowRef<IncomingFile | null>(null)
  /** What went wrong with a rig that was to be opened, in a sentence. */
  const failure = ref<string | null>(null)
  /** Why nothing is kept in this browser, in a sentence; null where it is. */
  const whyNowhere = ref<string | null>(null)
  const open = useRigStore()
  // Once the storage works again, nothing is wrong with it any more.
  watch(
    () => open.keepState,
    (now, before) => {
      if (before === 'failing' && now === 'kept') failure.value = null
    },
  )
  /** Is it still being looked for what to open? */
  const isBooting = ref(true)
  let days = 0
  let watching: Subscription | null = null

  /** Follow the shelf, also as other tabs change it; a rig that is only read follows its writer. */
  function follow(): void {
    watching?.unsubscribe()
    watching = liveQuery(async () => ({
      list: await listRigs(database()),
      binned: await listBin(database()),
    })).subscribe({
      next: ({ list, binned }) => {
        const before = rigs.value.find(({ id }) => id === open.id)
        rigs.value = list
        bin.value = binned.map((entry) => ({
          id: entry.id,
          name: entry.name,
          daysLeft: daysLeft(entry, days),
        }))
        if (binned.some(({ id }) => id === open.id) && open.readReason !== 'deleted') open.loseTo('deleted')
        const now = list.find(({ id }) => id === open.id)
        if (open.id !== null && open.isFollowing() && now && now.position !== before?.position) {
          void open.reload(open.id)
        }
      },
      error: (error: unknown) => {
        failure.value = error instanceof Error ? error.message : String(error)
      },
    })
  }

  async function openRig(id: string): Promise<boolean> {
    const found = await open.open(id)
    if (!found && open.keepState === 'failing') toast((await import('~/storage/trouble-words')).STAYS_OPEN)
    if (found) {
      remember(id)
      failure.value = null
    }
    return found
  }

  /** Do what needs the storage; where that fails, say so, and give null. */
  async function trying<T>(act: () => Promise<T>): Promise<T | null> {
    try {
      return await act()
    } catch (error) {
      failure.value =
        error instanceof OutdatedRigError
          ? error.message
          : (await import('~/storage/trouble-words')).STORAGE_FAILS
      console.error(error)
      return null
    }
  }

  /** Open a rig, or say why it cannot be. */
  const tryToOpen = async (id: string): Promise<boolean> => (await trying(() => openRig(id))) === true

  async function demoRig(state: DemoState): Promise<Rig> {
    const { nineRingsRig } = await import('#demo')
    return nineRingsRig(state)
  }

  async function addAndOpen(rig: Rig): Promise<void> {
    if (whyNowhere.value !== null) open.openInMemory(rig)
    else await trying(async () => openRig(await addRig(database(), rig, Date.now())))
  }

  const openDemo = async (state: DemoState): Promise<void> => addAndOpen(await demoRig(state))

  async function openEmpty(): Promise<void> {
    const { emptyRig } = await import('#core/rig/parse')
    await addAndOpen(emptyRig('New rig'))
  }

  let booted = Promise.resolve()
  const boot = (): Promise<void> => (booted = openFirst().finally(() => (isBooting.value = false)))
  /** What the player asks for in the first moment is done after that, so that nothing opens over it. */
  const afterBoot =
    <Asked extends unknown[], Result>(act: (...asked: Asked) => Promise<Result>) =>
    (...asked: Asked): Promise<Result> =>
      booted.then(() => act(...asked))

  /** Open what was open last; else the newest that can be; else, on a first visit, the demo rig. */
  async function openFirst(): Promise<void> {
    whyNowhere.value = await whyNothingIsKept()
    if (whyNowhere.value !== null) return openDemo('as-found')
    // A full disk is no reason to open nothing.
    await trying(async () => {
      days = await countDay(database(), new Date().toDateString())
      await emptyBin(database(), days)
    })
    follow()
    onDatabaseGone(follow)
    const last = remembered()
    const others = (await listRigs(database())).map(({ id }) => id).filter((id) => id !== last)
    for (const id of [...(last === null ? [] : [last]), ...others]) {
      const why = failure.value
      if (await tryToOpen(id)) {
        // One that could not be opened stays named.
        failure.value = why
        return
      }
    }
    if (last === null) await openDemo('as-found')
    // Where not even a new rig can be kept, it can be worked on all the same.
    if (!open.rig && failure.value !== null) open.openInMemory(await demoRig('as-found'))
  }

  async function duplicate(id: string): Promise<void> {
    if (whyNowhere.value !== null) {
      if (open.rig) open.openInMemory({ ...open.rig, name: freeName(open.rig.name, new Set()) })
      return
    }
    await open.settled()
    const copy = await trying(() => duplicateRig(database(), id, Date.now()))
    if (copy !== null) await tryToOpen(copy)
  }

  /** Throw a rig away; if it was open, the next on the shelf opens, or none. A tab that edits it is asked first. */
  async function remove(id: string): Promise<void> {
    await open.settled()
    const wasOpen = open.id === id
    if (wasOpen && open.readReason === null) open.close()
    else await askHolder(id, 'delete')
    if (wasOpen) open.close()
    await throwAway(database(), id, Date.now())
    if (!wasOpen) return
    const [next] = await listRigs(database())
    if (next) await tryToOpen(next.id)
  }

  async function bringBack(id: string): Promise<void> {
    await takeBack(database(), id)
    await tryToOpen(id)
  }

  /** Remove everything in the bin for good. */
  const clearBin = async (): Promise<void> =>
    removeForGood(
      database(),
      bin.value.map(({ id }) => id),
    )

  /** Keep the rig as this tab shows it, under a name of its own: another tab has it, or threw it away. */
  async function keepAsNew(): Promise<void> {
    const { rig } = open
    if (!rig) return
    const name = freeName(rig.name, new Set(rigs.value.map((entry) => entry.name)))
    const id = await trying(() => addRig(database(), { ...rig, name }, Date.now()))
    if (id === null) return
    open.close()
    await tryToOpen(id)
  }

  /** Read a file, in a worker. A good rig is added and opened; else nothing changes and the reasons are shown. */
  async function importFile(file: File): Promise<void> {
    const { readRigFile } = await import('~/lib/importing')
    const problems = await readRigFile(file, incoming, addAndOpen)
    if (problems) refused.value = { name: file.name, problems }
  }

  return {
    rigs,
    bin,
    refused,
    incoming,
    failure,
    whyNowhere,
    isBooting,
    boot,
    openRig: afterBoot(tryToOpen),
    openDemo: afterBoot(openDemo),
    openEmpty: afterBoot(openEmpty),
    duplicate: afterBoot(duplicate),
    remove,
    bringBack,
    clearBin,
    keepAsNew,
    importFile: afterBoot(importFile),
  }
})
