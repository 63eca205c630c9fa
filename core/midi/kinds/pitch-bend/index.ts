import { plainCell } from '../../cells'
import { FOURTEEN_MAX } from '../../ranges'
import { sweep } from '../../travel'
import type { Kind } from '../kind'
import { lsb, msb, readWord, spanWords, status, widthOf } from '../shared'

/** Pitch Bend Change, LSB first (MIDI 1.0 Detailed Specification, "Channel Voice Messages"). */
export const pitchBend: Kind<'pitchBend'> = {
  scope: 'channel',
  numberMeans: null,
  name: 'pitch bend',
  bounds: null,
  top: FOURTEEN_MAX,
  fresh: () => ({
    kind: 'pitchBend',
    moment: 'move',
    channel: 'home',
    range: { low: 0, high: FOURTEEN_MAX },
  }),
  numberOf: () => null,
  withNumber: (message) => message,
  tag: { print: () => 'bend', read: (body) => readWord(body, 'bend', { kind: 'pitchBend' }) },
  target: () => ({ kind: 'pitchBend' }),
  withTarget: (message) => message,
  landings: (_, channel) => [{ channel, target: { kind: 'pitchBend' } }],
  cells: (_, channel) => [plainCell('pitchBend', channel, 0, 'channel-wide')],
  bytes: (_, { channel, value }) => [status(0xe0, channel), lsb(value), msb(value)],
  sweepBytes: ({ range }, most) => Math.min(widthOf(range), most) * 3,
  travel: ({ range }) => sweep(range, FOURTEEN_MAX),
  words: ({ range }) => [`${spanWords(range.low, range.high)}, 14-bit`, '14-bit'],
}
