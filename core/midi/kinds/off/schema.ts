import * as z from 'zod/mini'

export const message = z.strictObject({ kind: z.literal('off') })
