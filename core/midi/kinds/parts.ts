import * as z from 'zod/mini'
import { ChannelOrHome, Fourteen, list, or, orNull, Seven, Wanted, whole } from '../schema'

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

export const FULL_SEVEN = { low: 0, high: 127 }
export const FULL_FOURTEEN = { low: 0, high: 16383 }
export const ABSOLUTE = { kind: 'absolute', turns: null } as const

/** The fields of every message, and of every message that travels on a channel. */
export const timed = { moment: or(Moment, 'move') }
export const placed = { ...timed, channel: or(ChannelOrHome, 'home') }

/** The fields that NRPN and RPN share. */
export const parameterFields = {
  ...placed,
  number: z.union([Fourteen, Wanted]),
  range: or(FourteenRange, FULL_FOURTEEN),
  /** Absolute values, or data increment and decrement (controllers 96 and 97). */
  steps: or(z.enum(['values', 'increments']), 'values'),
  /** Leave the number out while it stays the same. */
  omitNumber: or(z.boolean(), false),
  /** Send data entry LSB (controller 38) after data entry MSB (controller 6). */
  sendsLsb: or(z.boolean(), true),
  nullAfter: or(z.boolean(), false),
}

/** A bank, as controllers 0 and 32 select it (MIDI 1.0 Detailed Specification, "Bank Select"). */
export const Bank = z.strictObject({ msb: Seven, lsb: Seven })
