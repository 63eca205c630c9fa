import {
  fitsNumber,
  isChannelMessage,
  KINDS,
  numberOf,
  SEVEN_MAX,
  topOf,
  withChannel,
  withTarget,
  type Address,
  type ChannelTarget,
} from '../midi'
import type { CableKind, ControlKind, FixedAddress, GestureKind, Message, MessageKind } from './types'

export {
  addressOf,
  behaviourWords,
  channelOf,
  fitsNumber,
  isChannelMessage,
  MESSAGE_KIND_NAME,
  numberBounds,
  numberOf,
  resolveChannel,
  sentAddress,
  targetOf,
  topOf,
  withChannel,
  withNumber,
} from '../midi'

/** Every message kind, in the order in which they are offered. */
export const MESSAGE_KINDS = Object.keys(KINDS) as readonly MessageKind[]
/** The kinds of what a cable carries. From the list of kinds, not of schemas: the worker has no schemas. */
export const CABLE_KINDS = MESSAGE_KINDS.filter((kind): kind is CableKind => kind !== 'off')

/** The address of a fixed parameter at a destination; its channel is null where it hears any. */
export function fixedTarget(fixed: FixedAddress): ChannelTarget {
  switch (fixed.kind) {
    case 'note':
      return { kind: 'note', low: fixed.number, high: fixed.number }
    case 'program':
      return { kind: 'program', number: fixed.number, bank: fixed.bank }
    case 'pitchBend':
    case 'channelPressure':
      return { kind: fixed.kind }
    default:
      return { kind: fixed.kind, number: fixed.number }
  }
}

const BUTTON_LIKE: ReadonlySet<ControlKind> = new Set(['button', 'pad', 'footswitch'])

/**
 * A plain message of a kind for a gesture, number still wanted: buttons momentary, encoders and the
 * rest absolute, keys as a span.
 */
export const freshMessage = (kind: MessageKind, control: ControlKind, gesture: GestureKind): Message =>
  KINDS[kind].fresh({
    isPressed: BUTTON_LIKE.has(control) || gesture === 'push' || gesture === 'touch',
    isKeyboard: control === 'keybed',
  })

const scaleRange = (
  range: { low: number; high: number },
  from: number,
  to: number,
): { low: number; high: number } => ({
  low: Math.round((range.low / from) * to),
  high: Math.round((range.high / from) * to),
})

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
  const [from, to] = [topOf(message), topOf(fresh)]
  if ('range' in fresh && 'range' in message && from !== null && to !== null) {
    kept.range = scaleRange(message.range, from, to)
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
  const turned = withTarget(withKind(message, address.target.kind, control, gesture), address.target)
  return address.scope === 'system' || address.channel === null || !isChannelMessage(turned)
    ? turned
    : withChannel(turned, address.channel)
}
