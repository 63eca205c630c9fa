import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { Tinypool } from 'tinypool'
import { defineEventHandler, setResponseHeader, setResponseStatus, type EventHandler, type H3Event } from 'h3'
import code, { files } from '#work-code'
import { answerError, ApiError, readBody } from './api'
import type { Answer, Job } from './work'

/** Jobs at once, and jobs that wait. More are told to come again. */
const THREADS = Math.max(1, Math.min(2, availableParallelism() - 1))
const MOST_WAITING = 4
const COME_AGAIN_SECONDS = 5
/** A job may take so much memory and time; a plan ends by itself before that, with the best so far. */
const MOST_MEMORY_MB = 1024
const PLAN_MS = 30_000
const MOST_MS = 60_000
const IDLE_MS = 30_000

let pool: Tinypool | null = null

/** The threads, started when they are first needed. A thread loads files: these are written where only we can. */
function threads(): Tinypool {
  if (pool) return pool
  const folder = mkdtempSync(join(tmpdir(), 'deft-lattice-'))
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }))
  const filename = join(folder, 'work.mjs')
  writeFileSync(filename, Buffer.from(code, 'base64'), { mode: 0o600 })
  for (const [name, bytes] of Object.entries(files))
    writeFileSync(join(folder, name), Buffer.from(bytes, 'base64'), { mode: 0o600 })
  pool = new Tinypool({
    filename,
    minThreads: 0,
    maxThreads: THREADS,
    maxQueue: MOST_WAITING,
    idleTimeout: IDLE_MS,
    concurrentTasksPerWorker: 1,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
  })
  return pool
}

const isBusy = (error: unknown): boolean => error instanceof Error && /queue/i.test(error.message)
const isOutOfMemory = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY'

/**
 * Answer a request with a job that is done beside the server, so that other requests are answered meanwhile. What is asked
 * beside the body is given by `askedOf`. Refused with
 * 503 where the server has enough to do, or where the job takes too much memory or time; ended where the caller goes away.
 */
export const defineJob = (
  kind: Job['kind'],
  askedOf: (event: H3Event) => Job['asked'] = () => ({}),
): EventHandler =>
  defineEventHandler(async (event) => {
    try {
      const body = await readBody(event)
      const asked = askedOf(event)
      const answer = await workedOut(event, { kind, body, asked, deadline: Date.now() + PLAN_MS })
      setResponseStatus(event, answer.status)
      if (answer.status !== 200) setResponseHeader(event, 'cache-control', 'no-store')
      if (answer.kind === 'file') {
        setResponseHeader(event, 'content-type', answer.mediaType)
        setResponseHeader(event, 'content-disposition', 'attachment')
        return Buffer.from(answer.bytes)
      }
      setResponseHeader(event, 'content-type', 'application/json')
      return answer.json
    } catch (error) {
      return answerError(event, error)
    }
  })

async function workedOut(event: H3Event, job: Job): Promise<Answer> {
  const ended = new AbortController()
  let isLate = false
  const timer = setTimeout(() => {
    isLate = true
    ended.abort()
  }, MOST_MS)
  const gone = (): void => ended.abort()
  event.node.res.once('close', gone)
  try {
    return (await threads().run(job, { signal: ended.signal })) as Answer
  } catch (error) {
    if (isBusy(error)) {
      setResponseHeader(event, 'retry-after', COME_AGAIN_SECONDS)
      throw new ApiError(503, `The server has enough to do. Come again in ${COME_AGAIN_SECONDS} seconds.`)
    }
    if (isOutOfMemory(error))
      throw new ApiError(
        503,
        `This would take more than ${MOST_MEMORY_MB} MB. Ask for a part of the rig: name controllers or gestures.`,
      )
    if (isLate)
      throw new ApiError(
        503,
        `This took longer than ${MOST_MS / 1000} seconds. Ask for a part of the rig, or for fewer steps.`,
      )
    if (ended.signal.aborted) throw new ApiError(499, 'The caller went away, and the work was ended.')
    throw error
  } finally {
    clearTimeout(timer)
    event.node.res.off('close', gone)
  }
}
