import { plainCell } from '../../cells'
import { SEVEN_MAX } from '../../ranges'
import { sweep } from '../../travel'
import type { Kind } from '../kind'
import { readWord, spanWords, status, widthOf } from '../shared'

/** Channel Pressure (MIDI 1.0 Detailed Specification, "Channel Voice Messages"). */
export const channelPressure: Kind<'channelPressure'> = {
  scope: 'channel',
  numberMeans: null,
  name: 'channel pressure',
  bounds: null,
  top: SEVEN_MAX,
  fresh: () => ({
    kind: 'channelPressure',
    moment: 'move',
    channel: 'home',
    range: { low: 0, high: SEVEN_MAX },
    threshold: 0,
  }),
  numberOf: () => null,
  withNumber: (message) => message,
  tag: { print: () => 'pressure', read: (body) => readWord(body, 'pressure', { kind: 'channelPressure' }) },
  target: () => ({ kind: 'channelPressure' }),
  withTarget: (message) => message,
  landings: (_, channel) => [{ channel, target: { kind: 'channelPressure' } }],
  cells: (_, channel) => [plainCell('channelPressure', channel, 0, 'channel-wide')],
  bytes: (_, { channel, value }) => [status(0xd0, channel), value],
  sweepBytes: ({ range }, most) => Math.min(widthOf(range), most) * 2,
  travel: ({ range }) => sweep(range, SEVEN_MAX),
  words: ({ range }) => [spanWords(range.low, range.high)],
}
