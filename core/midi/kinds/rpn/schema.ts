import * as z from 'zod/mini'
import { Fourteen } from '../../schema'
import { parameterFields } from '../parts'

export const message = z.strictObject({ kind: z.literal('rpn'), ...parameterFields })
export const target = z.strictObject({ kind: z.literal('rpn'), number: Fourteen })
