import * as z from 'zod/mini'
import { or, orNull, Seven, Wanted } from '../../schema'
import { ABSOLUTE, Behaviour, FULL_SEVEN, placed, Resolution, SevenRange } from '../parts'

export const message = z.strictObject({
  kind: z.literal('cc'),
  ...placed,
  number: z.union([Seven, Wanted]),
  range: or(SevenRange, FULL_SEVEN),
  behaviour: or(Behaviour, ABSOLUTE),
  resolution: or(Resolution, { kind: 'full' }),
  /** What a momentary control sends when let go; null sends the low value. */
  releaseValue: orNull(Seven),
})
export const target = z.strictObject({ kind: z.literal('cc'), number: Seven })
