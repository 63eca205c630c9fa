import { z } from 'zod'

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

/** A short, stable name for cross-references; never shown to a player. */
export const Id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'must be small letters, digits and dashes (48 at most)')

export const Name = z.string().trim().min(1, 'must not be empty').max(LIMITS.name)
export const Text = z.string().max(LIMITS.text).default('')

export const Channel = z.int().min(1).max(16)
export const Seven = z.int().min(0).max(127)
export const Fourteen = z.int().min(0).max(16383)

/** A channel number, or the controller's home channel. */
export const ChannelOrHome = z.union([Channel, z.literal('home')])

/** A number not yet handed out. */
export const Wanted = z.literal('wanted')

/** A length on a surface in mm. */
export const Millimetres = z.number().min(0).max(10_000)

/** An index into the eight controller hues. */
export const Hue = z.int().min(0).max(7)

/** An RGB colour as `#rrggbb`. */
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #0f6b62')
