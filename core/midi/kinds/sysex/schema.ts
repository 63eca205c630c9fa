import * as z from 'zod/mini'
import { list, or, Seven } from '../../schema'
import { FourteenRange, FULL_SEVEN, timed } from '../parts'

/** Bytes of one message that a rig can hold. */
const MOST_BYTES = 4096

export const message = z.strictObject({
  kind: z.literal('sysex'),
  ...timed,
  /** Bytes between F0 and F7; a word marks where the value or the device number goes. */
  bytes: list(z.union([Seven, z.enum(['value', 'value-high', 'value-low', 'device'])]), MOST_BYTES),
  range: or(FourteenRange, FULL_SEVEN),
})
export const target = z.strictObject({ kind: z.literal('sysex') })
