import { PAIR_DISTANCE, type Address, type Channel } from '../../midi'
import {
  decodeWire,
  readMessage,
  READ_START,
  WIRE_START,
  type Reading,
  type ReadState,
  type WireState,
} from '../../midi/bytes'
import { readKeys } from '../heard/candidates'

/** One thing that came: everything that was heard at one address, however often. Plain data. */
export interface Observation {
  /** One name for the address. */
  key: string
  /** The first of it, to be told whose it is. */
  reading: Reading
  address: Address
  /** The values in the order in which they came, as far as they matter: the first few, and both ends. */
  firsts: readonly number[]
  low: number
  high: number
  /** The highest value that can be said there: 127, or 16383. */
  top: number
  /** How often something came. */
  count: number
  /** The different values that came, the first few: of what is pressed there are no more. */
  values: readonly number[]
  /** The notes that were held meanwhile, each by one name: what leans into pads is told apart so. */
  during: readonly string[]
  /** May it be no message of its own: the LSB of a pair, the number of a parameter, a bank? */
  isPart: boolean
  /** The gesture that was touched when it came, where that is known. */
  touched: string | null
}

/** What has been heard of one controller. Plain data. */
export interface Heard {
  wire: WireState
  read: ReadState
  observations: ReadonlyMap<string, Observation>
  /** The notes that sound, each by one name. */
  held: readonly string[]
  /** Bytes that are no message. */
  faults: number
}
export const NOTHING_HEARD: Heard = {
  wire: WIRE_START,
  read: READ_START,
  observations: new Map(),
  held: [],
  faults: 0,
}

const FIRSTS = 4
const SEVEN_TOP = 127

const cc = (channel: Channel, number: number): Address => ({
  scope: 'channel',
  channel,
  target: { kind: 'cc', number },
})

/** What a reading is of, with its value; a part of a longer message as the controller that it would be by itself. */
function seenIn(reading: Reading): { address: Address; reading: Reading; isPart: boolean } | null {
  switch (reading.kind) {
    case 'value': {
      const { address, refines, value } = reading
      if (!refines) return { address, reading, isPart: false }
      if (address.scope === 'system' || typeof address.channel !== 'number' || address.target.kind !== 'cc14')
        return null
      const plain = cc(address.channel, address.target.number + PAIR_DISTANCE)
      return {
        address: plain,
        reading: { ...reading, address: plain, value: value & SEVEN_TOP, top: SEVEN_TOP },
        isPart: true,
      }
    }
    case 'steps':
    case 'note':
    case 'signal':
      return { address: reading.address, reading, isPart: false }
    case 'carrier':
    case 'lone-data':
      return { address: cc(reading.channel, reading.number), reading, isPart: reading.kind === 'carrier' }
    default:
      return null
  }
}

/** The value of a reading: 0–top, clicks, a velocity with 0 to let go. */
function valueOf(reading: Reading): { value: number; top: number } {
  switch (reading.kind) {
    case 'value':
      return reading
    case 'steps':
      return { value: reading.by, top: SEVEN_TOP }
    case 'note':
      return { value: reading.isOn ? reading.velocity : 0, top: reading.top }
    case 'lone-data':
    case 'carrier':
      return { value: reading.value, top: SEVEN_TOP }
    default:
      return { value: 0, top: SEVEN_TOP }
  }
}

/** More different values than this come only of what sweeps. */
const MOST_VALUES = 17

const withValue = (values: readonly number[], value: number): readonly number[] =>
  values.length >= MOST_VALUES || values.includes(value) ? values : [...values, value]

const noted = (before: Observation, { value, top }: { value: number; top: number }): Observation => ({
  ...before,
  top: Math.max(top, before.top),
  low: Math.min(before.low, value),
  high: Math.max(before.high, value),
  values: withValue(before.values, value),
  firsts: before.firsts.length < FIRSTS ? [...before.firsts, value] : before.firsts,
  count: before.count + 1,
})

/** An observation of which nothing was seen yet but that it is there. */
const begun = (
  key: string,
  reading: Reading,
  address: Address,
  during: readonly string[],
  touched: string | null,
  isPart: boolean,
): Observation => {
  const { value, top } = valueOf(reading)
  return {
    key,
    reading,
    address,
    during,
    touched,
    isPart,
    top,
    firsts: [value],
    values: [value],
    low: value,
    high: value,
    count: 1,
  }
}

/** What has been heard after some more bytes; `touched` is the gesture that sent them, where that is known. */
export function heardMore(
  before: Heard,
  bytes: readonly number[],
  at: number,
  touched: string | null = null,
): Heard {
  const { state: wire, events } = decodeWire(before.wire, bytes, at)
  let { read, faults, held } = before
  const observations = new Map(before.observations)
  for (const event of events) {
    if (event.kind === 'fault') {
      faults++
      continue
    }
    const next = readMessage(read, event.bytes)
    read = next.state
    const seen = seenIn(next.reading)
    if (!seen) continue
    const { address, reading, isPart } = seen
    const keys = readKeys(address)
    const isNote = reading.kind === 'note'
    const [note = ''] = keys
    if (isNote)
      held = reading.isOn
        ? [...held.filter((each) => each !== note), note]
        : held.filter((each) => each !== note)
    const during = isNote ? [] : held
    const key = [keys.at(-1) ?? '', ...during, touched ?? ''].join('|')
    const known = observations.get(key)
    observations.set(
      key,
      known
        ? { ...noted(known, valueOf(reading)), isPart: known.isPart && isPart }
        : begun(key, reading, address, during, touched, isPart),
    )
  }
  return { wire, read, observations, held, faults }
}
