import { z } from 'zod'
import { Channel, Colour, Id, LIMITS, Name, Seven, Text } from './primitives'
import { GestureRef } from './references'

/** Sharing on purpose: these gestures may meet at one address. */
export const Accord = z.strictObject({
  id: Id,
  name: Name,
  reason: Text,
  gestures: z
    .array(GestureRef)
    .min(2)
    .max(256)
    .refine((list) => new Set(list).size === list.length, 'must name each gesture once'),
})

export const LightRole = z.strictObject({
  id: Id,
  name: Name,
  /** A letter that stands for it where there is no colour. */
  letter: z.string().regex(/^[A-Z0-9]$/, 'must be one capital letter or digit'),
  states: z
    .array(z.strictObject({ name: Name, colour: Colour }))
    .min(1)
    .max(16),
})

/** A part of the show: what every controller shows, and which scope every destination is in. */
export const Passage = z.strictObject({
  id: Id,
  name: Name,
  showing: z
    .array(
      z.strictObject({
        controller: Id,
        template: Id,
        layers: z.array(z.strictObject({ stack: Id, layer: Id.nullable() })).default([]),
      }),
    )
    .default([]),
  scopes: z.array(z.strictObject({ destination: Id, scope: Id.nullable() })).default([]),
})

/** A preference for handing out numbers. */
export const HouseRule = z.strictObject({
  id: Id,
  kind: z.enum(['prefer', 'avoid']),
  message: z.enum(['cc', 'cc14', 'note', 'nrpn', 'program']).default('cc'),
  channel: Channel.nullable().default(null),
  low: Seven,
  high: Seven,
  /** For whom it holds; null is the whole rig. */
  controller: Id.nullable().default(null),
  block: Id.nullable().default(null),
  memo: Text,
})

/** A finding set aside, with the facts it rested on, so that it returns when they change. */
export const SetAside = z.strictObject({
  finding: z.string().max(LIMITS.name * 2),
  facts: z.string().max(LIMITS.text),
  reason: Text,
})
