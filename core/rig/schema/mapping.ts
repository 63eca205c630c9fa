import * as z from 'zod/mini'
import { parseTag } from '../../midi'
import { RelativeEncoding } from './message'
import { ChannelTarget, SystemTarget } from '../../midi/kinds/schemas'
import { Channel, Id, or, orNull, Seven, Text } from './primitives'
import { GestureRef } from './references'

/** An address tag with its channel as a number, for example `5:cc74`, read as an address. */
const LearnedTag = z.pipe(
  z.string().check(z.maxLength(40), (payload) => {
    const result = parseTag(payload.value)
    const refuse = (message: string): void => {
      payload.issues.push({ code: 'custom', message, input: payload.value })
    }
    if (!result.ok) refuse(result.message)
    else if (result.address.scope === 'channel' && typeof result.address.channel !== 'number') {
      refuse('must name a channel, for example 5:cc74')
    }
  }),
  z.transform((tag: string): LearnedAddress => {
    const result = parseTag(tag)
    if (!result.ok) throw new Error(result.message)
    return result.address as LearnedAddress
  }),
)

/** Where a destination learned to listen: as a tag, or as the address that the tag means. */
export const Learned = z.union([
  LearnedTag,
  z.discriminatedUnion('scope', [
    z.strictObject({ scope: z.literal('channel'), channel: Channel, target: ChannelTarget }),
    z.strictObject({ scope: z.literal('system'), target: SystemTarget }),
  ]),
])

/** An address on the wire: its channel is a number. */
export type LearnedAddress =
  | { scope: 'channel'; channel: number; target: z.infer<typeof ChannelTarget> }
  | { scope: 'system'; target: z.infer<typeof SystemTarget> }

export const CURVES = ['linear', 'exponential', 'logarithmic', 's'] as const
export const TAKEOVERS = ['at-once', 'when-met', 'gradual'] as const

/** A gesture joined to a parameter. */
export const Mapping = z.strictObject({
  id: Id,
  /** Null when its control is gone: an old mapping that the destination still holds. */
  gesture: z.nullable(GestureRef),
  /** Of a keyboard: the one key that moves it, by the note it is written as. Null for all that the gesture sends. */
  key: orNull(Seven),
  destination: Id,
  parameter: Id,
  /** The address the destination learned, or null while not yet taught. */
  learnedAt: orNull(Learned),
  /** Null counts everywhere in the destination. */
  scope: orNull(Id),
  min: orNull(z.number()),
  max: orNull(z.number()),
  inverted: or(z.boolean(), false),
  curve: or(z.enum(CURVES), 'linear'),
  takeover: or(z.enum(TAKEOVERS), 'when-met'),
  expects: or(
    z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('absolute') }),
      z.strictObject({ kind: z.literal('relative'), encoding: RelativeEncoding }),
      /** Flips, or acts, at each press, whatever the value. */
      z.strictObject({ kind: z.literal('press') }),
    ]),
    { kind: 'absolute' },
  ),
  feedback: or(z.boolean(), false),
  memo: Text,
})
