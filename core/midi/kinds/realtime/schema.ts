import * as z from 'zod/mini'
import { REALTIME_NAMES } from '../../transport'
import { timed } from '../parts'

export const message = z.strictObject({
  kind: z.literal('realtime'),
  ...timed,
  command: z.enum(REALTIME_NAMES),
})
export const target = z.strictObject({ kind: z.literal('realtime'), command: z.enum(REALTIME_NAMES) })
