import { canBePairFirst, PAIR_DISTANCE, type Channel, type Fourteen, type Target } from '../midi'
import { channelOf, type Keys, type Message, type MessageOf } from '../rig'

/** Families of cells. `nrpn` and `rpn` are numbered 0–16383, the rest 0–127 (bend and pressure always 0). */
export const SPACES = ['cc', 'note', 'poly', 'program', 'bend', 'pressure', 'nrpn', 'rpn'] as const
export type Space = (typeof SPACES)[number]

/** One spot of the lattice as it goes over the wire. */
export interface CellAddress {
  space: Space
  channel: Channel
  number: Fourteen
}

export type Role = 'main' | 'carrier' | 'channel-wide' | 'repeatable'

/** Values from low to high, both included. */
export interface Interval {
  low: number
  high: number
}

/** What a message sends to a cell: the values of the gesture itself, and the value of letting go, if any. */
export interface SentValues {
  main: readonly Interval[]
  release: number | null
}

export interface Cell extends CellAddress {
  role: Role
  /** Whether it is the whole of the value or one half of a 14-bit pair. */
  part: 'whole' | 'first' | 'second'
  sent: SentValues
}

const SPACE_INDEX = Object.fromEntries(SPACES.map((space, index) => [space, index])) as Readonly<
  Record<Space, number>
>
const CHANNEL_STRIDE = 16_384
const SPACE_STRIDE = CHANNEL_STRIDE * 16

/** One number for a cell, unique over all spaces, channels and numbers. */
export const cellKey = ({ space, channel, number }: CellAddress): number =>
  SPACE_INDEX[space] * SPACE_STRIDE + (channel - 1) * CHANNEL_STRIDE + number

/** The cell that a key stands for. Inverse of `cellKey`. */
export function cellOfKey(key: number): CellAddress {
  const space = SPACES[Math.floor(key / SPACE_STRIDE)]
  if (space === undefined) throw new RangeError(`${key} is no cell.`)
  const within = key % SPACE_STRIDE
  return {
    space,
    channel: Math.floor(within / CHANNEL_STRIDE) + 1,
    number: within % CHANNEL_STRIDE,
  }
}

/** The address of a cell without its channel, to write as a tag. Programs are shown without bank. */
export function cellTarget({ space, number }: Pick<CellAddress, 'space' | 'number'>): Target {
  switch (space) {
    case 'note':
    case 'poly':
      return { kind: space, low: number, high: number }
    case 'program':
      return { kind: 'program', number, bank: null }
    case 'bend':
    case 'pressure':
      return { kind: space }
    case 'cc':
    case 'nrpn':
    case 'rpn':
      return { kind: space, number }
  }
}

const ANY: SentValues = { main: [{ low: 0, high: 127 }], release: null }
const single = (value: number): Interval => ({ low: value, high: value })
const ordered = (low: number, high: number): Interval =>
  low <= high ? { low, high } : { low: high, high: low }

/** The values a plain controller message sends, by its behaviour. */
function controllerValues(message: MessageOf<'cc'>): SentValues {
  const { low, high } = message.range
  switch (message.behaviour.kind) {
    case 'absolute':
    case 'latch':
      return { main: [ordered(low, high)], release: null }
    case 'relative':
      return ANY
    case 'trigger':
      return { main: [single(high)], release: null }
    case 'toggle':
      return { main: low === high ? [single(low)] : [single(low), single(high)], release: null }
    case 'list':
      return { main: message.behaviour.values.map(single), release: null }
    case 'momentary': {
      const release = message.releaseValue ?? low
      return { main: [single(high)], release: release === high ? null : release }
    }
  }
}

const clip = (note: number): number => Math.max(0, Math.min(127, note))

/** The lowest and highest note that keys can play, octave shift included; null while a number is wanted. */
export function keyRange(keys: Keys): Interval | null {
  if (keys.kind === 'one') return keys.number === 'wanted' ? null : single(keys.number)
  const reach = keys.octaveReach * 12
  return {
    low: clip(keys.low + keys.transpose - reach),
    high: clip(keys.high + keys.transpose + reach),
  }
}

/** Member channels of a per-note zone (MIDI Polyphonic Expression 1.0, section 2: next to its manager). */
export function memberChannels(keys: Extract<Keys, { kind: 'zone' }>): Channel[] {
  return Array.from({ length: keys.members }, (_, index) => (keys.manager === 1 ? 2 + index : 15 - index))
}

const numbers = ({ low, high }: Interval): number[] =>
  Array.from({ length: high - low + 1 }, (_, index) => low + index)

function keyCells(keys: Keys, channel: Channel, space: 'note' | 'poly'): Cell[] {
  const range = keyRange(keys)
  if (range === null) return []
  const channels = keys.kind === 'zone' ? memberChannels(keys) : [channel]
  return channels.flatMap((on) =>
    numbers(range).map((number) => ({ space, channel: on, number, role: 'main', part: 'whole', sent: ANY })),
  )
}

function noteCells(message: MessageOf<'note'>, channel: Channel): Cell[] {
  const cells = keyCells(message.keys, channel, 'note')
  if (message.keys.kind === 'zone') {
    for (const on of memberChannels(message.keys)) {
      cells.push(plain('bend', on, 0, 'channel-wide'), plain('pressure', on, 0, 'channel-wide'))
      cells.push(plain('cc', on, 74, 'main'))
    }
    cells.push(plain('rpn', message.keys.manager, 6, 'main'))
    cells.push(...carriers(message.keys.manager, [100, 101, 6]))
  }
  if (message.highResolutionVelocity) cells.push(plain('cc', channel, 88, 'main'))
  return cells
}

const plain = (space: Space, channel: Channel, number: number, role: Role): Cell => ({
  space,
  channel,
  number,
  role,
  part: 'whole',
  sent: ANY,
})

const carriers = (channel: Channel, list: readonly number[]): Cell[] =>
  list.map((number) => plain('cc', channel, number, 'carrier'))

function parameterCells(message: MessageOf<'nrpn'> | MessageOf<'rpn'>, channel: Channel): Cell[] {
  if (message.number === 'wanted') return []
  const select = message.kind === 'nrpn' ? [98, 99] : [100, 101]
  const data = message.steps === 'increments' ? [96, 97] : message.secondByte ? [6, 38] : [6]
  const end = message.nullAfter ? [100, 101] : []
  return [
    plain(message.kind, channel, message.number, 'main'),
    ...carriers(channel, [...new Set([...select, ...data, ...end])]),
  ]
}

/**
 * The cells that a message occupies on its own channel, before any cable: the spot it means (`main`),
 * both halves of a pair, the carriers of parameters and bank select. Empty while a number is wanted,
 * and for messages that belong to no channel.
 */
export function cellsOf(message: Message, homeChannel: Channel): Cell[] {
  const channel = channelOf(message, homeChannel)
  if (channel === null) return []
  switch (message.kind) {
    case 'note':
      return noteCells(message, channel)
    case 'poly':
      return keyCells(message.keys, channel, 'poly')
    case 'cc':
      return message.number === 'wanted'
        ? []
        : [{ ...plain('cc', channel, message.number, 'main'), sent: controllerValues(message) }]
    case 'cc14': {
      if (message.number === 'wanted' || !canBePairFirst(message.number)) return []
      const first: Cell = { ...plain('cc', channel, message.number, 'main'), part: 'first' }
      const second: Cell = { ...first, number: message.number + PAIR_DISTANCE, part: 'second' }
      return message.halves === 'first-only' ? [first] : [first, second]
    }
    case 'program':
      if (message.number === 'wanted') return []
      return [
        plain('program', channel, message.number, 'repeatable'),
        ...(message.bank === null ? [] : carriers(channel, [0, 32])),
      ]
    case 'bend':
    case 'pressure':
      return [plain(message.kind, channel, 0, 'channel-wide')]
    case 'nrpn':
    case 'rpn':
      return parameterCells(message, channel)
    case 'mode':
      return [plain('cc', channel, message.number, 'repeatable')]
    case 'off':
    case 'mmc':
    case 'realtime':
    case 'sysex':
      return []
  }
}

const meet = (a: Interval, b: Interval): boolean => a.low <= b.high && b.low <= a.high

/** Do two messages send a value in common, by the gestures themselves (not by letting go)? */
export const valuesOverlap = (a: SentValues, b: SentValues): boolean =>
  a.main.some((one) => b.main.some((other) => meet(one, other)))
