import * as z from 'zod/mini'

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

export const Channel = whole(1, 16)
export const Seven = whole(0, 127)
export const Fourteen = whole(0, 16383)

/** A channel number, or the controller's home channel. */
export const ChannelOrHome = z.union([Channel, z.literal('home')])

/** A number not yet handed out. */
export const Wanted = z.literal('wanted')
