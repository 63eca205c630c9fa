import * as z from 'zod/mini'
import * as cc from './cc/schema'
import * as cc14 from './cc14/schema'
import * as channelMode from './channel-mode/schema'
import * as channelPressure from './channel-pressure/schema'
import * as mmc from './mmc/schema'
import * as note from './note/schema'
import * as nrpn from './nrpn/schema'
import * as off from './off/schema'
import * as pitchBend from './pitch-bend/schema'
import * as polyPressure from './poly-pressure/schema'
import * as program from './program/schema'
import * as realtime from './realtime/schema'
import * as rpn from './rpn/schema'
import * as sysex from './sysex/schema'

/** The schemas of every message kind, in the order in which kinds are offered. The list that types come from. */
export const SCHEMAS = {
  off,
  note,
  cc,
  cc14,
  nrpn,
  rpn,
  program,
  pitchBend,
  channelPressure,
  polyPressure,
  channelMode,
  mmc,
  realtime,
  sysex,
} as const

type Schemas = typeof SCHEMAS
type Kind = keyof Schemas
type MessageSchema = Schemas[Kind]['message']

/** Of what kinds a message can be, for other schemas. */
export const MESSAGE_KINDS = Object.keys(SCHEMAS) as [Kind, ...Kind[]]

/** What a gesture sends. */
export const Message = z.discriminatedUnion(
  'kind',
  Object.values(SCHEMAS).map(({ message }) => message) as unknown as [MessageSchema, ...MessageSchema[]],
)

type ChannelSchema = Extract<Schemas[Kind], { message: { shape: { channel: unknown } } }>
type SystemSchema = Exclude<Extract<Schemas[Kind], { target: z.ZodMiniType }>, ChannelSchema>

const isChannelSchema = (schema: Schemas[Kind]): schema is ChannelSchema => 'channel' in schema.message.shape
const all: ReadonlyArray<Schemas[Kind]> = Object.values(SCHEMAS)

/** Where a message lands within a channel. */
export const ChannelTarget = z.discriminatedUnion(
  'kind',
  all.filter(isChannelSchema).map(({ target }) => target) as unknown as [
    ChannelSchema['target'],
    ...Array<ChannelSchema['target']>,
  ],
)

/** Where a message lands that belongs to no channel. */
export const SystemTarget = z.discriminatedUnion(
  'kind',
  all.flatMap((schema) =>
    'target' in schema && !isChannelSchema(schema) ? [schema.target] : [],
  ) as unknown as [SystemSchema['target'], ...Array<SystemSchema['target']>],
)
