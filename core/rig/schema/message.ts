import { z } from 'zod'
import { MMC_NAMES, REALTIME_NAMES } from '../../midi'
import { ChannelOrHome, Fourteen, LIMITS, Seven, Wanted } from './primitives'

/** When a gesture sends a message. `move` is the ordinary case of anything that turns or slides. */
export const Moment = z.enum(['move', 'press', 'release', 'long-press', 'double-press', 'layer-shown'])

/** Values sent from one end of the movement to the other. low > high is inverted, low = high is one value. */
export const SevenRange = z.strictObject({ low: Seven, high: Seven })
export const FourteenRange = z.strictObject({ low: Fourteen, high: Fourteen })

export const RELATIVE_ENCODINGS = ['twos-complement', 'offset-binary', 'sign-magnitude'] as const
export const RelativeEncoding = z.enum(RELATIVE_ENCODINGS)

export const Behaviour = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('absolute'),
    /** Turns of an endless encoder for the whole range. */
    turns: z.number().positive().max(100).nullable().default(null),
  }),
  z.strictObject({
    kind: z.literal('relative'),
    encoding: RelativeEncoding,
    acceleration: z.enum(['none', 'gentle', 'strong']).default('none'),
  }),
  z.strictObject({ kind: z.literal('momentary') }),
  z.strictObject({ kind: z.literal('toggle') }),
  z.strictObject({ kind: z.literal('trigger') }),
  /** A sensor that stays where it was let go. */
  z.strictObject({ kind: z.literal('latch') }),
  z.strictObject({ kind: z.literal('list'), values: z.array(Seven).min(1).max(128) }),
])

/** 7-bit is 128 values; steps divide the range into `count` values. */
export const Resolution = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('full') }),
  z.strictObject({ kind: z.literal('steps'), count: z.int().min(2).max(128) }),
])

export const Velocity = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('sensed'),
    curve: z.enum(['linear', 'soft', 'hard']).default('linear'),
    low: Seven.default(1),
    high: Seven.default(127),
  }),
  z.strictObject({ kind: z.literal('fixed'), value: Seven }),
])

export const NoteRelease = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('note-off'), velocity: Seven.default(64) }),
  z.strictObject({ kind: z.literal('velocity-zero') }),
])

const keySpan = {
  low: Seven,
  high: Seven,
  /** Semitones added to what is played. */
  transpose: z.int().min(-60).max(60).default(0),
  /** Octaves that the hardware's own octave buttons can add or take away. */
  octaveReach: z.int().min(0).max(5).default(0),
}

/**
 * Which notes a message plays: one, a span of keys, or a per-note zone
 * (MIDI Polyphonic Expression 1.0, section 2: manager channel 1 or 16 and its member channels).
 */
export const Keys = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('one'), number: z.union([Seven, Wanted]) }),
  z.strictObject({ kind: z.literal('span'), ...keySpan }),
  z.strictObject({
    kind: z.literal('zone'),
    ...keySpan,
    manager: z.union([z.literal(1), z.literal(16)]),
    members: z.int().min(1).max(15),
  }),
])

const moment = { moment: Moment.default('move') }
const placed = { ...moment, channel: ChannelOrHome.default('home') }
const ABSOLUTE = { kind: 'absolute', turns: null } as const
const FULL_SEVEN = { low: 0, high: 127 }
const FULL_FOURTEEN = { low: 0, high: 16383 }

const PairNumber = z
  .int()
  .min(1)
  .max(31)
  .refine((number) => number !== 6, 'must not be 6, which carries NRPN and RPN data')

const parameter = {
  ...placed,
  number: z.union([Fourteen, Wanted]),
  range: FourteenRange.default(FULL_FOURTEEN),
  /** Absolute values, or data increment and decrement (controllers 96 and 97). */
  steps: z.enum(['values', 'increments']).default('values'),
  /** Leave the number out while it stays the same. */
  omitNumber: z.boolean().default(false),
  secondByte: z.boolean().default(true),
  nullAfter: z.boolean().default(false),
}

export const Message = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('off') }),
  z.strictObject({
    kind: z.literal('note'),
    ...placed,
    keys: Keys,
    behaviour: Behaviour.default({ kind: 'momentary' }),
    velocity: Velocity.default({ kind: 'sensed', curve: 'linear', low: 1, high: 127 }),
    release: NoteRelease.default({ kind: 'note-off', velocity: 64 }),
    /** Sends controller 88 before each note (CA-031). */
    highResolutionVelocity: z.boolean().default(false),
  }),
  z.strictObject({
    kind: z.literal('cc'),
    ...placed,
    number: z.union([Seven, Wanted]),
    range: SevenRange.default(FULL_SEVEN),
    behaviour: Behaviour.default(ABSOLUTE),
    resolution: Resolution.default({ kind: 'full' }),
    /** What a momentary control sends when let go; null sends the low value. */
    releaseValue: Seven.nullable().default(null),
  }),
  z.strictObject({
    kind: z.literal('cc14'),
    ...placed,
    number: z.union([PairNumber, Wanted]),
    range: FourteenRange.default(FULL_FOURTEEN),
    behaviour: Behaviour.default(ABSOLUTE),
    halves: z.enum(['both', 'second-while-first-same', 'first-only']).default('both'),
  }),
  z.strictObject({ kind: z.literal('nrpn'), ...parameter }),
  z.strictObject({ kind: z.literal('rpn'), ...parameter }),
  z.strictObject({
    kind: z.literal('program'),
    ...placed,
    number: z.union([Seven, Wanted]),
    bank: z.strictObject({ msb: Seven, lsb: Seven }).nullable().default(null),
  }),
  z.strictObject({
    kind: z.literal('bend'),
    ...placed,
    range: FourteenRange.default(FULL_FOURTEEN),
  }),
  z.strictObject({
    kind: z.literal('pressure'),
    ...placed,
    range: SevenRange.default(FULL_SEVEN),
    threshold: Seven.default(0),
  }),
  z.strictObject({
    kind: z.literal('poly'),
    ...placed,
    keys: Keys,
    range: SevenRange.default(FULL_SEVEN),
    threshold: Seven.default(0),
  }),
  z.strictObject({
    kind: z.literal('mode'),
    ...placed,
    number: z.int().min(120).max(127),
    value: Seven.default(0),
  }),
  z.strictObject({ kind: z.literal('mmc'), ...moment, command: z.enum(MMC_NAMES) }),
  z.strictObject({ kind: z.literal('realtime'), ...moment, command: z.enum(REALTIME_NAMES) }),
  z.strictObject({
    kind: z.literal('sysex'),
    ...moment,
    /** Bytes between F0 and F7; a word marks where the value or the device number goes. */
    bytes: z
      .array(z.union([Seven, z.enum(['value', 'value-high', 'value-low', 'device'])]))
      .max(LIMITS.sysexBytes),
    range: FourteenRange.default(FULL_SEVEN),
  }),
])

export const MESSAGE_KINDS = [
  'off',
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
] as const satisfies ReadonlyArray<z.infer<typeof Message>['kind']>
