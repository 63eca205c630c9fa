import type { ShelfDatabase } from './database'
import {
  claimOwnership,
  NotOwnerError,
  NotThereError,
  writeChanges,
  writeWhole,
  type Change,
  type Whole,
} from './shelf'

/**
 * How what is shown stands to what is kept. `kept`: all of it is. `writing`: it is being written. `failing`: writing
 * failed, and is tried again until all of it is kept.
 */
export type KeepState = 'kept' | 'writing' | 'failing'

/** Why nothing more can be kept: another tab writes now, or the rig was thrown away. */
export type Loss = 'taken-over' | 'deleted'

export interface KeeperOptions {
  /** The database, opened anew where it was closed or cleared. */
  database: () => ShelfDatabase
  /** The name of this tab. */
  owner: string
  /** Waits for the moment to write. What comes meanwhile is written with it. */
  whenFree: () => Promise<void>
  onState: (state: KeepState, error: unknown) => void
  onLost: (loss: Loss) => void
  /** Now, in ms since 1970. */
  now: () => number
  /** How long after a failure it is tried again; each time twice as long, up to `LONGEST_RETRY_MS`. */
  firstRetryMs?: number
}

/** Writes what happens to one open rig in one tab. */
export interface Keeper {
  /**
   * Keep the changes of a rig from now on, which stands on the shelf at a position.
   *
   * @param before Where this tab could not yet be made the one that writes: who that was, which is made good with the first
   * write.
   */
  start: (id: string, position: number, before?: { owner: string | null }) => void
  /** Keep nothing more. What is not written is dropped. */
  stop: () => void
  /** Something has changed; `whole` is the rig after it. */
  add: (change: Change, whole: Whole) => void
  /** The shelf may have lost what it had: write all of it, if it is known. */
  rewrite: (whole: Whole) => void
  /** Is everything that was added kept? */
  isKept: () => boolean
  /** When all that was added is written, or writing has failed. */
  settled: () => Promise<void>
}

/** A write that takes longer counts as failed: a database that was cleared may never answer. */
const LONGEST_WRITE_MS = 8000
const FIRST_RETRY_MS = 500
const LONGEST_RETRY_MS = 10_000

class SlowError extends Error {
  override name = 'SlowError'
}

async function inTime<T>(work: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new SlowError('The browser does not answer.')), LONGEST_WRITE_MS)
  })
  try {
    return await Promise.race([work, late])
  } finally {
    clearTimeout(timer)
  }
}

/**
 * A keeper. What is added while it writes is written in one go afterwards. Once a write has failed nothing is added to what
 * stands on the shelf: the rig is written whole as soon as that works, and only then counts as kept.
 */
export function createKeeper({
  database,
  owner,
  whenFree,
  onState,
  onLost,
  now,
  firstRetryMs = FIRST_RETRY_MS,
}: KeeperOptions): Keeper {
  let target: string | null = null
  let position = 0
  let unclaimed: { owner: string | null } | null = null
  let queue: Change[] = []
  let latest: Whole | null = null
  /** How often the whole was asked for, and which of it has been written. */
  let wholesAsked = 0
  let wholesWritten = 0
  let running: Promise<void> | null = null
  let retry: ReturnType<typeof setTimeout> | undefined
  let retryMs = firstRetryMs
  /** What was begun for a rig that is no longer open ends in nothing. */
  let turn = 0

  const isWholeDue = (): boolean => wholesWritten < wholesAsked
  const isKept = (): boolean => queue.length === 0 && !isWholeDue() && running === null

  function stop(): void {
    turn++
    target = null
    unclaimed = null
    queue = []
    latest = null
    wholesWritten = wholesAsked
    running = null
    clearTimeout(retry)
    retryMs = firstRetryMs
  }

  async function writeOnce(id: string, at: number): Promise<void> {
    await whenFree()
    if (turn !== at || !latest) return
    const changes = queue
    const whole = latest
    const isWhole = isWholeDue()
    const asked = wholesAsked
    queue = []
    try {
      if (unclaimed) await inTime(claimOwnership(database(), id, owner, unclaimed.owner))
      if (turn !== at) return
      unclaimed = null
      const written = await inTime(
        isWhole
          ? writeWhole(database(), id, owner, whole, now())
          : writeChanges(database(), id, owner, position, changes, whole.rig),
      )
      if (turn !== at) return
      position = written
      if (isWhole) wholesWritten = asked
      retryMs = firstRetryMs
    } catch (error) {
      if (turn === at && !isWhole) wholesAsked++
      throw error
    }
  }

  function run(): void {
    const id = target
    const at = turn
    if (id === null || running !== null) return
    clearTimeout(retry)
    const own = writeOnce(id, at).then(
      () => {
        if (turn !== at) return
        running = null
        if (queue.length > 0 || isWholeDue()) run()
        else onState('kept', null)
      },
      (error: unknown) => {
        if (turn !== at) return
        running = null
        if (error instanceof NotOwnerError) onLost('taken-over')
        else if (error instanceof NotThereError && error.isInBin) onLost('deleted')
        else {
          onState('failing', error)
          retry = setTimeout(run, retryMs)
          retryMs = Math.min(LONGEST_RETRY_MS, retryMs * 2)
        }
      },
    )
    running = own
    onState(isWholeDue() ? 'failing' : 'writing', null)
  }

  return {
    start: (id, from, before) => {
      stop()
      target = id
      position = from
      unclaimed = before ?? null
      onState('kept', null)
    },
    stop,
    add: (change, whole) => {
      if (target === null) return
      latest = whole
      queue.push(change)
      run()
    },
    rewrite: (whole) => {
      if (target === null) return
      latest = whole
      wholesAsked++
      run()
    },
    isKept,
    settled: async () => {
      while (running !== null) await running
    },
  }
}
