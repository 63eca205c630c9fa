import * as z from 'zod/mini'
import { formed, or, whole } from '../../midi/schema'
import { plain } from '../plain-text'

export {
  Channel,
  ChannelOrHome,
  formed,
  Fourteen,
  list,
  or,
  orNull,
  Seven,
  Wanted,
  whole,
} from '../../midi/schema'

/** Bounds that keep a hostile or broken file from filling the memory. */
export const LIMITS = {
  name: 120,
  text: 4000,
  controllers: 256,
  layersAStack: 64,
  controls: 2000,
  messages: 8,
} as const

/** A short, stable name for cross-references; never shown to a player. */
export const Id = formed(/^[a-z0-9][a-z0-9-]{0,47}$/, 'must be small letters, digits and dashes (48 at most)')

/** A name, on one line and without what would turn the words beside it; or nothing. */
export const Label = z.string().check(z.overwrite(plain), z.maxLength(LIMITS.name))
export const Name = Label.check(z.minLength(1, 'must not be empty'))
export const Text = or(z.string().check(z.maxLength(LIMITS.text)), '')

/** A check that no two items of a list have one key; `says` what is wrong, as a sentence. */
export const apart =
  <T>(keyOf: (item: T) => unknown, says: (key: unknown) => string) =>
  (payload: z.core.ParsePayload<T[]>): void => {
    const seen = new Set<unknown>()
    payload.value.forEach((item, index) => {
      const key = keyOf(item)
      if (seen.has(key))
        payload.issues.push({ code: 'custom', input: item, path: [index], message: says(key) })
      seen.add(key)
    })
  }

/** A length on a surface in mm, not below `low`. */
export const millimetres = (low = 0) => z.number().check(z.minimum(low), z.maximum(10_000))

/** An index into the eight controller hues. */
export const Hue = whole(0, 7)

/** An RGB colour as `#rrggbb`. */
export const Colour = formed(/^#[0-9a-f]{6}$/, 'must be a colour such as #0f6b62')

/** A letter that stands for something where there is no colour. */
export const Letter = formed(/^[A-Z0-9]$/, 'must be one capital letter or digit')
