import * as z from 'zod/mini'
import { MMC_NAMES } from '../../transport'
import { timed } from '../parts'

export const message = z.strictObject({ kind: z.literal('mmc'), ...timed, command: z.enum(MMC_NAMES) })
export const target = z.strictObject({ kind: z.literal('mmc'), command: z.enum(MMC_NAMES) })
