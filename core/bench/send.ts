import {
  bytesOf,
  channelOf,
  isChannelMessage,
  keyAlone,
  keysFacet,
  leavesNumberOut,
  memberChannels,
  type SentMessage,
} from '../midi'
import { placeKey, splitGestureKey, type GestureKey, type Place } from '../rig'
import type { Amount } from './amount'
import type { Playing, Spoken, Zone } from './controller-state'
import { configureZone } from './express'
import { placed } from './placed'

/** The device number that a simulated controller has: all. */
const DEVICE = 0x7f

/** The member of its zone that a key plays on: the next in turn, and the same until it is let go. */
function memberOf(playing: Playing, zone: Zone, gesture: GestureKey, key: number): number {
  const members = memberChannels(zone)
  const control = splitGestureKey(gesture).control
  const [name, lastName] = [`${control} ${key}`, `${control} last`]
  const { members: given } = playing.state
  const index = (given[name] ?? (given[lastName] ?? -1) + 1) % members.length
  if (given[name] === undefined)
    playing.state = { ...playing.state, members: { ...given, [name]: index, [lastName]: index } }
  return members[index] ?? zone.manager
}

/** A message as it goes out: its channel a number, and of several keys the note of the one that is struck. */
function placedOn(playing: Playing, message: SentMessage, gesture: GestureKey, key: number): SentMessage {
  if (!isChannelMessage(message)) return message
  const channel = channelOf(message, playing.controller.homeChannel) ?? playing.controller.homeChannel
  if (!('keys' in message) || message.keys.kind === 'one') return placed(message, channel, null)
  const { keys } = message
  const number = keysFacet.played(keys, key + 12 * (playing.state.octaves[gesture] ?? 0))
  return placed(message, keys.kind === 'zone' ? memberOf(playing, keys, gesture, key) : channel, number)
}

/** Does a keyboard have this key? What plays one note has no keys of its own. */
const hasKey = (message: SentMessage, key: number): boolean =>
  !('keys' in message) || message.keys.kind === 'one' || keyAlone(message, key) !== null

/** The name of what a message said last: each key speaks for itself. */
export const sentName = (place: Place, { message, index }: Spoken, key: number): string =>
  `${placeKey(place)}#${index}${'keys' in message && message.keys.kind !== 'one' ? ` ${key}` : ''}`

/** Send one value of a message, unless the control has said it already. */
export function send(
  playing: Playing,
  at: number,
  place: Place,
  { message, index }: Spoken,
  value: number,
  amount: Amount,
  key: number,
  isRepeated: boolean,
): void {
  const name = sentName(place, { message, index }, key)
  const before = playing.state.sent[name]
  if ((!isRepeated && before === value) || !hasKey(message, key)) return
  if (value > 0) configureZone(playing, at, place, { message, index })
  const out = placedOn(playing, message, place.gesture, key)
  const channel = isChannelMessage(out) && typeof out.channel === 'number' ? out.channel : 1
  const isParameter = out.kind === 'nrpn' || out.kind === 'rpn'
  const parameter = isParameter ? `${out.kind} ${out.number}` : ''
  // A number is left out only while it is the one that this channel was told last.
  const isSelected = playing.state.selected[channel] === parameter
  const previous = isParameter && !isSelected ? null : (before ?? null)
  const bytes = bytesOf(out, { channel, value, previous, key, device: DEVICE })
  if (bytes.length === 0) return
  playing.state = {
    ...playing.state,
    sent: { ...playing.state.sent, [name]: value },
    selected: isParameter
      ? { ...playing.state.selected, [channel]: leavesNumberOut(out) ? parameter : '' }
      : playing.state.selected,
  }
  playing.sent.push({ at, place, messageIndex: index, message: out, amount, value, key, bytes })
}
