import { carrierCells, plainCell, type Cell } from '../cells'
import { FOURTEEN_MAX, type Channel } from '../ranges'
import { coarseSweep, sweep } from '../travel'
import type { ChannelKind, Movement } from './kind'
import { controlChange, lsb, msb, plainNumber, readNumbered, spanWords, widthOf } from './shared'
import type { MessageOf } from './types'

type ParameterMessage = MessageOf<'nrpn'> | MessageOf<'rpn'>

const bounds = { low: 0, high: FOURTEEN_MAX }
/** Data entry MSB and LSB, data increment and decrement (MIDI 1.0 Detailed Specification, Table III). */
const [DATA_MSB, DATA_LSB, INCREMENT, DECREMENT] = [6, 38, 96, 97]
/** RPN LSB and MSB, by which null is selected (same document, "Registered Parameter Numbers"). */
const NULL_SELECT = [100, 101] as const
const SELECT_BYTES = 6

/** Does a parameter go without its number while that stays the same? What was set to null has to be selected again. */
export const leavesNumberOut = ({
  omitNumber,
  nullAfter,
}: Pick<ParameterMessage, 'omitNumber' | 'nullAfter'>): boolean => omitNumber && !nullAfter

function cells(message: ParameterMessage, channel: Channel, select: readonly [number, number]): Cell[] {
  if (message.number === 'wanted') return []
  const data =
    message.steps === 'increments'
      ? [INCREMENT, DECREMENT]
      : message.sendsLsb
        ? [DATA_MSB, DATA_LSB]
        : [DATA_MSB]
  const end = message.nullAfter ? NULL_SELECT : []
  return [
    plainCell(message.kind, channel, message.number, 'main'),
    ...carrierCells(channel, [...new Set([...select, ...data, ...end])]),
  ]
}

function bytes(
  message: ParameterMessage,
  { channel, value, previous }: Movement,
  [low, high]: readonly [number, number],
): number[] {
  if (message.number === 'wanted') return []
  const isOmitted = leavesNumberOut(message) && previous !== null
  const select = isOmitted
    ? []
    : [
        ...controlChange(channel, high, msb(message.number)),
        ...controlChange(channel, low, lsb(message.number)),
      ]
  const data =
    message.steps === 'increments'
      ? controlChange(channel, value < 0 ? DECREMENT : INCREMENT, 0)
      : [
          ...controlChange(channel, DATA_MSB, msb(value)),
          ...(message.sendsLsb ? controlChange(channel, DATA_LSB, lsb(value)) : []),
        ]
  const end = message.nullAfter ? NULL_SELECT.flatMap((number) => controlChange(channel, number, 127)) : []
  return [...select, ...data, ...end]
}

function sweepBytes(message: ParameterMessage, most: number): number {
  const data = message.steps === 'values' && message.sendsLsb ? 6 : 3
  const isShort = leavesNumberOut(message)
  const each = data + (isShort ? 0 : SELECT_BYTES) + (message.nullAfter ? SELECT_BYTES : 0)
  const { low, high } = message.range
  const values = message.sendsLsb ? widthOf(message.range) : Math.abs(msb(high) - msb(low)) + 1
  const count = message.steps === 'increments' ? most : Math.min(values, most)
  return count * each + (isShort ? SELECT_BYTES : 0)
}

function words({ steps, sendsLsb, range }: ParameterMessage): readonly string[] {
  if (steps === 'increments') return ['up and down', 'steps']
  const bits = sendsLsb ? '14-bit' : '7-bit'
  return [`${spanWords(range.low, range.high)}, ${bits}`, bits]
}

/**
 * A kind that selects a parameter and then sends its value (MIDI 1.0 Detailed Specification, "Registered and
 * Non-Registered Parameter Numbers"); `select` are the controllers of the LSB and MSB of its number, `numberMeans` as
 * in `ChannelKind`.
 */
export const parameterKind = <K extends 'nrpn' | 'rpn'>(
  kind: K,
  select: readonly [number, number],
  numberMeans: 'nothing' | 'standard',
): ChannelKind<K> => {
  type M = MessageOf<K>
  const target = (number: number) => ({ kind, number }) as ReturnType<ChannelKind<K>['target']> & object
  return {
    scope: 'channel',
    numberMeans,
    name: kind.toUpperCase(),
    bounds,
    top: FOURTEEN_MAX,
    fresh: () =>
      ({
        kind,
        moment: 'move',
        channel: 'home',
        number: 'wanted',
        range: { low: 0, high: FOURTEEN_MAX },
        steps: 'values',
        omitNumber: false,
        sendsLsb: true,
        nullAfter: false,
      }) as M,
    numberOf: (message) => plainNumber(message as ParameterMessage),
    withNumber: (message, number) => ({ ...message, number }),
    tag: {
      print: (written) => `${kind}${(written as { number: number }).number}`,
      read: (body) => readNumbered(body, kind, kind.toUpperCase(), bounds, target),
    },
    target: (message) => {
      const { number } = message as ParameterMessage
      return number === 'wanted' ? null : target(number)
    },
    withTarget: (message, written) => ({ ...message, number: (written as { number: number }).number }),
    landings: (message, channel) => {
      const { number } = message as ParameterMessage
      return number === 'wanted' ? [] : [{ channel, target: { kind, number } }]
    },
    cells: (message, channel) => cells(message as ParameterMessage, channel, select),
    bytes: (message, movement) => bytes(message as ParameterMessage, movement, select),
    sweepBytes: (message, most) => sweepBytes(message as ParameterMessage, most),
    travel: (message, clicksPerTurn) => {
      const { steps, sendsLsb, range } = message as ParameterMessage
      if (steps === 'increments')
        return { kind: 'clicks', encoding: 'increments', acceleration: 'none', clicksPerTurn }
      return sendsLsb ? sweep(range, FOURTEEN_MAX) : coarseSweep(range)
    },
    words: (message) => words(message as ParameterMessage),
  }
}
