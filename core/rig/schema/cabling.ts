import * as z from 'zod/mini'
import { Port } from './controller'
import { MESSAGE_KINDS, SevenRange } from './message'
import { Channel, Fourteen, Id, list, Name, or, orNull } from './primitives'

/** One end of a cable: a port of a controller, destination, box or computer. */
export const PortRef = z.strictObject({ owner: Id, port: Id })

/** Everything that can be sent goes through cables. */
export const CABLE_KINDS = MESSAGE_KINDS.filter((kind) => kind !== 'off') as unknown as readonly [
  Exclude<(typeof MESSAGE_KINDS)[number], 'off'>,
]
export const CableKind = z.enum(CABLE_KINDS)

/** Which messages a rule speaks of. Empty lists mean any. */
export const CableMatch = z.strictObject({
  kinds: or(z.array(CableKind), []),
  channels: or(z.array(Channel), []),
  low: orNull(Fourteen),
  high: orNull(Fourteen),
})

export const CableRule = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('pass'), match: CableMatch }),
  z.strictObject({ kind: z.literal('stop'), match: CableMatch }),
  z.strictObject({
    kind: z.literal('rewrite'),
    match: CableMatch,
    to: z.strictObject({
      kind: orNull(CableKind),
      channel: orNull(Channel),
      /** The number that the lowest matched number becomes; the rest follow. */
      number: orNull(Fourteen),
      range: orNull(SevenRange),
    }),
  }),
])

/** From any out or thru to any in. Rules are tried in order; the first that matches decides. */
export const Cable = z.strictObject({
  id: Id,
  from: PortRef,
  to: PortRef,
  rules: or(list(CableRule, 128), []),
  otherwise: or(z.enum(['pass', 'stop']), 'pass'),
})

export const Box = z.strictObject({
  id: Id,
  name: Name,
  kind: z.enum(['merge', 'split', 'thru', 'filter']),
  ports: list(Port, 32),
})

export const Computer = z.strictObject({
  id: Id,
  name: Name,
  ports: list(
    z.strictObject({ id: Id, name: Name, sharing: or(z.enum(['shared', 'exclusive']), 'shared') }),
    64,
  ),
})
