import * as z from 'zod/mini'
import { MESSAGE_KINDS, RelativeEncoding } from './message'
import {
  apart,
  Channel,
  Colour,
  Hue,
  Id,
  Letter,
  list,
  Name,
  or,
  orNull,
  Seven,
  Text,
  whole,
} from './primitives'
import { LineChecked, Slot } from './proof'
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
  levels: or(z.partialRecord(ControlKind, LightLevels), {}),
  setBy: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('note-velocity') }),
    z.strictObject({ kind: z.literal('cc-value'), channel: orNull(Channel) }),
    z.strictObject({
      kind: z.literal('channel-meaning'),
      meanings: list(z.strictObject({ channel: Channel, meaning: Name }), 16, 1),
    }),
    z.strictObject({ kind: z.literal('fixed') }),
  ]),
  palette: or(
    list(PaletteEntry, 128).check(
      apart(
        ({ index }) => index,
        (index) => `The palette has two colours at ${String(index)}; give each colour a number of its own.`,
      ),
    ),
    [],
  ),
})

/** What the hardware can do. */
export const Abilities = z.strictObject({
  connection: z.enum(['usb', 'din']),
  /** Message kinds a control kind can send; a kind that is left out can send all. */
  kinds: or(z.partialRecord(ControlKind, z.array(z.enum([...MESSAGE_KINDS]))), {}),
  relativeEncodings: or(z.array(RelativeEncoding), []),
  fourteenBit: or(z.boolean(), false),
  slots: or(whole(0, 1000), 0),
  stacks: or(whole(0, 32), 0),
  layersAStack: or(whole(0, 64), 0),
  lights: orNull(LightAbility),
})

/** A make of controller: controllers of one model share its surface and abilities. */
export const Model = z.strictObject({
  id: Id,
  name: Name,
  abilities: Abilities,
  surface: Surface,
})

export const Controller = z.strictObject({
  id: Id,
  name: Name,
  letter: Letter,
  hue: Hue,
  model: Id,
  /** Two of one model are told apart by port and device number. */
  deviceNumber: or(Seven, 0),
  inUse: or(z.boolean(), true),
  homeChannel: Channel,
  ports: or(list(Port, 16), []),
  templates: list(Template, 128, 1),
  slots: or(list(Slot, 1000), []),
  /** What the last line check of it found; null where it was never checked. */
  lineCheck: orNull(LineChecked),
  notes: Text,
})
