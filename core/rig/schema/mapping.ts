import { z } from 'zod'
import { parseTag } from '../../midi'
import { RelativeEncoding } from './message'
import { Id, Text } from './primitives'
import { GestureRef } from './references'

/** An address tag with its channel as a number, for example `5:cc74`. */
export const LearnedTag = z
  .string()
  .max(40)
  .superRefine((text, context) => {
    const result = parseTag(text)
    if (!result.ok) {
      context.addIssue({ code: 'custom', message: result.message })
    } else if (result.address.scope === 'channel' && typeof result.address.channel !== 'number') {
      context.addIssue({ code: 'custom', message: 'must name a channel, for example 5:cc74' })
    }
  })

export const CURVES = ['linear', 'exponential', 'logarithmic', 's'] as const
export const TAKEOVERS = ['at-once', 'when-met', 'gradual'] as const

/** A gesture joined to a parameter. */
export const Mapping = z.strictObject({
  id: Id,
  /** Null when its control is gone: an old mapping that the destination still holds. */
  gesture: GestureRef.nullable(),
  destination: Id,
  parameter: Id,
  /** The address the destination learned, or null while not yet taught. */
  learnedAt: LearnedTag.nullable().default(null),
  /** Null counts everywhere in the destination. */
  scope: Id.nullable().default(null),
  min: z.number().nullable().default(null),
  max: z.number().nullable().default(null),
  inverted: z.boolean().default(false),
  curve: z.enum(CURVES).default('linear'),
  takeover: z.enum(TAKEOVERS).default('when-met'),
  expects: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('absolute') }),
      z.strictObject({ kind: z.literal('relative'), encoding: RelativeEncoding }),
    ])
    .default({ kind: 'absolute' }),
  feedback: z.boolean().default(false),
  memo: Text,
})
