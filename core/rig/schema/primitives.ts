import * as z from 'zod/mini'

/** Bounds that keep a hostile or broken file from filling the memory. */
export const LIMITS = {
  name: 120,
  text: 4000,
  controllers: 256,
  layersAStack: 64,
  controls: 2000,
  messages: 8,
  sysexBytes: 4096,
} as const

/** A whole number from `low` to `high`, both included. */
export const whole = (low: number, high: number) => z.int().check(z.minimum(low), z.maximum(high))

/** A list of at most `most` and at least `least` entries. */
export const list = <T extends z.ZodMiniType>(entry: T, most: number, least = 0) =>
  z.array(entry).check(z.minLength(least), ...(Number.isFinite(most) ? [z.maxLength(most)] : []))

/** A field that may be left out, and then is `value`. */
export const or = <T extends z.ZodMiniType>(schema: T, value: z.core.util.NoUndefined<z.output<T>>) =>
  z._default(schema, value)

/** A field that may be null, and is null when left out. */
export const orNull = <T extends z.ZodMiniType>(schema: T) => z._default(z.nullable(schema), null)

/** A string of a given form; `message` says what it must be. */
export const formed = (pattern: RegExp, message: string) => z.string().check(z.regex(pattern, message))

/** A short, stable name for cross-references; never shown to a player. */
export const Id = formed(/^[a-z0-9][a-z0-9-]{0,47}$/, 'must be small letters, digits and dashes (48 at most)')

export const Name = z.string().check(z.trim(), z.minLength(1, 'must not be empty'), z.maxLength(LIMITS.name))
export const Text = or(z.string().check(z.maxLength(LIMITS.text)), '')

export const Channel = whole(1, 16)
export const Seven = whole(0, 127)
export const Fourteen = whole(0, 16383)

/** A channel number, or the controller's home channel. */
export const ChannelOrHome = z.union([Channel, z.literal('home')])

/** A number not yet handed out. */
export const Wanted = z.literal('wanted')

/** A length on a surface in mm, not below `low`. */
export const millimetres = (low = 0) => z.number().check(z.minimum(low), z.maximum(10_000))

/** An index into the eight controller hues. */
export const Hue = whole(0, 7)

/** An RGB colour as `#rrggbb`. */
export const Colour = formed(/^#[0-9a-f]{6}$/, 'must be a colour such as #0f6b62')

/** A letter that stands for something where there is no colour. */
export const Letter = formed(/^[A-Z0-9]$/, 'must be one capital letter or digit')
