import { toJson } from '../../midi'
import { parseRig, readJson, type ParseResult } from '../parse'
import type { Rig } from '../types'
import { PART_WORDS, type Part, type PartRef } from './cut'

export const PART_FORMAT = 'deft-lattice/part'
/** The version of what is around the rig of a part; the rig has its own. */
export const PART_VERSION = 1

/** A part, or where and why it was refused. */
export type PartResult = { ok: true; part: Part } | Extract<ParseResult, { ok: false }>

/** Write a part as JSON text that `readPart` reads back the same. */
export const writePart = ({ kind, rig }: Part): string =>
  `${toJson({ format: PART_FORMAT, version: PART_VERSION, kind, rig }, 2)}\n`

const refuse = (path: string, message: string): PartResult => ({
  ok: false,
  of: 'content',
  problems: [{ path, message }],
})

const isKind = (value: unknown): value is PartRef['kind'] =>
  typeof value === 'string' && Object.hasOwn(PART_WORDS, value)

/** What a part of a kind holds, and how often; everything else must be empty. */
const HOLDS: Readonly<Record<PartRef['kind'], ReadonlyArray<keyof Rig>>> = {
  controller: ['models', 'controllers', 'lightRoles', 'choices', 'accords', 'houseRules', 'recipes'],
  destination: ['destinations'],
  'light-roles': ['lightRoles'],
  'house-rules': ['houseRules'],
}

function contentProblem(kind: PartRef['kind'], rig: Rig): PartResult | null {
  for (const [field, value] of Object.entries(rig)) {
    const isEmpty = Array.isArray(value) ? value.length === 0 : typeof value !== 'object' || value === null
    if (!isEmpty && !HOLDS[kind].includes(field as keyof Rig))
      return refuse(`rig.${field}`, `is not a thing of ${PART_WORDS[kind]}; leave it out`)
  }
  const [controllers, destinations] = [rig.controllers.length, rig.destinations.length]
  if (kind === 'controller' && controllers !== 1) return refuse('rig.controllers', 'must hold one controller')
  if (kind === 'destination' && destinations !== 1)
    return refuse('rig.destinations', 'must hold one destination')
  return null
}

/** Validate a value as a part: its own format, its kind, and the rig within as any rig. */
export function parsePart(value: unknown): PartResult {
  if (typeof value !== 'object' || value === null || !('format' in value) || value.format !== PART_FORMAT)
    return refuse('format', `This is not a part: it should be an object with "format": "${PART_FORMAT}".`)
  const { version, kind, rig, ...rest } = value as {
    version?: unknown
    kind?: unknown
    rig?: unknown
    format?: unknown
  }
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return refuse('version', 'must be a whole number from 1 up')
  if (version > PART_VERSION)
    return refuse('version', 'This part was written by a newer Deft Lattice. Open it with a newer version.')
  if (!isKind(kind)) return refuse('kind', `must be one of ${Object.keys(PART_WORDS).join(', ')}`)
  const [unknown] = Object.keys(rest).filter((key) => key !== 'format')
  if (unknown !== undefined) return refuse(unknown, 'is not a field of a part')
  const parsed = parseRig(rig)
  if (!parsed.ok)
    return { ...parsed, problems: parsed.problems.map((each) => ({ ...each, path: `rig.${each.path}` })) }
  return contentProblem(kind, parsed.rig) ?? { ok: true, part: { kind, rig: parsed.rig } }
}

/** Read a part from JSON text. As `parsePart`, with the line of a syntax error. */
export function readPart(text: string): PartResult {
  const read = readJson(text)
  return read.ok ? parsePart(read.value) : { ok: false, of: 'text', problems: [read.problem] }
}
