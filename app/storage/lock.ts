/** The right of one tab to write to a rig. */
export interface RigLock {
  /** Called once if another tab takes over. */
  onLost: (listener: () => void) => void
  release: () => void
}

const lockName = (id: string): string => `deft-lattice/rig/${id}`

/**
 * Ask for the right to write to a rig (Web Locks API). Gives null if another tab holds it; with
 * `takeOver` it is taken from that tab, which is told. The browser lets go by itself when a tab dies.
 */
export function lockRig(id: string, takeOver: boolean): Promise<RigLock | null> {
  return new Promise((resolve, reject) => {
    const listeners: Array<() => void> = []
    let held = false
    const hold = (lock: Lock | null): Promise<void> | undefined => {
      if (!lock) {
        resolve(null)
        return undefined
      }
      held = true
      return new Promise<void>((release) => {
        resolve({ onLost: (listener) => listeners.push(listener), release })
      })
    }
    navigator.locks
      .request(lockName(id), takeOver ? { steal: true } : { ifAvailable: true }, hold)
      .catch((error: unknown) => {
        if (held) listeners.forEach((listener) => listener())
        else reject(error)
      })
  })
}
