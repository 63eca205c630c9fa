/** What a recipe can name of a template, a slot and the hardware. */
export const RECIPE_PLACES = [
  'slot',
  'device',
  'layer',
  'control',
  'kind',
  'channel',
  'number',
  'low',
  'high',
  'behaviour',
  'colour',
  'name',
] as const

/** How a value is written: one byte, two of seven bits with the high one first, or two of four bits. */
const RECIPE_SIZES = ['byte', 'halves', 'nibbles'] as const
const RECIPE_CHECKSUMS = ['sum', 'negated', 'xor'] as const

/** A place for a value. */
export interface PlacePart {
  kind: 'place'
  place: (typeof RECIPE_PLACES)[number]
  size: (typeof RECIPE_SIZES)[number]
  /** Added to the value before it is written. */
  offset: number
  /** Of a name: how many letters, filled up with spaces. */
  letters: number
}
/** A byte that is always the same, or a place. */
export type PlainPart = { kind: 'byte'; byte: number } | PlacePart
/** One part of a message, between F0 and F7. */
export type Part =
  | PlainPart
  /** A checksum of what stands before it, from a byte on, counted from 1 after F0. */
  | { kind: 'checksum'; of: (typeof RECIPE_CHECKSUMS)[number]; from: number }
  /** A run that is written once for each control, plain or with eight bits packed as seven. */
  | { kind: 'each'; parts: readonly PlainPart[]; isPacked: boolean }

/** What the hardware calls words of ours. */
export type Table = ReadonlyArray<{ word: string; byte: number }>

/** A recipe as it was read. */
export interface ReadRecipe {
  parts: readonly Part[]
  kinds: Table
  behaviours: Table
}

/** Parts that were read from text, or what is wrong with it and where: the place of the word, counted from 1. */
export type PartsRead = { ok: true; parts: Part[] } | { ok: false; word: number; message: string }

const START = 'F0'
const END = 'F7'
const PLACE = /^\{([a-z]+)(?::([a-z]+|\d+))?([+-]\d+)?\}$/
const CHECKSUM = /^\{([a-z]+)\s+from\s+(\d+)\}$/

/** The words of a text: what stands in braces is one, square brackets stand alone. */
const wordsOf = (text: string): string[] => text.match(/\{[^}]*\}|\[packed|\[|\]|[^\s[\]{}]+/g) ?? []

function placeIn(word: string): PlacePart | string {
  const found = PLACE.exec(word)
  if (!found) return `“${word}” is no place: write for example {number}, {channel-1} or {name:8}.`
  const [, name = '', how = '', offset = '0'] = found
  const place = RECIPE_PLACES.find((each) => each === name)
  if (!place) return `There is no place called “${name}”. There are: ${RECIPE_PLACES.join(', ')}.`
  const letters = /^\d+$/.test(how) ? Number(how) : null
  const size = letters === null && how !== '' ? RECIPE_SIZES.find((each) => each === how) : 'byte'
  if (!size)
    return `“${how}” is no size. There are: ${RECIPE_SIZES.join(', ')}; of a name the number of its letters.`
  if (letters !== null && place !== 'name') return `Only a name has letters: {${place}} is a number.`
  if (letters !== null && (letters < 1 || letters > 64)) return 'A name has 1 to 64 letters.'
  return { kind: 'place', place, size, offset: Number(offset), letters: letters ?? 8 }
}

function partIn(word: string): Exclude<Part, { kind: 'each' }> | string {
  if (/^[0-9a-f]{2}$/i.test(word)) {
    const byte = parseInt(word, 16)
    return byte < 0x80
      ? { kind: 'byte', byte }
      : `${word} is more than 7F: between F0 and F7 every byte has seven bits.`
  }
  const sum = CHECKSUM.exec(word)
  if (sum) {
    const of = RECIPE_CHECKSUMS.find((each) => each === sum[1])
    const from = Number(sum[2])
    if (!of) return `There is no checksum “${sum[1] ?? ''}”. There are: ${RECIPE_CHECKSUMS.join(', ')}.`
    return from >= 1 && from <= 512
      ? { kind: 'checksum', of, from }
      : 'A checksum begins at byte 1 to 512 after F0.'
  }
  return word.startsWith('{')
    ? placeIn(word)
    : `“${word}” is no byte: write two hexadecimal digits, 00 to 7F.`
}

/** Read the parts of a recipe as a player writes them: `F0 7D 10 {slot} [ {control} {number} ] {sum from 1} F7`. */
export function readParts(text: string): PartsRead {
  const words = wordsOf(text)
  const bad = (at: number, message: string): PartsRead => ({ ok: false, word: at + 1, message })
  if (words[0]?.toUpperCase() !== START) return bad(0, 'A message begins with F0.')
  if (words.at(-1)?.toUpperCase() !== END) return bad(words.length - 1, 'A message ends with F7.')
  const parts: Part[] = []
  let group: { parts: PlainPart[]; isPacked: boolean } | null = null
  for (let at = 1; at < words.length - 1; at++) {
    const word = words[at] ?? ''
    if (word === '[' || word === '[packed') {
      if (group) return bad(at, 'One run for each control cannot stand inside another.')
      group = { parts: [], isPacked: word === '[packed' }
      continue
    }
    if (word === ']') {
      if (!group || group.parts.length === 0)
        return bad(at, 'This run for each control is empty, or was never begun.')
      parts.push({ kind: 'each', ...group })
      group = null
      continue
    }
    const part = partIn(word)
    if (typeof part === 'string') return bad(at, part)
    if (!group) parts.push(part)
    else if (part.kind === 'checksum')
      return bad(at, 'A checksum stands after the run for each control, not inside it.')
    else group.parts.push(part)
  }
  if (group) return bad(words.length - 1, 'A run for each control that begins with [ ends with ].')
  return parts.length > 0 ? { ok: true, parts } : bad(1, 'Nothing stands between F0 and F7.')
}
