import { proxy, wrap, type Remote } from 'comlink'
import type { Reader, ReadProgress, Report } from '~/workers/reader'

/** A file that is being read in a worker. */
export interface Reading<T> {
  /** What it gives; null where it was stopped. Rejected with the reader's error, or where the worker died. */
  result: Promise<T | null>
  stop: () => void
}

/** A file that is being read, to be shown: how far it is, and how to stop it. */
export interface IncomingFile {
  name: string
  progress: ReadProgress
  stop: () => void
}

/** Reports come often; the page is told so often at most. */
const REPORT_EVERY_MS = 100

/** Read something in a worker of its own, which is let go afterwards. */
export function readAway<T>(
  work: (reader: Remote<Reader>, report: Report) => Promise<T>,
  report: (progress: ReadProgress) => void,
): Reading<T> {
  const worker = new Worker(new URL('../workers/reader.worker.ts', import.meta.url), { type: 'module' })
  let told = -Infinity
  const tell: Report = (progress) => {
    const now = performance.now()
    if (now - told < REPORT_EVERY_MS) return
    told = now
    report(progress)
  }
  let stop = (): void => {}
  const ended = new Promise<null>((resolve, reject) => {
    stop = () => resolve(null)
    worker.onerror = (event) => reject(new Error(event.message || 'The reader could not start.'))
  })
  const result = Promise.race([work(wrap<Reader>(worker), proxy(tell)), ended]).finally(() =>
    worker.terminate(),
  )
  return { result, stop }
}
