import { z } from 'zod'
import { MESSAGE_KINDS, RelativeEncoding } from './message'
import { Channel, Colour, Hue, Id, Name, Seven, Text } from './primitives'
import { ControlKind, Surface } from './surface'
import { Template } from './template'

export const Port = z.strictObject({
  id: Id,
  name: Name,
  direction: z.enum(['in', 'out', 'thru']),
})

export const LightLevels = z.enum(['none', 'on-off', 'dim-bright', 'two-colour', 'palette', 'rgb'])

export const PaletteEntry = z.strictObject({ index: Seven, colour: Colour, name: Name })

/** How a controller's lights are set from outside, and what they can show. */
export const LightAbility = z.strictObject({
  levels: z.partialRecord(ControlKind, LightLevels).default({}),
  setBy: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('note-velocity') }),
    z.strictObject({ kind: z.literal('cc-value'), channel: Channel.nullable().default(null) }),
    z.strictObject({
      kind: z.literal('channel-meaning'),
      meanings: z
        .array(z.strictObject({ channel: Channel, meaning: Name }))
        .min(1)
        .max(16),
    }),
    z.strictObject({ kind: z.literal('fixed') }),
  ]),
  palette: z.array(PaletteEntry).max(128).default([]),
})

/** What the hardware can do. */
export const Abilities = z.strictObject({
  connection: z.enum(['usb', 'din']),
  /** Message kinds a control kind can send; a kind that is left out can send all. */
  kinds: z.partialRecord(ControlKind, z.array(z.enum(MESSAGE_KINDS))).default({}),
  relativeEncodings: z.array(RelativeEncoding).default([]),
  fourteenBit: z.boolean().default(false),
  slots: z.int().min(0).max(1000).default(0),
  stacks: z.int().min(0).max(32).default(0),
  layersAStack: z.int().min(0).max(64).default(0),
  lights: LightAbility.nullable().default(null),
})

/** A make of controller: controllers of one model share its surface and abilities. */
export const Model = z.strictObject({
  id: Id,
  name: Name,
  abilities: Abilities,
  surface: Surface,
})

export const Slot = z.strictObject({
  number: z.int().min(1).max(1000),
  template: Id.nullable().default(null),
  memo: Text,
})

export const Controller = z.strictObject({
  id: Id,
  name: Name,
  letter: z.string().regex(/^[A-Z0-9]$/, 'must be one capital letter or digit'),
  hue: Hue,
  model: Id,
  /** Two of one model are told apart by port and device number. */
  deviceNumber: Seven.default(0),
  inUse: z.boolean().default(true),
  homeChannel: Channel,
  ports: z.array(Port).max(16).default([]),
  templates: z.array(Template).min(1).max(128),
  slots: z.array(Slot).max(1000).default([]),
  notes: Text,
})
