import { plainCell } from '../../cells'
import { SEVEN_MAX } from '../../ranges'
import type { Kind } from '../kind'
import { controlChange, readNumbered } from '../shared'

const bounds = { low: 120, high: SEVEN_MAX }

/** Channel Mode: controllers 120–127 (MIDI 1.0 Detailed Specification, "Channel Mode Messages"). */
export const channelMode: Kind<'channelMode'> = {
  scope: 'channel',
  numberMeans: 'standard',
  name: 'channel mode',
  bounds,
  top: null,
  fresh: () => ({ kind: 'channelMode', moment: 'move', channel: 'home', number: 123, value: 0 }),
  numberOf: ({ number }) => number,
  withNumber: (message, number) => ({ ...message, number }),
  tag: {
    print: ({ number }) => `mode${number}`,
    read: (body) => readNumbered(body, 'mode', 'Mode', bounds, (number) => ({ kind: 'channelMode', number })),
  },
  target: ({ number }) => ({ kind: 'channelMode', number }),
  withTarget: (message, { number }) => ({ ...message, number }),
  landings: ({ number }, channel) => [{ channel, target: { kind: 'channelMode', number } }],
  cells: ({ number }, channel) => [plainCell('cc', channel, number, 'repeatable')],
  bytes: ({ number, value }, { channel }) => controlChange(channel, number, value),
  sweepBytes: () => 3,
  travel: () => ({ kind: 'signal' }),
  words: ({ value }) => [`once ${value}`, 'once'],
}
