import type { Address, ChannelAddress } from './addresses'
import type { Cell } from './cells'
import { KINDS } from './kinds'
import type { Movement } from './kinds/kind'
import type {
  ChannelMessage,
  ChannelOrHome,
  Message,
  MessageKind,
  SystemTarget,
  Target,
  ChannelTarget,
} from './kinds/types'
import type { Channel } from './ranges'
import type { Travel } from './travel'

/** A kind's definition, for a message of which only that is known that it belongs to it. */
interface AnyKind {
  scope: 'channel' | 'system' | 'none'
  top: number | null
  numberOf: (message: Message) => number | null
  withNumber: (message: Message, number: number) => Message
  bytes: (message: Message, movement: Movement) => number[]
  sweepBytes: (message: Message, most: number) => number
  travel: (message: Message, clicksPerTurn: number | null) => Travel
  words: (message: Message) => readonly string[]
}
interface AnyAddressed extends AnyKind {
  target: (message: Message) => Target | null
  withTarget: (message: Message, target: Target) => Message
}
interface AnyChannelKind extends AnyAddressed {
  numberMeans: 'nothing' | 'sound' | 'standard' | null
  sent?: (message: Message) => ChannelTarget | null
  parts?: (message: Message, channel: Channel) => ChannelMessage[]
  landings: (message: Message, channel: Channel) => Array<{ channel: Channel; target: ChannelTarget }>
  cells: (message: Message, channel: Channel) => Cell[]
}

const kindOf = ({ kind }: Message): AnyKind => KINDS[kind] as unknown as AnyKind
const channelKindOf = ({ kind }: ChannelMessage): AnyChannelKind => KINDS[kind] as unknown as AnyChannelKind
const addressedKindOf = ({ kind }: Message): AnyAddressed => KINDS[kind] as unknown as AnyAddressed

/** Message kinds in plain words, within a sentence. */
export const MESSAGE_KIND_NAME = Object.fromEntries(
  Object.entries(KINDS).map(([kind, { name }]) => [kind, name]),
) as Readonly<Record<MessageKind, string>>

/** Does the message travel on a channel? */
export const isChannelMessage = (message: Message): message is ChannelMessage => 'channel' in message

/** The channel itself, 1–16, with "home" replaced by what it stands for. */
export const resolveChannel = (channel: ChannelOrHome, homeChannel: Channel): Channel =>
  channel === 'home' ? homeChannel : channel

/** The channel a message goes out on, with "home" resolved; null for messages without channel. */
export const channelOf = (message: Message, homeChannel: Channel): Channel | null =>
  isChannelMessage(message) ? resolveChannel(message.channel, homeChannel) : null

/** Where a message lands as it is written, without its channel; null while a number is wanted, and for nothing. */
export const targetOf = (message: Message): Target | null =>
  message.kind === 'off' ? null : addressedKindOf(message).target(message)

/** The address of a message as it is written ("home" stays "home"); null if it has none yet. */
export function addressOf(message: Message): Address | null {
  const target = targetOf(message)
  if (target === null) return null
  return isChannelMessage(message)
    ? { scope: 'channel', channel: message.channel, target: target as ChannelTarget }
    : { scope: 'system', target: target as SystemTarget }
}

/**
 * Where a message is sent: "home" replaced by the channel it stands for, keys transposed, of a pair only what is sent.
 * Null while a number is wanted, and for nothing.
 */
export function sentAddress(message: Message, homeChannel: Channel): Address | null {
  if (!isChannelMessage(message)) return addressOf(message)
  const kind = channelKindOf(message)
  const target = kind.sent ? kind.sent(message) : kind.target(message)
  return (
    target && {
      scope: 'channel',
      channel: resolveChannel(message.channel, homeChannel),
      target: target as ChannelTarget,
    }
  )
}

/** The messages that a message really is, sent on a channel: those of each member of a zone, for one. */
export function partsOf(message: ChannelMessage, channel: Channel): ChannelMessage[] {
  const on = withChannel(message, channel)
  return channelKindOf(message).parts?.(on, channel) ?? [on]
}

/** Where a message really lands, sent on a channel: transposed, the half that is sent, each member of a zone. */
export const landingsOf = (message: ChannelMessage, channel: Channel): ChannelAddress[] =>
  channelKindOf(message)
    .landings(message, channel)
    .map((landing) => ({ scope: 'channel', ...landing }))

/**
 * The cells that a message occupies, sent on a channel, before any cable: the spot it means (`main`), both numbers
 * of a pair, the carriers of parameters and bank select. Empty while a number is wanted, and for messages
 * without channel.
 */
export function cellsOf(message: Message, homeChannel: Channel): Cell[] {
  const channel = channelOf(message, homeChannel)
  return channel === null || !isChannelMessage(message) ? [] : channelKindOf(message).cells(message, channel)
}

/** The one number a message carries, or null where it has none, several, or still wants one. */
export const numberOf = (message: Message): number | null => kindOf(message).numberOf(message)

/** What the number of a message means to whoever hears it; null where it has none. */
export const numberMeaning = (message: ChannelMessage): 'nothing' | 'sound' | 'standard' | null =>
  channelKindOf(message).numberMeans

/** The smallest and largest number that a kind of message can carry, or null where it carries none. */
export const numberBounds = (kind: MessageKind): { low: number; high: number } | null => KINDS[kind].bounds

/** Can a kind of message carry a number? */
export function fitsNumber(kind: MessageKind, number: number): boolean {
  const { bounds } = KINDS[kind]
  if (bounds === null || !Number.isInteger(number)) return false
  return number >= bounds.low && number <= bounds.high && !bounds.without?.includes(number)
}

/**
 * The same message with another number (for notes and poly pressure: that one note). Throws a RangeError if its kind
 * cannot carry it.
 */
export function withNumber(message: Message, number: number): Message {
  if (!fitsNumber(message.kind, number))
    throw new RangeError(`${MESSAGE_KIND_NAME[message.kind]} cannot carry the number ${number}.`)
  return kindOf(message).withNumber(message, number)
}

/** The same message at another target of its own kind. */
export const withTarget = (message: Message, target: Target): Message =>
  message.kind === target.kind ? addressedKindOf(message).withTarget(message, target) : message

/** The same message on another channel; messages without channel stay as they are. */
export const withChannel = <M extends Message>(message: M, channel: ChannelOrHome): M =>
  isChannelMessage(message) ? { ...message, channel } : message

/** The highest value of a message's range: 127 or 16383; null where it has no range. */
export const topOf = ({ kind }: { kind: MessageKind }): number | null => KINDS[kind].top

/** The bytes of one value of a message; empty for nothing, and while a number is wanted. */
export const bytesOf = (message: Message, movement: Movement): number[] =>
  kindOf(message).bytes(message, movement)

/** How often a control is read while it moves, in ms: it cannot send more values than this in a given time. */
const READ_EVERY_MS = 4

/**
 * Bytes that a gesture sends with a message, moved from end to end within `sweepMs`, without running status (MIDI 1.0
 * Detailed Specification, "Data Format").
 */
export const sweepBytes = (message: Message, sweepMs: number): number =>
  kindOf(message).sweepBytes(message, Math.floor(sweepMs / READ_EVERY_MS))

/** What a message makes of the movement of its control. A control that sends one value only has one point. */
export const travelOf = (message: Message, control: { detentsPerTurn: number | null }): Travel =>
  kindOf(message).travel(message, control.detentsPerTurn)

/**
 * What a control makes of being moved, short enough to stand on a picture of it: the longest form first. Values as they
 * are sent, low to high or, where that is how it is, high to low. Empty where nothing is sent.
 */
export const behaviourWords = (message: Message): readonly string[] => kindOf(message).words(message)
