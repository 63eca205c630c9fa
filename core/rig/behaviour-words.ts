import type { Behaviour, Message, MessageOf } from './types'

type Controlling = MessageOf<'cc'> | MessageOf<'cc14'>

const span = (low: number, high: number): string => (low === high ? `${low}` : `${low}–${high}`)

/** What a button-like control sends one after the other: pressed, then let go or pressed again. */
const turns = (message: Controlling, released: number): string => {
  const { low, high } = message.range
  return low === high ? `${high}` : `${high}/${released}`
}

function behaviour(message: Controlling, sent: Behaviour): string[] {
  const { low, high } = message.range
  const released = message.kind === 'cc' ? (message.releaseValue ?? low) : low
  switch (sent.kind) {
    case 'absolute':
      if (message.kind === 'cc14') return [`${span(low, high)}, 14-bit`, '14-bit']
      return message.resolution.kind === 'steps'
        ? [`${span(low, high)}, ${message.resolution.count} steps`, `${message.resolution.count} steps`]
        : [span(low, high)]
    case 'relative':
      return ['relative', 'rel']
    case 'momentary':
      return [`held ${turns(message, released)}`, 'held']
    case 'toggle':
      return [`on/off ${turns(message, low)}`, 'on/off']
    case 'trigger':
      return [`once ${high}`, 'once']
    case 'latch':
      return [`stays ${span(low, high)}`, 'stays']
    case 'list':
      return [`${sent.values.length} values`, 'list']
  }
}

function noteWords({ behaviour: sent, velocity }: MessageOf<'note'>): string[] {
  const how = sent.kind === 'toggle' ? 'on/off' : sent.kind === 'trigger' ? 'once' : 'held'
  return velocity.kind === 'fixed'
    ? [`${how} at ${velocity.value}`, how]
    : [`${how} by force ${span(velocity.low, velocity.high)}`, `${how} by force`, how]
}

/**
 * What a control makes of being moved, short enough to stand on a picture of it: the longest form first. Values as they
 * are sent, low to high or, where that is how it is, high to low. Empty where nothing is sent.
 */
export function behaviourWords(message: Message): readonly string[] {
  switch (message.kind) {
    case 'off':
      return []
    case 'note':
      return noteWords(message)
    case 'cc':
    case 'cc14':
      return behaviour(message, message.behaviour)
    case 'nrpn':
    case 'rpn':
      if (message.steps === 'increments') return ['up and down', 'steps']
      return message.secondByte
        ? [`${span(message.range.low, message.range.high)}, 14-bit`, '14-bit']
        : [`${span(message.range.low, message.range.high)}, 7-bit`, '7-bit']
    case 'bend':
      return [`${span(message.range.low, message.range.high)}, 14-bit`, '14-bit']
    case 'pressure':
    case 'poly':
      return [span(message.range.low, message.range.high)]
    case 'mode':
      return [`once ${message.value}`, 'once']
    case 'program':
    case 'mmc':
    case 'realtime':
    case 'sysex':
      return ['once']
  }
}
