import type * as z from 'zod/mini'
import type * as parts from './parts'
import type * as schemas from './schemas'
import type { ChannelOrHome as ChannelOrHomeSchema } from '../schema'

type Of<T extends z.ZodMiniType> = z.infer<T>

export type Message = Of<typeof schemas.Message>
export type MessageKind = Message['kind']
export type MessageOf<K extends MessageKind> = Extract<Message, { kind: K }>
/** A message that travels on a channel. */
export type ChannelMessage = Extract<Message, { channel: unknown }>
/** A message that belongs to no channel. */
export type SystemMessage = Exclude<Message, ChannelMessage | { kind: 'off' }>
/** A message that is sent at all. */
export type SentMessage = Exclude<Message, { kind: 'off' }>

/** Where a message lands within a channel. */
export type ChannelTarget = Of<typeof schemas.ChannelTarget>
/** Where a message lands that belongs to no channel. */
export type SystemTarget = Of<typeof schemas.SystemTarget>
/**
 * Where a message lands, without its channel. Numbers count from 0 as on the wire (MIDI 1.0 Detailed
 * Specification, "Channel Voice Messages").
 */
export type Target = ChannelTarget | SystemTarget
export type TargetOf<K extends Target['kind']> = Extract<Target, { kind: K }>

export type Moment = Of<typeof parts.Moment>
export type Behaviour = Of<typeof parts.Behaviour>
export type RelativeEncoding = Of<typeof parts.RelativeEncoding>
export type Keys = Of<typeof parts.Keys>
export type ChannelOrHome = Of<typeof ChannelOrHomeSchema>
