import {
  defineEventHandler,
  getRequestHeader,
  setResponseHeader,
  setResponseStatus,
  type EventHandler,
  type H3Event,
} from 'h3'
import { toJson } from '#core/midi'
import { FILE_LIMITS } from '#core/rig'
import { ApiError, refusalBody, type ErrorBody } from './refusal'

export { ApiError, type ErrorBody }

/** Answer what was thrown: a refusal with its status, anything else as a fault of ours. */
export function answerError(event: H3Event, error: unknown): ErrorBody {
  setResponseHeader(event, 'cache-control', 'no-store')
  if (error instanceof ApiError) {
    setResponseStatus(event, error.status)
    return refusalBody(error)
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

/** The JSON body of a request, as it came; stops reading as soon as it grows past the limit. */
export async function readBody(event: H3Event): Promise<Uint8Array<ArrayBuffer>> {
  // A page of another site can send a body without a type, or as a form, without asking; as JSON it cannot.
  const type = getRequestHeader(event, 'content-type') ?? ''
  if (!/^application\/(\w+\+)?json\b/i.test(type))
    throw new ApiError(415, 'Send the rig as JSON, with content-type application/json.', '(body)')
  const encoding = getRequestHeader(event, 'content-encoding') ?? 'identity'
  if (encoding.trim().toLowerCase() !== 'identity')
    throw new ApiError(415, 'Send the body as it is, not compressed.', '(body)')
  const announced = Number(getRequestHeader(event, 'content-length') ?? 0)
  if (announced > FILE_LIMITS.bytes) throw tooLarge()
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size > FILE_LIMITS.bytes) throw tooLarge()
    chunks.push(chunk)
  }
  const body = new Uint8Array(size)
  let at = 0
  for (const chunk of chunks) {
    body.set(chunk, at)
    at += chunk.length
  }
  return body
}
