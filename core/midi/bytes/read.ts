import type { Address, ChannelAddress } from '..'
import { PAIR_DISTANCE, canBePairFirst } from '../controllers'
import type { Channel } from '../ranges'
import { MMC_COMMANDS, REALTIME_COMMANDS, type MmcCommand, type RealtimeCommand } from '../transport'

/** What one message means, together with those before it that belong to it. */
export type Reading =
  /** A value of an address, 0–`top`. */
  | {
      kind: 'value'
      address: Address
      value: number
      top: number
      /** Does it say more exactly what the reading before it of this address said: the LSB after the MSB? */
      refines: boolean
      /** A half or data entry that stands alone, so that it may mean something else. */
      alone: 'lsb' | null
    }
  /** So many steps up, negative downwards: data increment and decrement. */
  | { kind: 'steps'; address: ChannelAddress; by: number }
  /** A note that begins or ends; velocity 0–127, or 0–16383 after a high-resolution prefix. */
  | {
      kind: 'note'
      address: ChannelAddress
      isOn: boolean
      velocity: number
      top: number
      /** Was it ended by a note-on of velocity 0? */
      isByZero: boolean
    }
  /** Something that happens, without a value. */
  | { kind: 'signal'; address: Address }
  /** Part of a message that is still to come: the number of a parameter, a bank, the prefix of a velocity. */
  | { kind: 'carrier'; channel: Channel; number: number; value: number }
  /** Data entry, increment or decrement while no parameter is selected. */
  | { kind: 'lone-data'; channel: Channel; number: number; value: number }
  | { kind: 'time-code'; piece: number; value: number }
  | { kind: 'song-position'; beats: number }
  | { kind: 'song'; number: number }
  | { kind: 'tune' }
  | { kind: 'sysex'; of: SysexName; device: number | null; bytes: readonly number[] }

export type SysexName = 'identity-request' | 'identity' | 'midi-ci' | 'universal' | 'own'

interface ChannelState {
  /** The last MSB of each controller 0–31. */
  msbs: Readonly<Record<number, number>>
  /** The parameter that is selected, in halves; a half not yet sent is null. */
  selected: { kind: 'nrpn' | 'rpn'; msb: number | null; lsb: number | null } | null
  dataMsb: number | null
  bank: { msb: number | null; lsb: number | null }
  velocityLsb: number | null
}

/** What has been read of each channel, 1–16. Plain data. */
export type ReadState = Readonly<Partial<Record<Channel, ChannelState>>>
export const READ_START: ReadState = {}

const FRESH: ChannelState = {
  msbs: {},
  selected: null,
  dataMsb: null,
  bank: { msb: null, lsb: null },
  velocityLsb: null,
}
const SEVEN = 127
const FOURTEEN = 16_383
const join = (msb: number, lsb: number): number => msb * 128 + lsb

const at = (channel: Channel, target: ChannelAddress['target']): ChannelAddress => ({
  scope: 'channel',
  channel,
  target,
})
const value = (
  address: Address,
  of: number,
  top: number,
  refines = false,
): Extract<Reading, { kind: 'value' }> => ({
  kind: 'value',
  address,
  value: of,
  top,
  refines,
  alone: null,
})

/** The address of the selected parameter; null while none is, or null (127, 127) was selected. */
function parameter(channel: Channel, { selected }: ChannelState): ChannelAddress | null {
  if (selected === null || selected.msb === null || selected.lsb === null) return null
  const number = join(selected.msb, selected.lsb)
  return number === FOURTEEN ? null : at(channel, { kind: selected.kind, number })
}

interface Step {
  state: ChannelState
  reading: Reading
}

/** Data entry and its like (MIDI 1.0 Detailed Specification, "Registered and Non-Registered Parameter Numbers"). */
function dataEntry(state: ChannelState, channel: Channel, number: number, data: number): Step {
  const address = parameter(channel, state)
  if (address === null) return { state, reading: { kind: 'lone-data', channel, number, value: data } }
  switch (number) {
    case 6:
      return { state: { ...state, dataMsb: data }, reading: value(address, join(data, 0), FOURTEEN) }
    case 38:
      return {
        state,
        reading: value(address, join(state.dataMsb ?? 0, data), FOURTEEN, state.dataMsb !== null),
      }
    default:
      return { state, reading: { kind: 'steps', address, by: number === 96 ? 1 : -1 } }
  }
}

/** A half of the number of a parameter: the other half stays, unless it was of the other kind. */
function select(state: ChannelState, kind: 'nrpn' | 'rpn', half: 'msb' | 'lsb', data: number): ChannelState {
  const before = state.selected?.kind === kind ? state.selected : { kind, msb: null, lsb: null }
  return { ...state, dataMsb: null, selected: { ...before, [half]: data } }
}

function control(state: ChannelState, channel: Channel, number: number, data: number): Step {
  const carrier: Reading = { kind: 'carrier', channel, number, value: data }
  switch (number) {
    case 0:
      return { state: { ...state, bank: { msb: data, lsb: null } }, reading: carrier }
    case 32:
      return { state: { ...state, bank: { ...state.bank, lsb: data } }, reading: carrier }
    case 98:
      return { state: select(state, 'nrpn', 'lsb', data), reading: carrier }
    case 99:
      return { state: select(state, 'nrpn', 'msb', data), reading: carrier }
    case 100:
      return { state: select(state, 'rpn', 'lsb', data), reading: carrier }
    case 101:
      return { state: select(state, 'rpn', 'msb', data), reading: carrier }
    case 6:
    case 38:
    case 96:
    case 97:
      return dataEntry(state, channel, number, data)
    case 88:
      return { state: { ...state, velocityLsb: data }, reading: carrier }
  }
  if (number >= 120)
    return { state, reading: value(at(channel, { kind: 'channelMode', number }), data, SEVEN) }
  const first = number - PAIR_DISTANCE
  if (canBePairFirst(first)) {
    const msb = state.msbs[first]
    const reading: Reading =
      msb === undefined
        ? { ...value(at(channel, { kind: 'cc', number }), data, SEVEN), alone: 'lsb' }
        : value(at(channel, { kind: 'cc14', number: first }), join(msb, data), FOURTEEN, true)
    return { state, reading }
  }
  return {
    state: number < PAIR_DISTANCE ? { ...state, msbs: { ...state.msbs, [number]: data } } : state,
    reading: value(at(channel, { kind: 'cc', number }), data, SEVEN),
  }
}

function note(state: ChannelState, channel: Channel, status: number, number: number, data: number): Step {
  const isOn = status === 0x90 && data > 0
  const address = at(channel, { kind: 'note', low: number, high: number })
  const isFine = isOn && state.velocityLsb !== null
  return {
    state: { ...state, velocityLsb: null },
    reading: {
      kind: 'note',
      address,
      isOn,
      velocity: isFine ? join(data, state.velocityLsb ?? 0) : data,
      top: isFine ? FOURTEEN : SEVEN,
      isByZero: status === 0x90 && data === 0,
    },
  }
}

/** A program, with the bank that was selected since the one before it (MIDI 1.0 Detailed Specification, "Bank Select"). */
function program(state: ChannelState, channel: Channel, number: number): Step {
  const { msb, lsb } = state.bank
  const bank = msb === null ? null : { msb, lsb: lsb ?? 0 }
  return {
    state: { ...state, bank: { msb: null, lsb: null } },
    reading: { kind: 'signal', address: at(channel, { kind: 'program', number, bank }) },
  }
}

function voice(state: ChannelState, channel: Channel, bytes: readonly number[]): Step {
  const [first = 0, a = 0, b = 0] = bytes
  const status = first & 0xf0
  switch (status) {
    case 0x80:
    case 0x90:
      return note(state, channel, status, a, b)
    case 0xa0:
      return { state, reading: value(at(channel, { kind: 'polyPressure', low: a, high: a }), b, SEVEN) }
    case 0xb0:
      return control(state, channel, a, b)
    case 0xc0:
      return program(state, channel, a)
    case 0xd0:
      return { state, reading: value(at(channel, { kind: 'channelPressure' }), a, SEVEN) }
    default:
      return { state, reading: value(at(channel, { kind: 'pitchBend' }), join(b, a), FOURTEEN) }
  }
}

const commandOf = <C extends string>(table: Readonly<Record<C, number>>, code: number): C | undefined =>
  (Object.entries(table) as Array<[C, number]>).find(([, each]) => each === code)?.[0]

/** What a SysEx is (MIDI 1.0 Detailed Specification, "Universal System Exclusive Messages"; MIDI-CI 1.2, section 5). */
function exclusive(bytes: readonly number[]): Reading {
  const [, id = 0, device = 0, sub1 = 0, sub2 = 0] = bytes
  if (id === 0x7f && sub1 === 0x06) {
    const command = commandOf<MmcCommand>(MMC_COMMANDS, sub2)
    if (command) return { kind: 'signal', address: { scope: 'system', target: { kind: 'mmc', command } } }
  }
  const isUniversal = id === 0x7e || id === 0x7f
  const of: SysexName =
    id === 0x7e && sub1 === 0x06 && sub2 === 0x01
      ? 'identity-request'
      : id === 0x7e && sub1 === 0x06 && sub2 === 0x02
        ? 'identity'
        : id === 0x7e && sub1 === 0x0d
          ? 'midi-ci'
          : isUniversal
            ? 'universal'
            : 'own'
  return { kind: 'sysex', of, device: isUniversal ? device : null, bytes }
}

function system(bytes: readonly number[]): Reading {
  const [status = 0, a = 0, b = 0] = bytes
  switch (status) {
    case 0xf0:
      return exclusive(bytes)
    case 0xf1:
      return { kind: 'time-code', piece: a >> 4, value: a & 0x0f }
    case 0xf2:
      return { kind: 'song-position', beats: join(b, a) }
    case 0xf3:
      return { kind: 'song', number: a }
  }
  const command = commandOf<RealtimeCommand>(REALTIME_COMMANDS, status)
  return command
    ? { kind: 'signal', address: { scope: 'system', target: { kind: 'realtime', command } } }
    : { kind: 'tune' }
}

/**
 * What one whole message means after those that were read before it: halves of 14 bits are put together, parameters with their
 * data, programs with their bank, notes with the prefix of their velocity (CA-031). Messages are as `decodeWire` gives them.
 */
export function readMessage(
  state: ReadState,
  bytes: readonly number[],
): { state: ReadState; reading: Reading } {
  const [status = 0] = bytes
  if (status >= 0xf0) return { state, reading: system(bytes) }
  const channel = (status & 0x0f) + 1
  const step = voice(state[channel] ?? FRESH, channel, bytes)
  return { state: { ...state, [channel]: step.state }, reading: step.reading }
}
