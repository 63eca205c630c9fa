import { printBank } from '../../banks'
import { carrierCells, plainCell } from '../../cells'
import { isWhole, SEVEN_MAX } from '../../ranges'
import type { Kind } from '../kind'
import { controlChange, outOf, plainNumber, status } from '../shared'

/** Bank select MSB and LSB (MIDI 1.0 Detailed Specification, "Bank Select"). */
const [BANK_MSB, BANK_LSB] = [0, 32]

/** Program Change, with or without a bank before it. */
export const program: Kind<'program'> = {
  scope: 'channel',
  numberMeans: 'sound',
  name: 'program',
  bounds: { low: 0, high: SEVEN_MAX },
  top: null,
  fresh: () => ({ kind: 'program', moment: 'move', channel: 'home', number: 'wanted', bank: null }),
  numberOf: plainNumber,
  withNumber: (message, number) => ({ ...message, number }),
  tag: {
    print: ({ number, bank }) => (bank === null ? `pc${number}` : `pc${printBank(bank)}.${number}`),
    read: (body) => {
      const match = /^pc(?:(\d+)\.(\d+)\.)?(\d+)$/.exec(body)
      if (!match) return null
      const number = Number(match[3])
      if (!isWhole(number, 0, SEVEN_MAX)) return outOf('Program', 0, SEVEN_MAX, number)
      if (match[1] === undefined || match[2] === undefined)
        return { ok: true, target: { kind: 'program', number, bank: null } }
      const bank = { msb: Number(match[1]), lsb: Number(match[2]) }
      for (const part of [bank.msb, bank.lsb])
        if (!isWhole(part, 0, SEVEN_MAX)) return outOf('Bank', 0, SEVEN_MAX, part)
      return { ok: true, target: { kind: 'program', number, bank } }
    },
  },
  target: ({ number, bank }) => (number === 'wanted' ? null : { kind: 'program', number, bank }),
  withTarget: (message, { number, bank }) => ({ ...message, number, bank }),
  landings: ({ number, bank }, channel) =>
    number === 'wanted' ? [] : [{ channel, target: { kind: 'program', number, bank } }],
  cells: ({ number, bank }, channel) =>
    number === 'wanted'
      ? []
      : [
          plainCell('program', channel, number, 'repeatable'),
          ...(bank === null ? [] : carrierCells(channel, [BANK_MSB, BANK_LSB])),
        ],
  bytes: ({ number, bank }, { channel }) => {
    if (number === 'wanted') return []
    const select =
      bank === null
        ? []
        : [...controlChange(channel, BANK_MSB, bank.msb), ...controlChange(channel, BANK_LSB, bank.lsb)]
    return [...select, status(0xc0, channel), number]
  },
  sweepBytes: ({ bank }) => (bank === null ? 2 : 8),
  travel: () => ({ kind: 'signal' }),
  words: () => ['once'],
}
