import { liveQuery, type Subscription } from 'dexie'
import { defineStore } from 'pinia'
import type { Problem, Rig } from '#core/rig'
import type { DemoState } from '#demo'
import type { RigEntry } from '~/storage/database'
import { database } from '~/storage/open'
import { addRig, duplicateRig, emptyBin, listRigs, takeBack, throwAway } from '~/storage/shelf'
import { useRigStore } from './rig'

const LAST_OPENED = 'deft-lattice/last-opened'
const BIN_MS = 7 * 24 * 60 * 60 * 1000

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

/** The rigs of this browser: list, open, copy, throw away, bring in and out. */
export const useShelfStore = defineStore('shelf', () => {
  const rigs = ref<RigEntry[]>([])
  const refused = ref<RefusedFile | null>(null)
  const failure = ref<string | null>(null)
  const open = useRigStore()
  let watching: Subscription | null = null

  /** Follow the shelf, also as other tabs change it; a rig that is only read follows its writer. */
  function follow(): void {
    watching?.unsubscribe()
    watching = liveQuery(() => listRigs(database())).subscribe({
      next: (list) => {
        const before = rigs.value.find(({ id }) => id === open.id)
        rigs.value = list
        const now = list.find(({ id }) => id === open.id)
        if (open.id !== null && open.readReason !== null && now && now.position !== before?.position) {
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
    if (found) remember(id)
    return found
  }

  async function demoRig(state: DemoState): Promise<Rig> {
    const { nineRingsRig } = await import('#demo')
    return nineRingsRig(state)
  }

  async function addAndOpen(rig: Rig): Promise<void> {
    await openRig(await addRig(database(), rig, Date.now()))
  }

  const openDemo = async (state: DemoState): Promise<void> => addAndOpen(await demoRig(state))

  async function openEmpty(): Promise<void> {
    const { emptyRig } = await import('#core/rig/parse')
    await addAndOpen(emptyRig('New rig'))
  }

  /** Open what was open last; else the newest; else, on a first visit, the demo rig. */
  async function boot(): Promise<void> {
    try {
      await emptyBin(database(), Date.now() - BIN_MS)
      follow()
      const last = remembered()
      if (last !== null && (await openRig(last))) return
      const [newest] = await listRigs(database())
      if (newest && (await openRig(newest.id))) return
      if (last === null) await openDemo('as-found')
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
    }
  }

  async function duplicate(id: string): Promise<void> {
    await open.settled()
    const copy = await duplicateRig(database(), id, Date.now())
    if (copy !== null) await openRig(copy)
  }

  /** Throw a rig away; if it was open, the next on the shelf opens, or none. */
  async function remove(id: string): Promise<void> {
    await open.settled()
    const wasOpen = open.id === id
    if (wasOpen) open.close()
    await throwAway(database(), id, Date.now())
    if (!wasOpen) return
    const [next] = await listRigs(database())
    if (next) await openRig(next.id)
  }

  async function bringBack(id: string): Promise<void> {
    await takeBack(database(), id)
    await openRig(id)
  }

  /** Read a file. A good rig is added and opened; else nothing changes and the reasons are shown. */
  async function importFile(file: File): Promise<void> {
    const { readRig } = await import('#core/rig/parse')
    const result = readRig(await file.text())
    if (result.ok) await addAndOpen(result.rig)
    else refused.value = { name: file.name, problems: result.problems }
  }

  return {
    rigs,
    refused,
    failure,
    boot,
    openRig,
    openDemo,
    openEmpty,
    duplicate,
    remove,
    bringBack,
    importFile,
  }
})
