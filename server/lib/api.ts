import {
  defineEventHandler,
  getRequestHeader,
  setResponseHeader,
  setResponseStatus,
  type EventHandler,
  type H3Event,
} from 'h3'
import * as z from 'zod/mini'
import { toJson } from '#core/midi'
import { FILE_LIMITS, parseRig, problemsOf, readJson, readRig, type Problem, type Rig } from '#core/rig'

/** A refusal that the caller can understand: an HTTP status, a sentence, and the path of what is wrong. */
export class ApiError extends Error {
  override name = 'ApiError'
  constructor(
    readonly status: number,
    message: string,
    readonly path: string | null = null,
    readonly problems: readonly Problem[] = [],
  ) {
    super(message)
  }
}

export interface ErrorBody {
  error: { message: string; path: string | null; problems?: readonly Problem[] }
}

function answerError(event: H3Event, error: unknown): ErrorBody {
  setResponseHeader(event, 'cache-control', 'no-store')
  if (error instanceof ApiError) {
    setResponseStatus(event, error.status)
    const { message, path, problems } = error
    return { error: { message, path, ...(problems.length > 1 ? { problems } : {}) } }
  }
  console.error(error)
  setResponseStatus(event, 500)
  return { error: { message: 'The server failed on this request. It has been logged.', path: null } }
}

/**
 * A route that answers JSON, addresses as tags. What it throws is answered: an ApiError with its status, anything else as
 * 500, as JSON `{ error: { message, path } }`.
 */
export const defineApi = <T>(handle: (event: H3Event) => T | Promise<T>): EventHandler =>
  defineEventHandler(async (event) => {
    try {
      const answer = await handle(event)
      setResponseHeader(event, 'content-type', 'application/json')
      return toJson(answer)
    } catch (error) {
      return answerError(event, error)
    }
  })

const tooLarge = (): ApiError =>
  new ApiError(413, `The body is larger than ${FILE_LIMITS.bytes / 1024 / 1024} MB.`, '(body)')

/** The request's body as text; stops reading as soon as it grows past the limit. */
async function readBody(event: H3Event, limitBytes: number): Promise<string> {
  const announced = Number(getRequestHeader(event, 'content-length') ?? 0)
  if (announced > limitBytes) throw tooLarge()
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size > limitBytes) throw tooLarge()
    chunks.push(chunk)
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks))
  } catch {
    throw new ApiError(400, 'The body is not text in UTF-8.', '(body)')
  }
}

/** The text of a request's JSON body. */
async function readText(event: H3Event): Promise<string> {
  const type = getRequestHeader(event, 'content-type') ?? ''
  if (type !== '' && !/^application\/(\w+\+)?json\b/i.test(type)) {
    throw new ApiError(415, 'Send the rig as JSON, with content-type application/json.', '(body)')
  }
  return readBody(event, FILE_LIMITS.bytes)
}

function refused(problems: readonly Problem[], status: number): ApiError {
  const [first] = problems
  return new ApiError(status, first?.message ?? 'This is not valid.', first?.path ?? null, problems)
}

/** The rig in a request's JSON body, validated; refused with the path of the first thing wrong. */
export async function readRigBody(event: H3Event): Promise<Rig> {
  const result = readRig(await readText(event))
  if (result.ok) return result.rig
  throw refused(result.problems, result.of === 'text' ? 400 : 422)
}

/** A body `{ "rig": …, "request": … }`: the rig, and the request by its schema. Paths start with `rig` or `request`. */
export async function readRigAndRequest<T>(
  event: H3Event,
  request: z.ZodMiniType<T>,
): Promise<{ rig: Rig; request: T }> {
  const read = readJson(await readText(event))
  if (!read.ok) throw refused([read.problem], 400)
  const body = z.strictObject({ rig: z.unknown(), request }).safeParse(read.value, { reportInput: true })
  if (!body.success) throw refused(problemsOf(body.error), 422)
  const parsed = parseRig(body.data.rig)
  if (parsed.ok) return { rig: parsed.rig, request: body.data.request }
  const within = (path: string): string => (path.startsWith('(') ? 'rig' : `rig.${path}`)
  throw refused(
    parsed.problems.map(({ path, message }) => ({ path: within(path), message })),
    422,
  )
}

/** Refuse what is valid by itself but cannot be done. */
export const refuse = (problems: readonly Problem[]): ApiError => refused(problems, 422)
