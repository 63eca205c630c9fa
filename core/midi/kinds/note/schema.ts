import * as z from 'zod/mini'
import { or, Seven } from '../../schema'
import { Behaviour, Keys, NoteRelease, placed, Velocity } from '../parts'

export const message = z.strictObject({
  kind: z.literal('note'),
  ...placed,
  keys: Keys,
  behaviour: or(Behaviour, { kind: 'momentary' }),
  velocity: or(Velocity, { kind: 'sensed', curve: 'linear', low: 1, high: 127 }),
  release: or(NoteRelease, { kind: 'note-off', velocity: 64 }),
  /** Sends controller 88 before each note (CA-031). */
  highResolutionVelocity: or(z.boolean(), false),
})
export const target = z.strictObject({ kind: z.literal('note'), low: Seven, high: Seven })
