import * as z from 'zod/mini'

/** All that this application keeps of what a player likes is called so. */
export const SETTINGS_PREFIX = 'deft-lattice/'

const Flag = z.enum(['true', 'false'])
const Percent = z.string().check(
  z.regex(/^\d{1,3}(\.\d+)?$/),
  z.refine((text) => Number(text) <= 100),
)
/** A text that is JSON of a shape. */
const json = (shape: z.ZodMiniType): z.ZodMiniType =>
  z.string().check(
    z.refine((text) => {
      try {
        return shape.safeParse(JSON.parse(text)).success
      } catch {
        return false
      }
    }),
  )
const Key = z.string().check(z.maxLength(200))
const byRig = (one: z.ZodMiniType): z.ZodMiniType => json(z.record(Key, z.record(Key, one)))

/** What may be kept, as it is written: by name, after the prefix. */
const SETTINGS: Readonly<Record<string, z.ZodMiniType>> = {
  theme: z.enum(['system', 'vellum', 'night']),
  'other-layers': Flag,
  'ask-before': Flag,
  'follow-hand': Flag,
  lens: z.enum(['addresses', 'behaviour', 'destinations', 'lights']),
  'upper-view': z.enum(['surface', 'ledger']),
  'upper-size': Percent,
  'surface-size': Percent,
  picture: byRig(z.strictObject({ x: z.number(), y: z.number() })),
  ports: byRig(z.strictObject({ id: z.string(), name: z.string(), maker: z.string() })),
}

/** The settings of this browser, as they are kept. */
export const settingsHere = (): Record<string, string> =>
  Object.fromEntries(
    Object.keys(localStorage).flatMap((key) => {
      const value = localStorage.getItem(key)
      return value !== null && isSetting(key, value) ? [[key, value]] : []
    }),
  )

/** Is it a setting of this version of the application, written as it writes it? */
export function isSetting(key: string, value: string): boolean {
  const name = key.startsWith(SETTINGS_PREFIX) ? key.slice(SETTINGS_PREFIX.length) : ''
  return Object.hasOwn(SETTINGS, name) && SETTINGS[name]?.safeParse(value).success === true
}
