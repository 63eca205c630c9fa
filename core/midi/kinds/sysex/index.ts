import { FOURTEEN_MAX, SEVEN_MAX } from '../../ranges'
import type { Kind } from '../kind'
import { lsb, msb, readWord } from '../shared'
import type { MessageOf } from '../types'

type Place = MessageOf<'sysex'>['bytes'][number]

const byteAt = (place: Place, value: number, device: number): number => {
  switch (place) {
    case 'value':
      return Math.min(value, SEVEN_MAX)
    case 'value-high':
      return msb(value)
    case 'value-low':
      return lsb(value)
    case 'device':
      return device
    default:
      return place
  }
}

/** System Exclusive between F0 and F7 (MIDI 1.0 Detailed Specification, "System Exclusive Messages"). */
export const sysex: Kind<'sysex'> = {
  scope: 'system',
  name: 'SysEx',
  bounds: null,
  top: FOURTEEN_MAX,
  fresh: () => ({
    kind: 'sysex',
    moment: 'move',
    bytes: [0x7d, 'value'],
    range: { low: 0, high: SEVEN_MAX },
  }),
  numberOf: () => null,
  withNumber: (message) => message,
  tag: { print: () => 'sysex', read: (text) => readWord(text, 'sysex', { kind: 'sysex' }) },
  target: () => ({ kind: 'sysex' }),
  withTarget: (message) => message,
  bytes: ({ bytes }, { value, device }) => [
    0xf0,
    ...bytes.map((place) => byteAt(place, value, device)),
    0xf7,
  ],
  sweepBytes: ({ bytes }) => bytes.length + 2,
  travel: () => ({ kind: 'signal' }),
  words: () => ['once'],
}
