import * as z from 'zod/mini'
import { MMC_NAMES, REALTIME_NAMES } from '../../midi'
import { ChannelOrHome, Fourteen, LIMITS, list, or, orNull, Seven, Wanted, whole } from './primitives'

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
    turns: orNull(z.number().check(z.positive(), z.maximum(100))),
  }),
  z.strictObject({
    kind: z.literal('relative'),
    encoding: RelativeEncoding,
    acceleration: or(z.enum(['none', 'gentle', 'strong']), 'none'),
  }),
  z.strictObject({ kind: z.literal('momentary') }),
  z.strictObject({ kind: z.literal('toggle') }),
  z.strictObject({ kind: z.literal('trigger') }),
  /** A sensor that stays where it was let go. */
  z.strictObject({ kind: z.literal('latch') }),
  z.strictObject({ kind: z.literal('list'), values: list(Seven, 128, 1) }),
])

/** 7-bit is 128 values; steps divide the range into `count` values. */
export const Resolution = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('full') }),
  z.strictObject({ kind: z.literal('steps'), count: whole(2, 128) }),
])

export const Velocity = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('sensed'),
    curve: or(z.enum(['linear', 'soft', 'hard']), 'linear'),
    low: or(Seven, 1),
    high: or(Seven, 127),
  }),
  z.strictObject({ kind: z.literal('fixed'), value: Seven }),
])

export const NoteRelease = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('note-off'), velocity: or(Seven, 64) }),
  z.strictObject({ kind: z.literal('velocity-zero') }),
])

const keySpan = {
  low: Seven,
  high: Seven,
  /** Semitones added to what is played. */
  transpose: or(whole(-60, 60), 0),
  /** Octaves that the hardware's own octave buttons can add or take away. */
  octaveReach: or(whole(0, 5), 0),
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
    members: whole(1, 15),
  }),
])

const moment = { moment: or(Moment, 'move') }
const placed = { ...moment, channel: or(ChannelOrHome, 'home') }
const ABSOLUTE = { kind: 'absolute', turns: null } as const
const FULL_SEVEN = { low: 0, high: 127 }
const FULL_FOURTEEN = { low: 0, high: 16383 }

const PairNumber = whole(1, 31).check(
  z.refine((number) => number !== 6, 'must not be 6, which carries NRPN and RPN data'),
)

const parameter = {
  ...placed,
  number: z.union([Fourteen, Wanted]),
  range: or(FourteenRange, FULL_FOURTEEN),
  /** Absolute values, or data increment and decrement (controllers 96 and 97). */
  steps: or(z.enum(['values', 'increments']), 'values'),
  /** Leave the number out while it stays the same. */
  omitNumber: or(z.boolean(), false),
  secondByte: or(z.boolean(), true),
  nullAfter: or(z.boolean(), false),
}

export const Message = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('off') }),
  z.strictObject({
    kind: z.literal('note'),
    ...placed,
    keys: Keys,
    behaviour: or(Behaviour, { kind: 'momentary' }),
    velocity: or(Velocity, { kind: 'sensed', curve: 'linear', low: 1, high: 127 }),
    release: or(NoteRelease, { kind: 'note-off', velocity: 64 }),
    /** Sends controller 88 before each note (CA-031). */
    highResolutionVelocity: or(z.boolean(), false),
  }),
  z.strictObject({
    kind: z.literal('cc'),
    ...placed,
    number: z.union([Seven, Wanted]),
    range: or(SevenRange, FULL_SEVEN),
    behaviour: or(Behaviour, ABSOLUTE),
    resolution: or(Resolution, { kind: 'full' }),
    /** What a momentary control sends when let go; null sends the low value. */
    releaseValue: orNull(Seven),
  }),
  z.strictObject({
    kind: z.literal('cc14'),
    ...placed,
    number: z.union([PairNumber, Wanted]),
    range: or(FourteenRange, FULL_FOURTEEN),
    behaviour: or(Behaviour, ABSOLUTE),
    halves: or(z.enum(['both', 'second-while-first-same', 'first-only']), 'both'),
  }),
  z.strictObject({ kind: z.literal('nrpn'), ...parameter }),
  z.strictObject({ kind: z.literal('rpn'), ...parameter }),
  z.strictObject({
    kind: z.literal('program'),
    ...placed,
    number: z.union([Seven, Wanted]),
    bank: orNull(z.strictObject({ msb: Seven, lsb: Seven })),
  }),
  z.strictObject({
    kind: z.literal('bend'),
    ...placed,
    range: or(FourteenRange, FULL_FOURTEEN),
  }),
  z.strictObject({
    kind: z.literal('pressure'),
    ...placed,
    range: or(SevenRange, FULL_SEVEN),
    threshold: or(Seven, 0),
  }),
  z.strictObject({
    kind: z.literal('poly'),
    ...placed,
    keys: Keys,
    range: or(SevenRange, FULL_SEVEN),
    threshold: or(Seven, 0),
  }),
  z.strictObject({
    kind: z.literal('mode'),
    ...placed,
    number: whole(120, 127),
    value: or(Seven, 0),
  }),
  z.strictObject({ kind: z.literal('mmc'), ...moment, command: z.enum(MMC_NAMES) }),
  z.strictObject({ kind: z.literal('realtime'), ...moment, command: z.enum(REALTIME_NAMES) }),
  z.strictObject({
    kind: z.literal('sysex'),
    ...moment,
    /** Bytes between F0 and F7; a word marks where the value or the device number goes. */
    bytes: list(z.union([Seven, z.enum(['value', 'value-high', 'value-low', 'device'])]), LIMITS.sysexBytes),
    range: or(FourteenRange, FULL_SEVEN),
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
