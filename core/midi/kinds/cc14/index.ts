import { plainCell, type Cell } from '../../cells'
import { PAIR_DISTANCE, canBePairFirst } from '../../controllers'
import { FOURTEEN_MAX } from '../../ranges'
import { encodeClicks } from '../../relative'
import { behavedTravel, coarseSweep, sweep, turnsOf } from '../../travel'
import { controllingWords } from '../controlling'
import type { Kind } from '../kind'
import {
  behavedCount,
  controlChange,
  freshBehaviour,
  lsb,
  msb,
  plainNumber,
  spanWords,
  widthOf,
} from '../shared'

/** A pair of controllers, n for the MSB and n + 32 for the LSB (MIDI 1.0 Detailed Specification, Table III). */
export const cc14: Kind<'cc14'> = {
  scope: 'channel',
  numberMeans: 'nothing',
  name: '14-bit CC',
  bounds: { low: 1, high: 31, without: [6] },
  top: FOURTEEN_MAX,
  fresh: (use) => ({
    kind: 'cc14',
    moment: 'move',
    channel: 'home',
    number: 'wanted',
    range: { low: 0, high: FOURTEEN_MAX },
    behaviour: freshBehaviour(use),
    halves: 'both',
  }),
  numberOf: plainNumber,
  withNumber: (message, number) => ({ ...message, number }),
  tag: {
    print: ({ number }) => `cc${number}+${number + PAIR_DISTANCE}`,
    read: (body) => {
      const match = /^cc(\d+)\+(\d+)$/.exec(body)
      if (!match) return null
      const [number, second] = [Number(match[1]), Number(match[2])]
      if (!canBePairFirst(number))
        return {
          ok: false,
          message: `A 14-bit pair starts at CC 1 to 31, but not 6; ${number} cannot start one.`,
        }
      return second === number + PAIR_DISTANCE
        ? { ok: true, target: { kind: 'cc14', number } }
        : {
            ok: false,
            message: `The second half of CC ${number} is ${number + PAIR_DISTANCE}, not ${second}.`,
          }
    },
  },
  target: ({ number }) => (number === 'wanted' ? null : { kind: 'cc14', number }),
  withTarget: (message, { number }) => ({ ...message, number }),
  sent: ({ number, halves }) =>
    number === 'wanted' ? null : { kind: halves === 'msb-only' ? 'cc' : 'cc14', number },
  landings: ({ number, halves }, channel) =>
    number === 'wanted' ? [] : [{ channel, target: { kind: halves === 'msb-only' ? 'cc' : 'cc14', number } }],
  cells: ({ number, halves }, channel) => {
    if (number === 'wanted' || !canBePairFirst(number)) return []
    const first: Cell = { ...plainCell('cc', channel, number, 'main'), part: 'msb' }
    return halves === 'msb-only'
      ? [{ ...first, part: 'whole' }]
      : [first, { ...first, number: number + PAIR_DISTANCE, part: 'lsb' }]
  },
  bytes: ({ number, behaviour, halves }, { channel, value, previous }) => {
    if (number === 'wanted') return []
    if (behaviour.kind === 'relative')
      return controlChange(channel, number, encodeClicks(behaviour.encoding, value))
    const low = controlChange(channel, number + PAIR_DISTANCE, lsb(value))
    const isSame = previous !== null && msb(previous) === msb(value)
    if (halves === 'lsb-while-msb-same' && isSame) return low
    return [...controlChange(channel, number, msb(value)), ...(halves === 'msb-only' ? [] : low)]
  },
  sweepBytes: ({ behaviour, range, halves }, most) => {
    if (behaviour.kind === 'relative') return most * 3
    const msbs = Math.abs(msb(range.high) - msb(range.low)) + 1
    if (halves === 'msb-only') return behavedCount(behaviour, msbs, most) * 3
    const count = behavedCount(behaviour, widthOf(range), most)
    return halves === 'both' ? count * 6 : (count + Math.min(count, msbs)) * 3
  },
  travel: ({ range, behaviour, halves }, clicksPerTurn) => {
    const pressed = behavedTravel(behaviour, range, FOURTEEN_MAX, range.low, clicksPerTurn)
    if (pressed) return pressed
    return halves === 'msb-only'
      ? coarseSweep(range, turnsOf(behaviour))
      : sweep(range, FOURTEEN_MAX, turnsOf(behaviour))
  },
  words: (message) => {
    const { low, high } = message.range
    return controllingWords(message, low, [`${spanWords(low, high)}, 14-bit`, '14-bit'])
  },
}
