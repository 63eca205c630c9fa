import * as z from 'zod/mini'
import { parseRig, problemsOf, readJson, readRig, type Rig } from '#core/rig'
import { ApiError, refused } from './refusal'

/** The text of a body. Throws an ApiError where it is none. */
function textOf(body: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body)
  } catch {
    throw new ApiError(400, 'The body is not text in UTF-8.', '(body)')
  }
}

/** The rig in a JSON body, validated. Throws an ApiError with the path of the first thing wrong. */
export function rigIn(body: Uint8Array): Rig {
  const result = readRig(textOf(body))
  if (result.ok) return result.rig
  throw refused(result.problems, result.of === 'text' ? 400 : 422)
}

/**
 * A body `{ "rig": …, "request": … }`: the rig, and the request by its schema. Throws an ApiError with a path that starts
 * with `rig` or `request`.
 */
export function rigAndRequestIn<T>(body: Uint8Array, request: z.ZodMiniType<T>): { rig: Rig; request: T } {
  const read = readJson(textOf(body))
  if (!read.ok) throw refused([read.problem], 400)
  const whole = z.strictObject({ rig: z.unknown(), request }).safeParse(read.value, { reportInput: true })
  if (!whole.success) throw refused(problemsOf(whole.error), 422)
  const parsed = parseRig(whole.data.rig)
  if (parsed.ok) return { rig: parsed.rig, request: whole.data.request }
  const within = (path: string): string => (path.startsWith('(') ? 'rig' : `rig.${path}`)
  throw refused(
    parsed.problems.map(({ path, message }) => ({ path: within(path), message })),
    422,
  )
}
