import { SEVEN_MAX, FOURTEEN_MAX, canBePairFirst, type Address, type Channel, type Target } from '../midi'
import type {
  Behaviour,
  ChannelMessage,
  ChannelOrHome,
  ControlKind,
  FixedAddress,
  GestureKind,
  Keys,
  Message,
  MessageKind,
} from './types'

export const MESSAGE_KIND_NAME: Readonly<Record<MessageKind, string>> = {
  off: 'nothing',
  note: 'note',
  cc: 'CC',
  cc14: '14-bit CC',
  nrpn: 'NRPN',
  rpn: 'RPN',
  program: 'program',
  bend: 'pitch bend',
  pressure: 'channel pressure',
  poly: 'poly pressure',
  mode: 'channel mode',
  mmc: 'MMC transport',
  realtime: 'real-time transport',
  sysex: 'SysEx',
}

/** Does the message travel on a channel? */
export function isChannelMessage(message: Message): message is ChannelMessage {
  switch (message.kind) {
    case 'off':
    case 'mmc':
    case 'realtime':
    case 'sysex':
      return false
    default:
      return true
  }
}

/** Where a message lands within its channel, or null while its number is still wanted or it sends nothing there. */
export function targetOf(message: Message): Target | null {
  switch (message.kind) {
    case 'note':
    case 'poly': {
      const { keys, kind } = message
      if (keys.kind !== 'one') return { kind, low: keys.low, high: keys.high }
      return keys.number === 'wanted' ? null : { kind, low: keys.number, high: keys.number }
    }
    case 'cc':
    case 'cc14':
    case 'nrpn':
    case 'rpn':
      return message.number === 'wanted' ? null : { kind: message.kind, number: message.number }
    case 'program':
      return message.number === 'wanted'
        ? null
        : { kind: 'program', number: message.number, bank: message.bank }
    case 'mode':
      return { kind: 'mode', number: message.number }
    case 'bend':
    case 'pressure':
      return { kind: message.kind }
    case 'off':
    case 'mmc':
    case 'realtime':
    case 'sysex':
      return null
  }
}

/** The channel a message goes out on, with "home" resolved; null for messages without channel. */
export const channelOf = (message: Message, homeChannel: Channel): Channel | null =>
  isChannelMessage(message) ? resolveChannel(message.channel, homeChannel) : null

export const resolveChannel = (channel: ChannelOrHome, homeChannel: Channel): Channel =>
  channel === 'home' ? homeChannel : channel

/** The address of a message with its channel as written ("home" stays "home"), or null if it has none yet. */
export function addressOf(message: Message): Address | null {
  switch (message.kind) {
    case 'mmc':
      return { scope: 'system', target: { kind: 'mmc', command: message.command } }
    case 'realtime':
      return { scope: 'system', target: { kind: 'realtime', command: message.command } }
    case 'sysex':
      return { scope: 'system', target: { kind: 'sysex' } }
    default: {
      const target = targetOf(message)
      return target === null || !isChannelMessage(message)
        ? null
        : { scope: 'channel', channel: message.channel, target }
    }
  }
}

/** As `addressOf`, with "home" replaced by the channel it stands for. */
export function sentAddress(message: Message, homeChannel: Channel): Address | null {
  const address = addressOf(message)
  return address?.scope === 'channel' ? { ...address, channel: channelOf(message, homeChannel) } : address
}

/** The address of a fixed parameter at a destination; its channel is null where it hears any. */
export function fixedTarget(fixed: FixedAddress): Target {
  switch (fixed.kind) {
    case 'note':
      return { kind: 'note', low: fixed.number, high: fixed.number }
    case 'program':
      return { kind: 'program', number: fixed.number, bank: fixed.bank }
    case 'bend':
    case 'pressure':
      return { kind: fixed.kind }
    default:
      return { kind: fixed.kind, number: fixed.number }
  }
}

const BUTTON_LIKE: ReadonlySet<ControlKind> = new Set(['button', 'pad', 'footswitch'])

const placed = { moment: 'move', channel: 'home' } as const
const wanted = { number: 'wanted' } as const
const fullSeven = (): { low: number; high: number } => ({ low: 0, high: SEVEN_MAX })
const fullFourteen = (): { low: number; high: number } => ({ low: 0, high: FOURTEEN_MAX })

const freshKeys = (control: ControlKind): Keys =>
  control === 'keybed'
    ? { kind: 'span', low: 36, high: 84, transpose: 0, octaveReach: 0 }
    : { kind: 'one', ...wanted }

const freshParameter = (kind: 'nrpn' | 'rpn'): Message => ({
  kind,
  ...placed,
  ...wanted,
  range: fullFourteen(),
  steps: 'values',
  omitNumber: false,
  secondByte: true,
  nullAfter: false,
})

/**
 * A plain message of a kind for a gesture, number still wanted: buttons momentary, encoders and the
 * rest absolute, keys as a span.
 */
export function freshMessage(kind: MessageKind, control: ControlKind, gesture: GestureKind): Message {
  const pressed = BUTTON_LIKE.has(control) || gesture === 'push' || gesture === 'touch'
  const behaviour: Behaviour = pressed ? { kind: 'momentary' } : { kind: 'absolute', turns: null }
  switch (kind) {
    case 'off':
      return { kind }
    case 'note':
      return {
        kind,
        ...placed,
        keys: freshKeys(control),
        behaviour: { kind: 'momentary' },
        velocity: { kind: 'sensed', curve: 'linear', low: 1, high: SEVEN_MAX },
        release: { kind: 'note-off', velocity: 64 },
        highResolutionVelocity: false,
      }
    case 'poly':
      return { kind, ...placed, keys: freshKeys(control), range: fullSeven(), threshold: 0 }
    case 'cc':
      return {
        kind,
        ...placed,
        ...wanted,
        range: fullSeven(),
        behaviour,
        resolution: { kind: 'full' },
        releaseValue: null,
      }
    case 'cc14':
      return { kind, ...placed, ...wanted, range: fullFourteen(), behaviour, halves: 'both' }
    case 'nrpn':
    case 'rpn':
      return freshParameter(kind)
    case 'program':
      return { kind, ...placed, ...wanted, bank: null }
    case 'bend':
      return { kind, ...placed, range: fullFourteen() }
    case 'pressure':
      return { kind, ...placed, range: fullSeven(), threshold: 0 }
    case 'mode':
      return { kind, ...placed, number: 123, value: 0 }
    case 'mmc':
      return { kind, moment: 'move', command: 'play' }
    case 'realtime':
      return { kind, moment: 'move', command: 'start' }
    case 'sysex':
      return { kind, moment: 'move', bytes: [0x7d, 'value'], range: fullSeven() }
  }
}

const scaleRange = (
  range: { low: number; high: number },
  from: number,
  to: number,
): { low: number; high: number } => ({
  low: Math.round((range.low / from) * to),
  high: Math.round((range.high / from) * to),
})

const widest = (message: Message): number =>
  message.kind === 'cc' || message.kind === 'pressure' || message.kind === 'poly' ? SEVEN_MAX : FOURTEEN_MAX

/**
 * The same assignment as another kind of message: channel, moment, number, range and behaviour stay
 * where the new kind has them; ranges scale between 7 and 14 bits.
 */
export function withKind(
  message: Message,
  kind: MessageKind,
  control: ControlKind,
  gesture: GestureKind,
): Message {
  if (message.kind === kind) return message
  const fresh = freshMessage(kind, control, gesture)
  const kept: Record<string, unknown> = { ...fresh }
  const old: Record<string, unknown> = { ...message }
  for (const field of ['moment', 'channel', 'behaviour', 'keys', 'bank']) {
    if (field in fresh && field in old) kept[field] = old[field]
  }
  if ('range' in fresh && 'range' in message) {
    kept.range = scaleRange(message.range, widest(message), widest(fresh))
  }
  const number = numberOf(message)
  if (number !== null) {
    if ('number' in fresh && fitsNumber(kind, number)) kept.number = number
    if ('keys' in fresh && !('keys' in message) && fresh.keys.kind === 'one') {
      kept.keys = { kind: 'one', number: Math.min(number, SEVEN_MAX) }
    }
  }
  return kept as Message
}

/** The one number a message carries, or null where it has none, several, or still wants one. */
export function numberOf(message: Message): number | null {
  if ('keys' in message) {
    return message.keys.kind === 'one' && message.keys.number !== 'wanted' ? message.keys.number : null
  }
  return 'number' in message && message.number !== 'wanted' ? message.number : null
}

/** The smallest and largest number that a kind of message can carry, or null where it carries none. */
export function numberBounds(kind: MessageKind): { low: number; high: number } | null {
  switch (kind) {
    case 'note':
    case 'cc':
    case 'poly':
    case 'program':
      return { low: 0, high: SEVEN_MAX }
    case 'cc14':
      return { low: 1, high: 31 }
    case 'nrpn':
    case 'rpn':
      return { low: 0, high: FOURTEEN_MAX }
    case 'mode':
      return { low: 120, high: SEVEN_MAX }
    default:
      return null
  }
}

export function fitsNumber(kind: MessageKind, number: number): boolean {
  const bounds = numberBounds(kind)
  if (bounds === null || !Number.isInteger(number)) return false
  return number >= bounds.low && number <= bounds.high && (kind !== 'cc14' || canBePairFirst(number))
}

/** The same message with another number (for notes and poly pressure: that one note). */
export function withNumber(message: Message, number: number): Message {
  if (!fitsNumber(message.kind, number)) {
    throw new RangeError(`${MESSAGE_KIND_NAME[message.kind]} cannot carry the number ${number}.`)
  }
  if ('keys' in message) return { ...message, keys: { kind: 'one', number } }
  return 'number' in message ? ({ ...message, number } as Message) : message
}

/** The same message on another channel; messages without channel stay as they are. */
export const withChannel = (message: Message, channel: ChannelOrHome): Message =>
  isChannelMessage(message) ? { ...message, channel } : message

/**
 * A message sent to a typed address: kind, number and channel from the address (no channel: the old
 * one stays), everything else from the message as far as the kind allows.
 */
export function withAddress(
  message: Message,
  address: Address,
  control: ControlKind,
  gesture: GestureKind,
): Message {
  if (address.scope === 'system') {
    const { target } = address
    const base = withKind(message, target.kind, control, gesture)
    return target.kind === 'sysex' ? base : ({ ...base, command: target.command } as Message)
  }
  const { target } = address
  const turned = withKind(message, target.kind, control, gesture)
  const placedMessage = address.channel === null ? turned : withChannel(turned, address.channel)
  switch (target.kind) {
    case 'note':
    case 'poly': {
      const keys: Keys =
        target.low === target.high
          ? { kind: 'one', number: target.low }
          : keptSpan(placedMessage, target.low, target.high)
      return { ...placedMessage, keys } as Message
    }
    case 'program':
      return { ...placedMessage, number: target.number, bank: target.bank } as Message
    case 'bend':
    case 'pressure':
      return placedMessage
    default:
      return withNumber(placedMessage, target.number)
  }
}

function keptSpan(message: Message, low: number, high: number): Keys {
  return 'keys' in message && message.keys.kind !== 'one'
    ? { ...message.keys, low, high }
    : { kind: 'span', low, high, transpose: 0, octaveReach: 0 }
}
