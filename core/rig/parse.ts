import { parse, type ParseError } from 'jsonc-parser'
import { toJson } from '../midi'
import { readWithin, type OnRead } from './bounded'
import { migrate } from './migrations'
import type { Problem } from './problems'
import { referenceProblems } from './references'
import { RIG_FORMAT, RIG_VERSION, RigSchema } from './schema'
import type { Rig } from './types'

/** A rig, or why there is none: the text is no JSON, or what it holds is no valid rig. */
export type ParseResult = { ok: true; rig: Rig } | { ok: false; of: 'text' | 'content'; problems: Problem[] }

/** Bounds on a file as a whole. */
export const FILE_LIMITS = {
  bytes: 128 * 1024 * 1024,
  depth: 40,
  /** In one list or table. */
  entries: 250_000,
  assignments: 250_000,
} as const

const refuse = (message: string, path = '(file)'): ParseResult => ({
  ok: false,
  of: 'content',
  problems: [{ path, message }],
})

/** What makes a JSON text more than any rig is, and where; found without parsing it, which could take long. */
function excess(text: string): { message: string; offset: number } | null {
  /** The commas so far of each list or table that is open. */
  const commas: number[] = []
  let inString = false
  for (let index = 0; index < text.length; index++) {
    const code = text.charCodeAt(index)
    if (inString) {
      if (code === 0x5c) index++
      else if (code === 0x22) inString = false
    } else if (code === 0x22) inString = true
    else if (code === 0x7b || code === 0x5b) {
      if (commas.push(0) > FILE_LIMITS.depth)
        return {
          message: `The brackets nest deeper than ${FILE_LIMITS.depth}; a rig never does.`,
          offset: index,
        }
    } else if (code === 0x7d || code === 0x5d) commas.pop()
    else if (code === 0x2c && commas.length > 0) {
      const count = (commas.at(-1) ?? 0) + 1
      if (count >= FILE_LIMITS.entries)
        return {
          message: `This list has more than ${FILE_LIMITS.entries} entries; in a rig none has.`,
          offset: index,
        }
      commas[commas.length - 1] = count
    }
  }
  return null
}

/** A place in a text in words. */
const placeOf = (text: string, offset: number): string => {
  const before = text.slice(0, offset)
  return `line ${before.split('\n').length}, column ${offset - before.lastIndexOf('\n')}`
}

/** Where the first fault of a JSON text lies, as line and column. */
function faultPlace(text: string): string {
  const faults: ParseError[] = []
  parse(text, faults, { disallowComments: true })
  return placeOf(text, Math.min(faults[0]?.offset ?? text.length, text.length))
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

function countAssignments(rig: Rig): number {
  let count = 0
  for (const controller of rig.controllers) {
    for (const template of controller.templates) {
      count += Object.keys(template.base).length
      for (const stack of template.stacks) {
        for (const layer of stack.layers) count += Object.keys(layer.assignments).length
      }
    }
  }
  return count
}

/**
 * Validate a value as a rig: format, version (older ones are migrated), every field, every
 * reference. Gives the rig with defaults filled in, or where and why it was refused. `onRead` is told how far it is.
 */
export function parseRig(value: unknown, onRead: OnRead | null = null): ParseResult {
  if (!isObject(value) || value.format !== RIG_FORMAT) {
    return refuse(
      `This is not a Deft Lattice rig: it should be an object with "format": "${RIG_FORMAT}".`,
      isObject(value) ? 'format' : '(rig)',
    )
  }
  const { version } = value
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return refuse('must be a whole number from 1 up', 'version')
  }
  if (version > RIG_VERSION) {
    return refuse(
      `This rig was written by a newer Deft Lattice (format version ${version}; this one reads up to ${RIG_VERSION}). Open it with a newer version.`,
      'version',
    )
  }
  const parsed = readWithin(RigSchema, migrate(value), FILE_LIMITS.assignments, onRead)
  if (!parsed.ok) return { ok: false, of: 'content', problems: parsed.problems }
  const count = countAssignments(parsed.value)
  if (count > FILE_LIMITS.assignments) {
    return refuse(`holds ${count} assignments; ${FILE_LIMITS.assignments} at most`, 'controllers')
  }
  const problems = referenceProblems(parsed.value)
  return problems.length > 0 ? { ok: false, of: 'content', problems } : { ok: true, rig: parsed.value }
}

/** A value from JSON text, or where and why the text is refused: empty, too deep, too long a list, or no JSON. */
export function readJson(text: string): { ok: true; value: unknown } | { ok: false; problem: Problem } {
  const refused = (message: string, path = '(file)') => ({ ok: false, problem: { path, message } }) as const
  if (text.trim() === '') return refused('The file is empty.')
  const found = excess(text)
  if (found) return refused(found.message, placeOf(text, found.offset))
  try {
    return { ok: true, value: JSON.parse(text) as unknown }
  } catch {
    return refused('This is not JSON: something is missing or out of place here.', faultPlace(text))
  }
}

/** Read a rig from JSON text. As `parseRig`, with the line of a syntax error. */
export function readRig(text: string, onRead: OnRead | null = null): ParseResult {
  const read = readJson(text)
  return read.ok ? parseRig(read.value, onRead) : { ok: false, of: 'text', problems: [read.problem] }
}

/** Write a rig as JSON text that `readRig` reads back the same; addresses as tags. */
export const writeRig = (rig: Rig): string => `${toJson(rig, 2)}\n`

/** A rig with nothing in it but a name. */
export const emptyRig = (name: string): Rig =>
  RigSchema.parse({ format: RIG_FORMAT, version: RIG_VERSION, name })
