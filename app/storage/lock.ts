/** The right of one tab to write to a rig. */
export interface RigLock {
  /** Called once if another tab takes over. */
  onLost: (listener: () => void) => void
  release: () => void
}

/** A place in the queue for the right to write. */
export interface Turn {
  /** Given when the tab that holds the right lets go; never, if the place is given up before. */
  granted: Promise<RigLock>
  giveUp: () => void
}

const lockName = (id: string): string => `deft-lattice/rig/${id}`

/** Ask the browser (Web Locks API) and hold what it gives. It lets go by itself when a tab dies. */
function request(id: string, options: LockOptions): Promise<RigLock> {
  return new Promise((resolve, reject) => {
    const listeners: Array<() => void> = []
    let held = false
    navigator.locks
      .request(lockName(id), options, () => {
        held = true
        return new Promise<void>((release) => {
          resolve({ onLost: (listener) => listeners.push(listener), release })
        })
      })
      .catch((error: unknown) => {
        if (held) listeners.forEach((listener) => listener())
        else reject(error)
      })
  })
}

/** Take the right to write to a rig from whichever tab holds it, which is told. */
export const takeRig = (id: string): Promise<RigLock> => request(id, { steal: true })

/** Queue for the right to write to a rig. */
export function awaitRig(id: string): Turn {
  const giving = new AbortController()
  const granted = request(id, { signal: giving.signal }).catch((error: unknown) => {
    if (giving.signal.aborted) return new Promise<never>(() => {})
    throw error
  })
  return {
    granted,
    giveUp: () => {
      giving.abort()
      void granted.then(({ release }) => release())
    },
  }
}

/** Does any tab hold the right to write to a rig now? */
export async function isRigHeld(id: string): Promise<boolean> {
  const { held } = await navigator.locks.query()
  return held?.some(({ name }) => name === lockName(id)) === true
}

/** What a tab that holds a rig is asked for. */
export type Wish = 'take-over' | 'delete'

type Said = { kind: 'asks'; id: string; wish: Wish } | { kind: 'heard' | 'ready'; id: string }

/** A tab that does not even hear within this time counts as hung. */
const HEARING_MS = 4000
/** So long a tab that has heard may take to keep its last edits. */
const KEEPING_MS = 20_000

const channel = (): BroadcastChannel => new BroadcastChannel('deft-lattice/rigs')

/**
 * Ask whichever tab holds a rig to keep its last edits and to make no more. Resolves when it has, or when nobody answers
 * in time.
 */
export async function askOthers(
  id: string,
  wish: Wish,
  hearingMs = HEARING_MS,
  keepingMs = KEEPING_MS,
): Promise<void> {
  const talk = channel()
  await new Promise<void>((resolve) => {
    let timer = setTimeout(resolve, hearingMs)
    talk.addEventListener('message', ({ data }: MessageEvent<Said>) => {
      if (data.kind === 'asks' || data.id !== id) return
      clearTimeout(timer)
      if (data.kind === 'ready') resolve()
      else timer = setTimeout(resolve, keepingMs)
    })
    talk.postMessage({ kind: 'asks', id, wish } satisfies Said)
  })
  talk.close()
}

/** As `askOthers`, at once where nobody holds the rig. */
export async function askHolder(id: string, wish: Wish): Promise<void> {
  if (await isRigHeld(id)) await askOthers(id, wish)
}

/**
 * Answer other tabs that ask for a rig. Gives how to answer no more.
 *
 * @param yields Null where this tab does not hold the rig: then another answers. Else done when it has kept its last edits.
 */
export function answerTabs(yields: (id: string, wish: Wish) => Promise<void> | null): () => void {
  const talk = channel()
  talk.addEventListener('message', ({ data }: MessageEvent<Said>) => {
    if (data.kind !== 'asks') return
    const { id } = data
    const done = yields(id, data.wish)
    if (!done) return
    talk.postMessage({ kind: 'heard', id } satisfies Said)
    void done.then(() => talk.postMessage({ kind: 'ready', id } satisfies Said))
  })
  return () => talk.close()
}
