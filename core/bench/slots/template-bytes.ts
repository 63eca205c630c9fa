import type { Id, Template } from '../../rig'
import { problemsOf, readJson } from '../../rig'
import { Template as TemplateSchema } from '../../rig/schema'
import { packed, unpacked } from './packed'

/** So many bytes of a template go in one message, before they are packed. */
const PIECE_BYTES = 210

/** A template as it is sent: which kind of controller it is for, and what it is. */
interface Sent {
  model: Id
  template: Template
}

/** A template as pieces, each packed as seven bits; at least one. */
export function piecesOf(model: Id, template: Template): number[][] {
  const sent: Sent = { model, template }
  const bytes = new TextEncoder().encode(JSON.stringify(sent))
  const count = Math.max(1, Math.ceil(bytes.length / PIECE_BYTES))
  return Array.from({ length: count }, (_, index) =>
    packed(bytes.subarray(index * PIECE_BYTES, (index + 1) * PIECE_BYTES)),
  )
}

export type TemplateRead =
  { ok: true; template: Template } | { ok: false; isOtherModel: boolean; why: string }

/** The template in some pieces, which must be of a kind of controller. */
export function templateIn(pieces: ReadonlyArray<readonly number[]>, model: Id): TemplateRead {
  const bytes = pieces.flatMap((piece) => [...unpacked(piece)])
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(new Uint8Array(bytes))
  } catch {
    return { ok: false, isOtherModel: false, why: 'What came is no text.' }
  }
  const read = readJson(text)
  if (!read.ok)
    return { ok: false, isOtherModel: false, why: `What came is no template: ${read.problem.message}` }
  const { value } = read
  const fields =
    typeof value === 'object' && value !== null ? (value as Partial<Record<keyof Sent, unknown>>) : {}
  if (fields.model !== model)
    return { ok: false, isOtherModel: true, why: 'What came is for another kind of controller.' }
  const parsed = TemplateSchema.safeParse(fields.template, { reportInput: true })
  if (parsed.success) return { ok: true, template: parsed.data }
  const [problem] = problemsOf(parsed.error)
  return {
    ok: false,
    isOtherModel: false,
    why: `What came is no template: ${problem?.path ?? ''} ${problem?.message ?? ''}`,
  }
}
