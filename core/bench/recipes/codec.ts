import { packed, sumToZero, unpacked } from '../slots/packed'
import type { Part, PlacePart, PlainPart, ReadRecipe } from './notation'
import type { RecipeRow } from './rows'

/** Where a template is stored: in which slot of which hardware. */
export interface Where {
  slot: number
  device: number
}

/** Messages that were written, with F0 and F7; or why they cannot be. */
export type Written = { ok: true; messages: number[][] } | { ok: false; why: string }

/** What was read of messages; or which message, and which byte of it (from 1, F0 the first), is not as the recipe says. */
export type RecipeRead =
  | { ok: true; where: Partial<Where>; rows: Array<Partial<RecipeRow>> }
  | { ok: false; message: number; byte: number; why: string }

const START = 0xf0
const END = 0xf7
const SPACE = 0x20
const SEVEN_BITS = 7
const FOUR_BITS = 4
/** How much each size holds. */
const MOST = { byte: 0x7f, halves: 0x3fff, nibbles: 0xff } as const
const BYTES = { byte: 1, halves: 2, nibbles: 2 } as const
/** Inside what is packed a byte has eight bits. */
const MOST_PACKED = 0xff

class Unwritable extends Error {}

const wordTables = { kind: 'kinds', behaviour: 'behaviours' } as const

function valueFor(recipe: ReadRecipe, { place }: PlacePart, row: RecipeRow | null, where: Where): number {
  if (place === 'slot' || place === 'device') return where[place]
  if (!row) throw new Unwritable(`{${place}} is of a control: it stands outside the run for each control.`)
  if (place === 'kind' || place === 'behaviour') {
    const word = row[place]
    const found = recipe[wordTables[place]].find((each) => each.word === word)
    if (!found)
      throw new Unwritable(
        `The table has no ${place} “${word}”, which ${row.name} has: add it with the number that the manual gives.`,
      )
    return found.byte
  }
  return place === 'name' ? 0 : row[place]
}

function bytesFor(
  recipe: ReadRecipe,
  part: PlacePart,
  row: RecipeRow | null,
  where: Where,
  isPacked: boolean,
): number[] {
  if (part.place === 'name') {
    const letters = [...(row?.name ?? '')].map((letter) => letter.codePointAt(0) ?? SPACE)
    // Names travel as ASCII: any other letter becomes a question mark.
    const ascii = letters.map((code) => (code < SPACE || code > 0x7e ? 0x3f : code))
    return Array.from({ length: part.letters }, (_, at) => ascii[at] ?? SPACE)
  }
  const value = valueFor(recipe, part, row, where) + part.offset
  const most = part.size === 'byte' && isPacked ? MOST_PACKED : MOST[part.size]
  if (value < 0 || value > most)
    throw new Unwritable(
      `{${part.place}} would be ${value}${row ? ` for ${row.name}` : ''}, and has room for 0 to ${most}.`,
    )
  switch (part.size) {
    case 'byte':
      return [value]
    case 'halves':
      return [value >> SEVEN_BITS, value & 0x7f]
    case 'nibbles':
      return [value >> FOUR_BITS, value & 0x0f]
  }
}

/** A checksum of some bytes, of seven bits. */
function checksum(of: 'sum' | 'negated' | 'xor', bytes: readonly number[]): number {
  switch (of) {
    case 'sum':
      return bytes.reduce((sum, byte) => sum + byte, 0) & 0x7f
    case 'negated':
      return sumToZero(bytes)
    case 'xor':
      return bytes.reduce((all, byte) => all ^ byte, 0) & 0x7f
  }
}

const plainBytes = (
  recipe: ReadRecipe,
  parts: readonly PlainPart[],
  row: RecipeRow | null,
  where: Where,
  isPacked: boolean,
): number[] =>
  parts.flatMap((part) => (part.kind === 'byte' ? [part.byte] : bytesFor(recipe, part, row, where, isPacked)))

function messageFor(
  recipe: ReadRecipe,
  rows: readonly RecipeRow[],
  own: RecipeRow | null,
  where: Where,
): number[] {
  const bytes: number[] = [START]
  for (const part of recipe.parts)
    switch (part.kind) {
      case 'byte':
        bytes.push(part.byte)
        break
      case 'place':
        bytes.push(...bytesFor(recipe, part, own, where, false))
        break
      case 'checksum':
        bytes.push(checksum(part.of, bytes.slice(part.from)))
        break
      case 'each': {
        const inside = rows.flatMap((row) => plainBytes(recipe, part.parts, row, where, part.isPacked))
        bytes.push(...(part.isPacked ? packed(new Uint8Array(inside)) : inside))
      }
    }
  return [...bytes, END]
}

const hasRun = ({ parts }: ReadRecipe): boolean => parts.some(({ kind }) => kind === 'each')

/** The messages by which hardware takes a template: one for all controls where the recipe has a run for each, else one a control. */
export function writeRecipe(recipe: ReadRecipe, rows: readonly RecipeRow[], where: Where): Written {
  try {
    return {
      ok: true,
      messages: hasRun(recipe)
        ? [messageFor(recipe, rows, null, where)]
        : rows.map((row) => messageFor(recipe, rows, row, where)),
    }
  } catch (error) {
    if (error instanceof Unwritable) return { ok: false, why: error.message }
    throw error
  }
}

const sizeOf = (part: PlainPart): number =>
  part.kind === 'byte' ? 1 : part.place === 'name' ? part.letters : BYTES[part.size]

/** Thrown while a message is read, with the byte that is not as it should be. */
class Unreadable extends Error {
  constructor(
    readonly byte: number,
    why: string,
  ) {
    super(why)
  }
}

interface Reading {
  recipe: ReadRecipe
  where: Partial<Where>
}

function take(
  { recipe, where }: Reading,
  part: PlainPart,
  bytes: readonly number[],
  at: number,
  row: Partial<RecipeRow>,
): void {
  const [first = 0, second = 0] = bytes
  if (bytes.length < sizeOf(part)) throw new Unreadable(at, 'The message is cut here.')
  if (part.kind === 'byte') {
    if (first !== part.byte) throw new Unreadable(at, `It is ${first}, and the recipe says ${part.byte}.`)
    return
  }
  if (part.place === 'name') {
    row.name = String.fromCharCode(...bytes).trimEnd()
    return
  }
  const raw =
    part.size === 'byte'
      ? first
      : part.size === 'halves'
        ? (first << SEVEN_BITS) | second
        : (first << FOUR_BITS) | second
  const value = raw - part.offset
  if (part.place === 'slot' || part.place === 'device') {
    const before = where[part.place]
    if (before !== undefined && before !== value)
      throw new Unreadable(at, `It is of ${part.place} ${value}, the rest of ${part.place} ${before}.`)
    where[part.place] = value
    return
  }
  if (part.place === 'kind' || part.place === 'behaviour') {
    const found = recipe[wordTables[part.place]].find((each) => each.byte === value)
    if (!found) throw new Unreadable(at, `The table of the recipe has no ${part.place} ${value}.`)
    row[part.place] = found.word
    return
  }
  row[part.place] = value
}

function takeRun(
  reading: Reading,
  part: Extract<Part, { kind: 'each' }>,
  bytes: readonly number[],
  at: number,
): Array<Partial<RecipeRow>> {
  const inside = part.isPacked ? [...unpacked(bytes)] : bytes
  const length = part.parts.reduce((sum, each) => sum + sizeOf(each), 0)
  if (inside.length % length !== 0)
    throw new Unreadable(
      at,
      `The run for each control has ${inside.length} bytes, which is no multiple of ${length}.`,
    )
  const rows: Array<Partial<RecipeRow>> = []
  for (let begin = 0; begin < inside.length; begin += length) {
    const row: Partial<RecipeRow> = {}
    let from = begin
    for (const each of part.parts) {
      take(reading, each, inside.slice(from, from + sizeOf(each)), at + from, row)
      from += sizeOf(each)
    }
    rows.push(row)
  }
  return rows
}

function readOne(reading: Reading, bytes: readonly number[]): Array<Partial<RecipeRow>> {
  const { parts } = reading.recipe
  if (bytes[0] !== START) throw new Unreadable(1, 'A message begins with F0.')
  if (bytes.at(-1) !== END) throw new Unreadable(bytes.length, 'The message is cut: it has no F7.')
  const own: Partial<RecipeRow> = {}
  let rows: Array<Partial<RecipeRow>> | null = null
  let at = 1
  for (const [index, part] of parts.entries()) {
    if (part.kind === 'each') {
      const after = parts
        .slice(index + 1)
        .reduce((sum, each) => sum + (each.kind === 'each' || each.kind === 'checksum' ? 1 : sizeOf(each)), 0)
      const end = bytes.length - 1 - after
      if (end < at) throw new Unreadable(at + 1, 'The message is cut here.')
      rows = takeRun(reading, part, bytes.slice(at, end), at + 1)
      at = end
    } else if (part.kind === 'checksum') {
      const wanted = checksum(part.of, bytes.slice(part.from, at))
      if (bytes[at] !== wanted)
        throw new Unreadable(
          at + 1,
          `The checksum is ${bytes[at] ?? '–'}, and would be ${wanted}: something was changed or lost.`,
        )
      at++
    } else {
      const size = sizeOf(part)
      take(reading, part, bytes.slice(at, Math.min(at + size, bytes.length - 1)), at + 1, own)
      at += size
    }
  }
  if (at !== bytes.length - 1) throw new Unreadable(at + 1, `The message goes on where the recipe ends.`)
  return rows ?? [own]
}

/** What a recipe makes of messages, each with F0 and F7. Refused whole where one of them is not as the recipe says. */
export function readRecipe(recipe: ReadRecipe, messages: ReadonlyArray<readonly number[]>): RecipeRead {
  const reading: Reading = { recipe, where: {} }
  const rows: Array<Partial<RecipeRow>> = []
  for (const [index, bytes] of messages.entries())
    try {
      rows.push(...readOne(reading, bytes))
    } catch (error) {
      if (error instanceof Unreadable)
        return { ok: false, message: index + 1, byte: error.byte, why: error.message }
      throw error
    }
  return { ok: true, where: reading.where, rows }
}
