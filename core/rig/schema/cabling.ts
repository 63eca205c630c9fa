import { z } from 'zod'
import { Port } from './controller'
import { SevenRange } from './message'
import { Channel, Fourteen, Id, Name } from './primitives'

/** One end of a cable: a port of a controller, destination, box or computer. */
export const PortRef = z.strictObject({ owner: Id, port: Id })

export const CABLE_KINDS = [
  'note',
  'cc',
  'cc14',
  'nrpn',
  'rpn',
  'program',
  'bend',
  'pressure',
  'poly',
  'mode',
  'mmc',
  'realtime',
  'sysex',
] as const
export const CableKind = z.enum(CABLE_KINDS)

/** Which messages a rule speaks of. Empty lists mean any. */
export const CableMatch = z.strictObject({
  kinds: z.array(CableKind).default([]),
  channels: z.array(Channel).default([]),
  low: Fourteen.nullable().default(null),
  high: Fourteen.nullable().default(null),
})

export const CableRule = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('pass'), match: CableMatch }),
  z.strictObject({ kind: z.literal('stop'), match: CableMatch }),
  z.strictObject({
    kind: z.literal('rewrite'),
    match: CableMatch,
    to: z.strictObject({
      kind: CableKind.nullable().default(null),
      channel: Channel.nullable().default(null),
      /** The number that the lowest matched number becomes; the rest follow. */
      number: Fourteen.nullable().default(null),
      range: SevenRange.nullable().default(null),
    }),
  }),
])

/** From any out or thru to any in. Rules are tried in order; the first that matches decides. */
export const Cable = z.strictObject({
  id: Id,
  from: PortRef,
  to: PortRef,
  rules: z.array(CableRule).max(128).default([]),
  otherwise: z.enum(['pass', 'stop']).default('pass'),
})

export const Box = z.strictObject({
  id: Id,
  name: Name,
  kind: z.enum(['merge', 'split', 'thru', 'filter']),
  ports: z.array(Port).max(32),
})

export const Computer = z.strictObject({
  id: Id,
  name: Name,
  ports: z
    .array(z.strictObject({ id: Id, name: Name, sharing: z.enum(['shared', 'exclusive']).default('shared') }))
    .max(64),
})
