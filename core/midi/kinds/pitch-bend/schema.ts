import * as z from 'zod/mini'
import { or } from '../../schema'
import { FourteenRange, FULL_FOURTEEN, placed } from '../parts'

export const message = z.strictObject({
  kind: z.literal('pitchBend'),
  ...placed,
  range: or(FourteenRange, FULL_FOURTEEN),
})
export const target = z.strictObject({ kind: z.literal('pitchBend') })
