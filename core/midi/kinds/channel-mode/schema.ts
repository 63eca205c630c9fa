import * as z from 'zod/mini'
import { or, Seven, whole } from '../../schema'
import { placed } from '../parts'

const ModeNumber = whole(120, 127)

export const message = z.strictObject({
  kind: z.literal('channelMode'),
  ...placed,
  number: ModeNumber,
  value: or(Seven, 0),
})
export const target = z.strictObject({ kind: z.literal('channelMode'), number: ModeNumber })
