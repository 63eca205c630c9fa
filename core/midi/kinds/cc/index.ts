import { ANY_VALUE, plainCell, type Interval } from '../../cells'
import { SEVEN_MAX } from '../../ranges'
import { encodeClicks } from '../../relative'
import { behavedTravel, steppedSweep, sweep, turnsOf } from '../../travel'
import { controllingWords } from '../controlling'
import type { Kind } from '../kind'
import {
  behavedCount,
  controlChange,
  freshBehaviour,
  plainNumber,
  readNumbered,
  spanWords,
  widthOf,
} from '../shared'
import type { MessageOf } from '../types'

const bounds = { low: 0, high: SEVEN_MAX }
const single = (value: number): Interval => ({ low: value, high: value })
const ordered = (low: number, high: number): Interval =>
  low <= high ? { low, high } : { low: high, high: low }

/** What it sends when let go, where its control is momentary. */
const released = ({ releaseValue, range }: MessageOf<'cc'>): number => releaseValue ?? range.low

function sentValues(message: MessageOf<'cc'>): readonly Interval[] {
  const { low, high } = message.range
  switch (message.behaviour.kind) {
    case 'absolute':
    case 'latch':
      return [ordered(low, high)]
    case 'relative':
      return ANY_VALUE
    case 'trigger':
    case 'momentary':
      return [single(high)]
    case 'toggle':
      return low === high ? [single(low)] : [single(low), single(high)]
    case 'list':
      return message.behaviour.values.map(single)
  }
}

/** Control Change with one number of seven bits (MIDI 1.0 Detailed Specification, "Control Change"). */
export const cc: Kind<'cc'> = {
  scope: 'channel',
  numberMeans: 'nothing',
  name: 'CC',
  bounds,
  top: SEVEN_MAX,
  fresh: (use) => ({
    kind: 'cc',
    moment: 'move',
    channel: 'home',
    number: 'wanted',
    range: { low: 0, high: SEVEN_MAX },
    behaviour: freshBehaviour(use),
    resolution: { kind: 'full' },
    releaseValue: null,
  }),
  numberOf: plainNumber,
  withNumber: (message, number) => ({ ...message, number }),
  tag: {
    print: ({ number }) => `cc${number}`,
    read: (body) => readNumbered(body, 'cc', 'CC', bounds, (number) => ({ kind: 'cc', number })),
  },
  target: ({ number }) => (number === 'wanted' ? null : { kind: 'cc', number }),
  withTarget: (message, { number }) => ({ ...message, number }),
  landings: ({ number }, channel) =>
    number === 'wanted' ? [] : [{ channel, target: { kind: 'cc', number } }],
  cells: (message, channel) =>
    message.number === 'wanted'
      ? []
      : [{ ...plainCell('cc', channel, message.number, 'main'), sent: sentValues(message) }],
  bytes: ({ number, behaviour }, { channel, value }) => {
    if (number === 'wanted') return []
    const sent = behaviour.kind === 'relative' ? encodeClicks(behaviour.encoding, value) : value
    return controlChange(channel, number, sent)
  },
  sweepBytes: ({ behaviour, range, resolution }, most) =>
    behavedCount(behaviour, resolution.kind === 'steps' ? resolution.count : widthOf(range), most) * 3,
  travel: (message, clicksPerTurn) => {
    const { range, behaviour, resolution } = message
    const pressed = behavedTravel(behaviour, range, SEVEN_MAX, released(message), clicksPerTurn)
    if (pressed) return pressed
    if (range.low === range.high)
      return { kind: 'points', values: [range.low], top: SEVEN_MAX, isKept: false }
    return resolution.kind === 'steps'
      ? steppedSweep(range, resolution.count, turnsOf(behaviour))
      : sweep(range, SEVEN_MAX, turnsOf(behaviour))
  },
  words: (message) => {
    const { range, resolution } = message
    const span = spanWords(range.low, range.high)
    return controllingWords(
      message,
      released(message),
      resolution.kind === 'steps'
        ? [`${span}, ${resolution.count} steps`, `${resolution.count} steps`]
        : [span],
    )
  },
}
