import { z } from 'zod'
import { Channel, Fourteen, Id, Name, Seven, Text } from './primitives'
import { Port } from './controller'

/** What a destination can tell apart. */
export const Hearing = z.strictObject({
  ports: z.enum(['apart', 'merged']).default('merged'),
  channels: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('apart') }),
      z.strictObject({ kind: z.literal('merged') }),
      z.strictObject({ kind: z.literal('only'), channels: z.array(Channel).min(1).max(16) }),
    ])
    .default({ kind: 'apart' }),
})

export const KeptKind = z.enum(['cc', 'note', 'program', 'bend', 'pressure', 'poly'])

/** Addresses that a destination keeps for itself, and the parameters they are for. */
export const Claim = z.strictObject({
  id: Id,
  function: Name,
  kind: KeptKind,
  channel: Channel.nullable().default(null),
  low: Seven.default(0),
  high: Seven.default(127),
  serves: z.array(Id).max(256).default([]),
})

/** A place where a mapping counts: a project, preset or page. */
export const Scope = z.strictObject({ id: Id, name: Name })

/** The address that a destination listens at by its own chart. `channel` null is any it hears. */
export const FixedAddress = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('cc'), channel: Channel.nullable().default(null), number: Seven }),
  z.strictObject({
    kind: z.literal('cc14'),
    channel: Channel.nullable().default(null),
    number: z.int().min(1).max(31),
  }),
  z.strictObject({ kind: z.literal('note'), channel: Channel.nullable().default(null), number: Seven }),
  z.strictObject({
    kind: z.literal('nrpn'),
    channel: Channel.nullable().default(null),
    number: Fourteen,
  }),
  z.strictObject({
    kind: z.literal('rpn'),
    channel: Channel.nullable().default(null),
    number: Fourteen,
  }),
  z.strictObject({
    kind: z.literal('program'),
    channel: Channel.nullable().default(null),
    number: Seven,
    bank: z.strictObject({ msb: Seven, lsb: Seven }).nullable().default(null),
  }),
  z.strictObject({ kind: z.literal('bend'), channel: Channel.nullable().default(null) }),
  z.strictObject({ kind: z.literal('pressure'), channel: Channel.nullable().default(null) }),
])

/** The values a parameter takes, in its own unit. */
export const ParameterRange = z
  .strictObject({ min: z.number(), max: z.number(), unit: z.string().max(16).default('') })
  .refine((range) => range.min < range.max, 'min must be below max')

export const Parameter = z.strictObject({
  id: Id,
  name: Name,
  /** Groups from the outside in, for example ["Track 3", "Sends"]. */
  path: z.array(Name).max(6).default([]),
  kind: z.enum(['continuous', 'switch', 'choice', 'action', 'note', 'relative']).default('continuous'),
  range: ParameterRange.nullable().default(null),
  /** How many values it has; null is without steps. */
  steps: z.int().min(2).max(16384).nullable().default(null),
  /** Names of the values of a choice, in order. */
  choices: z.array(Name).max(128).default([]),
  fixed: FixedAddress.nullable().default(null),
  /** The controller number whose standard meaning this is. */
  meaning: Seven.nullable().default(null),
  /** For an action: the scope it switches to. */
  switchesTo: Id.nullable().default(null),
  /** How much one relative step moves, where the step rule says "per parameter". */
  nativeStep: z.number().positive().nullable().default(null),
})

export const ProgramName = z.strictObject({
  number: Seven,
  bank: z.strictObject({ msb: Seven, lsb: Seven }).nullable().default(null),
  name: Name,
})

export const DestinationPort = z.strictObject({
  ...Port.shape,
  /** The computer port it opens, for software. */
  opens: z.strictObject({ computer: Id, port: Id }).nullable().default(null),
})

export const Destination = z.strictObject({
  id: Id,
  name: Name,
  kind: z.enum(['daw', 'plugin', 'synth', 'drum-machine']),
  /** The host it runs in; it hears what the host does not take. */
  inside: Id.nullable().default(null),
  ports: z.array(DestinationPort).max(32).default([]),
  hears: z.strictObject({
    playing: Hearing.prefault({}),
    learning: Hearing.prefault({}),
    /** Can it be told which channels to hear? */
    settable: z.boolean().default(false),
  }),
  claims: z.array(Claim).max(128).default([]),
  scopes: z.array(Scope).max(256).default([]),
  parameters: z.array(Parameter).max(5000).default([]),
  noteNames: z
    .array(z.strictObject({ number: Seven, name: Name }))
    .max(128)
    .default([]),
  programs: z.array(ProgramName).max(2048).default([]),
  /** From which number it counts its programs on its own display. */
  countsFrom: z.union([z.literal(0), z.literal(1)]).default(0),
  middleC: z.union([z.literal(3), z.literal(4), z.literal(5)]).default(3),
  learns: z.array(z.enum(['cc', 'cc14', 'note', 'nrpn', 'rpn', 'program', 'bend', 'pressure'])).default([]),
  /** What one relative step moves: a fraction of the mapped range, a native step, or each parameter its own. */
  stepRule: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('fraction'), of: z.number().positive().max(1) }),
      z.strictObject({ kind: z.literal('native') }),
      z.strictObject({ kind: z.literal('per-parameter') }),
    ])
    .default({ kind: 'fraction', of: 1 / 128 }),
  feedback: z.boolean().default(false),
  /** The controller that is the sending half of the same instrument, and whether its keys sound it directly. */
  unit: z.strictObject({ controller: Id, localControl: z.boolean() }).nullable().default(null),
  notes: Text,
})
