import { carrierCells, plainCell } from '../../cells'
import { SEVEN_MAX } from '../../ranges'
import type { Kind, Landing } from '../kind'
import { controlChange, keys, memberChannels, spanWords, status } from '../shared'
import { cc } from '../cc'
import { channelPressure } from '../channel-pressure'
import { pitchBend } from '../pitch-bend'
import { rpn } from '../rpn'
import type { ChannelMessage, MessageOf } from '../types'

/** The controller that a zone sends for each note besides bend and pressure (MIDI Polyphonic Expression 1.0, section 2). */
const TIMBRE = 74
/** The RPN by which a manager says how many members its zone has (same document, section 2.1). */
const ZONE_RPN = 6
/** High-resolution velocity prefix (CA-031). */
const VELOCITY_LSB = 88

const MOVED = { isPressed: false, isKeyboard: false }

const how = ({ behaviour }: MessageOf<'note'>): string =>
  behaviour.kind === 'toggle' ? 'on/off' : behaviour.kind === 'trigger' ? 'once' : 'held'

/** What a zone says of one note besides that it sounds. */
export type Expression = 'bend' | 'pressure' | 'timbre'

/** The messages by which a member channel says it (MIDI Polyphonic Expression 1.0, section 2). The same for the same channel. */
export const expressionOn = (channel: number): Readonly<Record<Expression, ChannelMessage>> => {
  const known = expressions.get(channel)
  if (known) return known
  const made: Record<Expression, ChannelMessage> = {
    bend: { ...pitchBend.fresh(MOVED), channel },
    pressure: { ...channelPressure.fresh(MOVED), channel },
    timbre: { ...cc.fresh(MOVED), channel, number: TIMBRE },
  }
  expressions.set(channel, made)
  return made
}
const expressions = new Map<number, Readonly<Record<Expression, ChannelMessage>>>()

/** The message by which a manager says how many members its zone has: its value is the data byte (same document, section 2.1). */
export const zoneConfiguration = ({ manager }: { manager: number }): ChannelMessage => {
  const known = configurations.get(manager)
  if (known) return known
  const made: ChannelMessage = { ...rpn.fresh(MOVED), channel: manager, number: ZONE_RPN, sendsLsb: false }
  configurations.set(manager, made)
  return made
}
const configurations = new Map<number, ChannelMessage>()

/** Note On and Note Off (MIDI 1.0 Detailed Specification, "Channel Voice Messages"). */
export const note: Kind<'note'> = {
  scope: 'channel',
  numberMeans: 'sound',
  name: 'note',
  bounds: { low: 0, high: SEVEN_MAX },
  top: null,
  fresh: (use) => ({
    kind: 'note',
    moment: 'move',
    channel: 'home',
    keys: keys.fresh(use),
    behaviour: { kind: 'momentary' },
    velocity: { kind: 'sensed', curve: 'linear', low: 1, high: SEVEN_MAX },
    release: { kind: 'note-off', velocity: 64 },
    highResolutionVelocity: false,
  }),
  numberOf: (message) => keys.numberOf(message.keys),
  withNumber: (message, number) => ({ ...message, keys: { kind: 'one', number } }),
  tag: {
    print: (target) => keys.print('note', target),
    read: (body) => keys.read(body, 'note', 'note'),
  },
  target: (message) => {
    const written = keys.written(message.keys)
    return written && { kind: 'note', ...written }
  },
  withTarget: (message, target) => ({ ...message, keys: keys.with(message.keys, target) }),
  sent: (message) => keys.sent(message.keys, 'note'),
  parts: (message, channel) => {
    const { keys: held, highResolutionVelocity, moment } = message
    const plain = { ...message, highResolutionVelocity: false }
    const velocity = (on: number): ChannelMessage[] =>
      highResolutionVelocity ? [{ ...cc.fresh(MOVED), moment, channel: on, number: VELOCITY_LSB }] : []
    if (held.kind !== 'zone') return [plain, ...velocity(channel)]
    return [
      ...memberChannels(held).flatMap((on): ChannelMessage[] => [
        { ...plain, channel: on, keys: keys.asSpan(held) },
        ...Object.values(expressionOn(on)),
        ...velocity(on),
      ]),
      zoneConfiguration(held),
    ]
  },
  landings: (message, channel) => {
    const notes = keys.landings(message.keys, channel, 'note')
    if (message.keys.kind !== 'zone') return notes
    return [
      ...notes,
      ...memberChannels(message.keys).flatMap((on): Landing[] => [
        { channel: on, target: { kind: 'pitchBend' } },
        { channel: on, target: { kind: 'channelPressure' } },
        { channel: on, target: { kind: 'cc', number: TIMBRE } },
      ]),
    ]
  },
  cells: (message, channel) => {
    const cells = keys.cells(message.keys, channel, 'note')
    const channels = keys.channels(message.keys, channel)
    if (message.keys.kind === 'zone') {
      for (const on of channels)
        cells.push(
          plainCell('pitchBend', on, 0, 'channel-wide'),
          plainCell('channelPressure', on, 0, 'channel-wide'),
          plainCell('cc', on, TIMBRE, 'main'),
        )
      const { manager } = message.keys
      cells.push(plainCell('rpn', manager, ZONE_RPN, 'main'), ...carrierCells(manager, [100, 101, 6]))
    }
    if (message.highResolutionVelocity && cells.length > 0)
      for (const on of channels) cells.push(plainCell('cc', on, VELOCITY_LSB, 'main'))
    return cells
  },
  bytes: (message, { channel, value, key }) => {
    const [on = channel] = keys.channels(message.keys, channel)
    const number = keys.played(message.keys, key)
    if (value === 0)
      return message.release.kind === 'note-off'
        ? [status(0x80, on), number, message.release.velocity]
        : [status(0x90, on), number, 0]
    const prefix = message.highResolutionVelocity ? controlChange(on, VELOCITY_LSB, 0) : []
    return [...prefix, status(0x90, on), number, value]
  },
  sweepBytes: ({ keys: held, highResolutionVelocity }) =>
    keys.atOnce(held) * (highResolutionVelocity ? 9 : 6),
  travel: ({ velocity, behaviour }) => {
    const hardest = velocity.kind === 'fixed' ? velocity.value : velocity.high
    if (behaviour.kind === 'toggle')
      return { kind: 'points', values: [0, hardest], top: SEVEN_MAX, isKept: true }
    return { kind: 'strike', low: velocity.kind === 'fixed' ? hardest : velocity.low, high: hardest }
  },
  words: (message) => {
    const { velocity } = message
    const sent = how(message)
    return velocity.kind === 'fixed'
      ? [`${sent} at ${velocity.value}`, sent]
      : [`${sent} by force ${spanWords(velocity.low, velocity.high)}`, `${sent} by force`, sent]
  },
}
