import * as z from 'zod/mini'
import { orNull, Seven, Wanted } from '../../schema'
import { Bank, placed } from '../parts'

export const message = z.strictObject({
  kind: z.literal('program'),
  ...placed,
  number: z.union([Seven, Wanted]),
  bank: orNull(Bank),
})
export const target = z.strictObject({ kind: z.literal('program'), number: Seven, bank: z.nullable(Bank) })
