import * as z from 'zod/mini'
import { or, Seven } from '../../schema'
import { FULL_SEVEN, placed, SevenRange } from '../parts'

export const message = z.strictObject({
  kind: z.literal('channelPressure'),
  ...placed,
  range: or(SevenRange, FULL_SEVEN),
  threshold: or(Seven, 0),
})
export const target = z.strictObject({ kind: z.literal('channelPressure') })
