import { writeRecipe, type Where, type Written } from './codec'
import { readParts } from './notation'

/** What is wrong with the message that asks for a template, as sentences; nothing where it is empty. */
export function requestProblems(request: string): string[] {
  if (request.trim() === '') return []
  const read = readParts(request)
  if (!read.ok) return [`Asking, word ${read.word}: ${read.message}`]
  return read.parts.flatMap((part) => {
    if (part.kind === 'each') return ['Asking: it has no run for each control.']
    if (part.kind === 'place' && part.place !== 'slot' && part.place !== 'device')
      return [`Asking: {${part.place}} is of a control; only {slot} and {device} are known then.`]
    return []
  })
}

/** The message that asks hardware for the template in a slot; why it cannot be written. */
export function writeRequest(request: string, where: Where): Written {
  const read = readParts(request)
  if (!read.ok) return { ok: false, why: read.message }
  // Written as for one control, of which it says nothing.
  const nothing = { kinds: [], behaviours: [] }
  return writeRecipe({ ...nothing, parts: [...read.parts, NO_RUN] }, [], where)
}

/** A run for each of no controls: with it there is one message, and nothing more in it. */
const NO_RUN = { kind: 'each', parts: [], isPacked: false } as const
