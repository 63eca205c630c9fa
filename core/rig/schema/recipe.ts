import * as z from 'zod/mini'
import { apart, Id, list, LIMITS, Name, or, orNull, Seven, Text, whole } from './primitives'

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
export const RECIPE_SIZES = ['byte', 'halves', 'nibbles'] as const
export const RECIPE_CHECKSUMS = ['sum', 'negated', 'xor'] as const

/** A byte that is always the same. */
const BytePart = z.strictObject({ kind: z.literal('byte'), byte: Seven })
/** A place for a value. */
const PlacePart = z.strictObject({
  kind: z.literal('place'),
  place: z.enum(RECIPE_PLACES),
  size: or(z.enum(RECIPE_SIZES), 'byte'),
  /** Added to the value before it is written. */
  offset: or(whole(-128, 128), 0),
  /** Of a name: how many letters, filled up with spaces. */
  letters: or(whole(1, 64), 8),
})
/** A checksum of what stands before it. */
const ChecksumPart = z.strictObject({
  kind: z.literal('checksum'),
  of: z.enum(RECIPE_CHECKSUMS),
  /** The first byte that it is of, counted from 1 after F0. */
  from: or(whole(1, 512), 1),
})

/** One part of a message. */
export const RecipePart = z.discriminatedUnion('kind', [BytePart, PlacePart, ChecksumPart])

/** A run of parts that is written once for each control, plain or with eight bits packed as seven. */
export const RecipeEach = z.strictObject({
  kind: z.literal('each'),
  parts: list(z.discriminatedUnion('kind', [BytePart, PlacePart]), 128, 1),
  isPacked: or(z.boolean(), false),
})

/** What a word of ours is called by the hardware. */
const Word = z.strictObject({ word: z.string().check(z.minLength(1), z.maxLength(LIMITS.name)), byte: Seven })
const Table = or(
  list(Word, 64).check(
    apart(
      ({ word }) => word,
      (word) => `“${String(word)}” stands in the table twice.`,
    ),
    apart(
      ({ byte }) => byte,
      (byte) => `The table has two words for ${String(byte)}: it could not be read back.`,
    ),
  ),
  [],
)

/** How a piece of hardware takes its template by SysEx, written once from its manual. */
export const Recipe = z.strictObject({
  id: Id,
  name: Name,
  /** The kind of controller that it is for; null for any. */
  model: orNull(Id),
  notes: Text,
  /** Between F0 and F7. */
  parts: list(z.discriminatedUnion('kind', [BytePart, PlacePart, ChecksumPart, RecipeEach]), 256, 1),
  /** How long the hardware wants to be left alone after each message, in ms. */
  waitMs: or(whole(0, 10_000), 20),
  kinds: Table,
  behaviours: Table,
})
