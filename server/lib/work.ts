import { allocate, problemsOf } from '#core/allocate'
import { AllocateRequest } from '#core/allocate/request'
import { rehearse } from '#core/bench/rehearsal'
import { traced, traceProblems, TraceRequest } from '#core/bench/trace/request'
import { check } from '#core/conflicts'
import { toJson } from '#core/midi'
import { perform } from '#core/rig'
import { programsWhenNeeded } from '../../shared/programs'
import { ApiError, refusalBody, refused } from './refusal'
import { rigAndRequestIn, rigIn } from './rig-body'
import { sheetFile } from './sheet-file'

/** What is worked out beside the server, in a thread of its own: reading what was sent belongs to it. */
export interface Job {
  kind: 'check' | 'allocate' | 'trace' | 'sheet' | 'rehearse'
  body: Uint8Array
  /** What is asked in the address, by name. */
  asked: Readonly<Record<string, string>>
  /** In ms since the epoch: after it the best plan so far is good enough. */
  deadline: number
}

/** What is to be answered: a status, and JSON or a file. */
export type Answer =
  | { kind: 'json'; status: number; json: string }
  | { kind: 'file'; status: number; bytes: Uint8Array; mediaType: string }

function checked({ body }: Job): unknown {
  const { findings, fixesOf } = check(rigIn(body))
  return { findings: findings.map((finding) => ({ ...finding, fixes: fixesOf(finding.id) })) }
}

function followed({ body }: Job): unknown {
  const { rig, request } = rigAndRequestIn(body, TraceRequest)
  const problems = traceProblems(rig, request)
  if (problems.length > 0) throw refused(problems, 422)
  return { traces: traced(rig, request) }
}

/** Rehearse a rig, as far as time allows: a report that is not whole would be none. */
function rehearsed({ body, deadline }: Job): unknown {
  const report = rehearse(rigIn(body), {}, () => Date.now() > deadline)
  if (!report)
    throw new ApiError(
      503,
      'The rehearsal takes longer than the server has time for. Put controllers away, or rehearse it in the application.',
    )
  return report
}

/** Loaded once a thread, when it first plans. */
const loadPrograms = programsWhenNeeded()

async function allocated({ body, deadline }: Job): Promise<unknown> {
  const { rig, request } = rigAndRequestIn(body, AllocateRequest)
  const problems = problemsOf(rig, request)
  if (problems.length > 0) throw refused(problems, 422)
  const isLate = (): boolean => Date.now() > deadline
  const programs = await loadPrograms()
  const plan = allocate(check(rig), request, (given, edits) => perform(given, 'plan', edits).rig, {
    programs,
    onProgress: isLate,
  })
  return { ...plan, ended: isLate() ? 'time' : null }
}

const inJson =
  (work: (job: Job) => unknown) =>
  async (job: Job): Promise<Answer> => ({ kind: 'json', status: 200, json: toJson(await work(job)) })

const JOBS: Readonly<Record<Job['kind'], (job: Job) => Promise<Answer>>> = {
  check: inJson(checked),
  allocate: inJson(allocated),
  trace: inJson(followed),
  rehearse: inJson(rehearsed),
  sheet: async ({ body, asked }) => ({ kind: 'file', status: 200, ...(await sheetFile(rigIn(body), asked)) }),
}

/** Do a job. What is wrong with what was sent is an answer too; anything else that is thrown is a fault of ours. */
export default async function work(job: Job): Promise<Answer> {
  try {
    return await JOBS[job.kind](job)
  } catch (error) {
    if (error instanceof ApiError)
      return { kind: 'json', status: error.status, json: JSON.stringify(refusalBody(error)) }
    throw error
  }
}
