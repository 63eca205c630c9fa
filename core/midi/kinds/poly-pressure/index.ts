import { SEVEN_MAX } from '../../ranges'
import { sweep } from '../../travel'
import type { Kind } from '../kind'
import { keys, memberChannels, spanWords, status, widthOf } from '../shared'

/** Polyphonic Key Pressure (MIDI 1.0 Detailed Specification, "Channel Voice Messages"). */
export const polyPressure: Kind<'polyPressure'> = {
  scope: 'channel',
  numberMeans: 'sound',
  name: 'poly pressure',
  bounds: { low: 0, high: SEVEN_MAX },
  top: SEVEN_MAX,
  fresh: (use) => ({
    kind: 'polyPressure',
    moment: 'move',
    channel: 'home',
    keys: keys.fresh(use),
    range: { low: 0, high: SEVEN_MAX },
    threshold: 0,
  }),
  numberOf: (message) => keys.numberOf(message.keys),
  withNumber: (message, number) => ({ ...message, keys: { kind: 'one', number } }),
  tag: {
    print: (target) => keys.print('poly', target),
    read: (body) => keys.read(body, 'poly', 'polyPressure'),
  },
  target: (message) => {
    const written = keys.written(message.keys)
    return written && { kind: 'polyPressure', ...written }
  },
  withTarget: (message, target) => ({ ...message, keys: keys.with(message.keys, target) }),
  sent: (message) => keys.sent(message.keys, 'polyPressure'),
  parts: (message, channel) => {
    const { keys: held } = message
    return held.kind === 'zone'
      ? memberChannels(held).map((on) => ({ ...message, channel: on, keys: keys.asSpan(held) }))
      : [{ ...message, channel }]
  },
  landings: (message, channel) => keys.landings(message.keys, channel, 'polyPressure'),
  cells: (message, channel) => keys.cells(message.keys, channel, 'polyPressure'),
  bytes: (message, { channel, value, key }) => {
    const [on = channel] = keys.channels(message.keys, channel)
    return [status(0xa0, on), keys.played(message.keys, key), value]
  },
  sweepBytes: ({ keys: held, range }, most) => keys.atOnce(held) * Math.min(widthOf(range), most) * 3,
  travel: ({ range }) => sweep(range, SEVEN_MAX),
  words: ({ range }) => [spanWords(range.low, range.high)],
}
