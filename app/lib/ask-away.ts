import { releaseProxy, wrap, type Remote } from 'comlink'

/** Ask something of a worker of its own, which is ended afterwards. Rejects with its error, or where it dies. */
export async function askAway<W, T>(worker: Worker, work: (to: Remote<W>) => Promise<T>): Promise<T> {
  const died = new Promise<never>((_, reject) => {
    worker.onerror = (event) => reject(new Error(event.message || 'It could not start. Reload the page.'))
  })
  // Held to the end: a proxy that is collected lets go of its worker.
  const to = wrap<W>(worker)
  try {
    return await Promise.race([work(to), died])
  } finally {
    to[releaseProxy]()
    worker.terminate()
  }
}
