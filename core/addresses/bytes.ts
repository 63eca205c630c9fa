import type { ChannelMessage, Keys, MessageOf } from '../rig'

/** A DIN cable carries 31,250 bits a second, ten bits a byte (MIDI 1.0 Detailed Specification, "Hardware"). */
export const BAUD_BYTES_PER_MS = 31_250 / 10 / 1000

/** How often a control is read while it moves: it cannot send more values than this in a given time. */
const READ_EVERY_MS = 4
/** Keys that two hands hold down at once. */
const FINGERS = 10

const span = ({ low, high }: { low: number; high: number }): number => Math.abs(high - low) + 1
const keysAtOnce = (keys: Keys): number => (keys.kind === 'one' ? 1 : FINGERS)

/** How many messages a behaviour sends while its control goes from end to end. */
function messagesOf(message: MessageOf<'cc'> | MessageOf<'cc14'>, most: number): number {
  switch (message.behaviour.kind) {
    case 'absolute':
    case 'latch': {
      const steps =
        message.kind === 'cc' && message.resolution.kind === 'steps'
          ? message.resolution.count
          : span(message.range)
      return Math.min(steps, most)
    }
    case 'relative':
      return most
    case 'momentary':
    case 'toggle':
      return 2
    case 'trigger':
      return 1
    case 'list':
      return message.behaviour.values.length
  }
}

function parameterBytes(message: MessageOf<'nrpn'> | MessageOf<'rpn'>, most: number): number {
  const SELECT = 6
  const data = message.steps === 'values' && message.secondByte ? 6 : 3
  const each = data + (message.omitNumber ? 0 : SELECT) + (message.nullAfter ? SELECT : 0)
  const values = span(message.range) / (message.secondByte ? 1 : 128)
  const count = message.steps === 'increments' ? most : Math.min(Math.ceil(values), most)
  return count * each + (message.omitNumber ? SELECT : 0)
}

/**
 * Bytes that a gesture sends with a message, moved from end to end within `sweepMs`, without running
 * status (MIDI 1.0 Detailed Specification, "Data format").
 */
export function sweepBytes(message: ChannelMessage, sweepMs: number): number {
  const most = Math.floor(sweepMs / READ_EVERY_MS)
  switch (message.kind) {
    case 'note':
      return keysAtOnce(message.keys) * (message.highResolutionVelocity ? 9 : 6)
    case 'poly':
      return keysAtOnce(message.keys) * Math.min(span(message.range), most) * 3
    case 'cc':
      return messagesOf(message, most) * 3
    case 'cc14':
      return messagesOf(message, most) * (message.halves === 'both' ? 6 : 3)
    case 'nrpn':
    case 'rpn':
      return parameterBytes(message, most)
    case 'program':
      return message.bank === null ? 2 : 8
    case 'bend':
      return Math.min(span(message.range), most) * 3
    case 'pressure':
      return Math.min(span(message.range), most) * 2
    case 'mode':
      return 3
  }
}
