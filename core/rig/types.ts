import type * as z from 'zod/mini'
import type * as schema from './schema'

export type {
  Behaviour,
  ChannelMessage,
  ChannelOrHome,
  Keys,
  Message,
  MessageKind,
  MessageOf,
  Moment,
  RelativeEncoding,
  SystemMessage,
} from '../midi'

type Of<T extends z.ZodMiniType> = z.infer<T>

export type Id = Of<typeof schema.Id>
export type GestureKey = Of<typeof schema.GestureKey>
export type GestureRef = Of<typeof schema.GestureRef>
export type GestureKind = Of<typeof schema.GestureKind>
export type ControlKind = Of<typeof schema.ControlKind>
export type Assignment = Of<typeof schema.Assignment>
export type Control = Of<typeof schema.Control>
export type Block = Of<typeof schema.Block>
export type Surface = Of<typeof schema.Surface>
export type Layer = Of<typeof schema.Layer>
export type Stack = Of<typeof schema.Stack>
export type Template = Of<typeof schema.Template>
export type Choice = Of<typeof schema.Choice>
export type Port = Of<typeof schema.Port>
export type Abilities = Of<typeof schema.Abilities>
export type Model = Of<typeof schema.Model>
export type Controller = Of<typeof schema.Controller>
export type Hearing = Of<typeof schema.Hearing>
export type Claim = Of<typeof schema.Claim>
export type Scope = Of<typeof schema.Scope>
export type FixedAddress = Of<typeof schema.FixedAddress>
export type Parameter = Of<typeof schema.Parameter>
export type Destination = Of<typeof schema.Destination>
export type PortRef = Of<typeof schema.PortRef>
export type CableRule = Of<typeof schema.CableRule>
export type CableKind = Of<typeof schema.CableKind>
export type Cable = Of<typeof schema.Cable>
export type Box = Of<typeof schema.Box>
export type Computer = Of<typeof schema.Computer>
export type LearnedAddress = schema.LearnedAddress
export type Mapping = Of<typeof schema.Mapping>
export type Accord = Of<typeof schema.Accord>
export type LightRole = Of<typeof schema.LightRole>
export type LightAbility = Of<typeof schema.LightAbility>
export type PaletteEntry = Of<typeof schema.PaletteEntry>
export type HouseRule = Of<typeof schema.HouseRule>
export type Slot = Of<typeof schema.Slot>
export type Recipe = Of<typeof schema.Recipe>
export type Rehearsed = Of<typeof schema.Rehearsed>
export type LineChecked = Of<typeof schema.LineChecked>
export type CheckedStep = Of<typeof schema.CheckedStep>
export type SetAside = Of<typeof schema.SetAside>
export type Passage = Of<typeof schema.Passage>
export type Rig = Of<typeof schema.RigSchema>

/** A rig as written by hand or found in a file: fields with a default may be left out. */
export type RigInput = z.input<typeof schema.RigSchema>
