import * as z from 'zod/mini'
import { Channel, Fourteen, Id, list, Name, or, orNull, Seven, Text, whole } from './primitives'
import { Port } from './controller'

/** What a destination can tell apart. */
export const Hearing = z.strictObject({
  ports: or(z.enum(['apart', 'merged']), 'merged'),
  channels: or(
    z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('apart') }),
      z.strictObject({ kind: z.literal('merged') }),
      z.strictObject({ kind: z.literal('only'), channels: list(Channel, 16, 1) }),
    ]),
    { kind: 'apart' },
  ),
})

export const KeptKind = z.enum(['cc', 'note', 'program', 'pitchBend', 'channelPressure', 'polyPressure'])

/** Addresses that a destination keeps for itself, and the parameters they are for. */
export const Claim = z
  .strictObject({
    id: Id,
    function: Name,
    kind: KeptKind,
    channel: orNull(Channel),
    low: or(Seven, 0),
    high: or(Seven, 127),
    serves: or(list(Id, 256), []),
  })
  .check((payload) => {
    const { function: name, low, high } = payload.value
    if (low > high)
      payload.issues.push({
        code: 'custom',
        input: low,
        path: ['low'],
        message: `“${name}” keeps numbers from ${low} to ${high}: turn the ends round.`,
      })
  })

/** A place where a mapping counts: a project, preset or page. */
export const Scope = z.strictObject({ id: Id, name: Name })

/** The address that a destination listens at by its own chart. `channel` null is any it hears. */
export const FixedAddress = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('cc'), channel: orNull(Channel), number: Seven }),
  z.strictObject({
    kind: z.literal('cc14'),
    channel: orNull(Channel),
    number: whole(1, 31),
  }),
  z.strictObject({ kind: z.literal('note'), channel: orNull(Channel), number: Seven }),
  z.strictObject({
    kind: z.literal('nrpn'),
    channel: orNull(Channel),
    number: Fourteen,
  }),
  z.strictObject({
    kind: z.literal('rpn'),
    channel: orNull(Channel),
    number: Fourteen,
  }),
  z.strictObject({
    kind: z.literal('program'),
    channel: orNull(Channel),
    number: Seven,
    bank: orNull(z.strictObject({ msb: Seven, lsb: Seven })),
  }),
  z.strictObject({ kind: z.literal('pitchBend'), channel: orNull(Channel) }),
  z.strictObject({ kind: z.literal('channelPressure'), channel: orNull(Channel) }),
])

/** The values a parameter takes, in its own unit. */
export const ParameterRange = z
  .strictObject({ min: z.number(), max: z.number(), unit: or(z.string().check(z.maxLength(16)), '') })
  .check(z.refine((range) => range.min < range.max, 'min must be below max'))

export const Parameter = z.strictObject({
  id: Id,
  name: Name,
  /** Groups from the outside in, for example ["Track 3", "Sends"]. */
  path: or(list(Name, 6), []),
  kind: or(z.enum(['continuous', 'switch', 'choice', 'action', 'note', 'relative']), 'continuous'),
  range: orNull(ParameterRange),
  /** How many values it has; null is without steps. */
  steps: orNull(whole(2, 16384)),
  /** Names of the values of a choice, in order. */
  choices: or(list(Name, 128), []),
  fixed: orNull(FixedAddress),
  /** Of one relative to a selection: the name of the parameters it stands for, whichever is selected. */
  standsFor: orNull(Name),
  /** The controller number whose standard meaning this is. */
  meaning: orNull(Seven),
  /** For an action: the scope it switches to. */
  switchesTo: orNull(Id),
  /** How much one relative step moves, where the step rule says "per parameter". */
  nativeStep: orNull(z.number().check(z.positive())),
})

export const ProgramName = z.strictObject({
  number: Seven,
  bank: orNull(z.strictObject({ msb: Seven, lsb: Seven })),
  name: Name,
})

export const DestinationPort = z.strictObject({
  ...Port.shape,
  /** The computer port it opens, for software. */
  opens: orNull(z.strictObject({ computer: Id, port: Id })),
})

export const Destination = z.strictObject({
  id: Id,
  name: Name,
  kind: z.enum(['daw', 'plugin', 'synth', 'drum-machine']),
  /** The host it runs in; it hears what the host does not take. */
  inside: orNull(Id),
  ports: or(list(DestinationPort, 32), []),
  hears: z.strictObject({
    playing: z.prefault(Hearing, {}),
    learning: z.prefault(Hearing, {}),
    /** Can it be told which channels to hear? */
    settable: or(z.boolean(), false),
  }),
  claims: or(list(Claim, 128), []),
  scopes: or(list(Scope, 256), []),
  parameters: or(list(Parameter, 5000), []),
  noteNames: or(list(z.strictObject({ number: Seven, name: Name }), 128), []),
  programs: or(list(ProgramName, 2048), []),
  /** From which number it counts its programs on its own display. */
  countsFrom: or(z.union([z.literal(0), z.literal(1)]), 0),
  middleC: or(z.union([z.literal(3), z.literal(4), z.literal(5)]), 3),
  learns: or(
    z.array(z.enum(['cc', 'cc14', 'note', 'nrpn', 'rpn', 'program', 'pitchBend', 'channelPressure'])),
    [],
  ),
  /** What one relative step moves: a fraction of the mapped range, a native step, or each parameter its own. */
  stepRule: or(
    z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('fraction'), of: z.number().check(z.positive(), z.maximum(1)) }),
      z.strictObject({ kind: z.literal('native') }),
      z.strictObject({ kind: z.literal('per-parameter') }),
    ]),
    { kind: 'fraction', of: 1 / 128 },
  ),
  feedback: or(z.boolean(), false),
  /** The controller that is the sending half of the same instrument, and whether its keys sound it directly. */
  unit: orNull(z.strictObject({ controller: Id, localControl: z.boolean() })),
  notes: Text,
})
