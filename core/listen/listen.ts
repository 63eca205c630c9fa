import { PAIR_DISTANCE, printTag, type Address } from '../midi'
import { readMessage, READ_START, type Reading, type ReadState } from '../midi/bytes'
import { EMPTY_TRAIL, pointsOf, withoutLast, withPoint, type Point } from './trail'
import { handMoved, motorsTold, NO_MOTORS, passing, type Motors } from './motors'
import { LSB_MARK, MSB_MARK } from './pairs'
import type { Ask, Halves, Sender } from './types'

/** What has been heard of one stream of messages. Plain data. */
export interface ListenState {
  read: ReadState
  /** By channel and kind, then by name: a message changes one small record only. */
  senders: Readonly<Record<string, Readonly<Record<string, Sender>>>>
  /** How many there are. */
  count: number
  /** By channel and number of the MSB. */
  halves: Readonly<Record<string, Halves>>
  /** The sender that was heard last; null before any was. */
  last: string | null
  /** What the player was asked for, and what has come of it so far. */
  asked: { ask: Ask; sender: string; points: readonly Point[] } | null
  /** The number of a parameter came just before. */
  isNumbered: boolean
  /** What the hardware was told just now, by its bytes: when, in ms. */
  told: Readonly<Record<string, number>>
  /** What motors may be moving. */
  motors: Motors
  /** How often a sender has said again what it had been told. */
  echoes: Readonly<Record<string, number>>
  /** Clocks and active sensing: they are no control's. */
  ticks: number
  /** What more senders said than are kept apart. */
  overflow: number
}

export const LISTEN_START: ListenState = {
  read: READ_START,
  senders: {},
  count: 0,
  halves: {},
  last: null,
  asked: null,
  isNumbered: false,
  told: {},
  motors: NO_MOTORS,
  echoes: {},
  ticks: 0,
  overflow: 0,
}

export type ListenEvent =
  /** A whole message, at ms. */
  | { kind: 'message'; at: number; bytes: readonly number[] }
  /** The hardware was told something, at ms: its lights are set, or its motors move. */
  | { kind: 'told'; at: number; bytes: readonly number[] }
  /** The player was asked to do something with what sends so; what it has said since a time belongs to the answer. */
  | { kind: 'asked'; ask: Ask; sender: string; since?: number }
  /** The player has done it, or nothing came for long. */
  | { kind: 'answered' }

/** Channel and kind of a sender, from its name. */
const groupOf = (key: string): string => /^\d+:[a-z]+/.exec(key)?.[0] ?? 'system'

/** A sender by its name; undefined where it was never heard. */
export const senderIn = ({ senders }: ListenState, key: string): Sender | undefined =>
  senders[groupOf(key)]?.[key]

/** Everything that was heard, by channel and kind. */
export const sendersIn = ({ senders }: ListenState): Sender[] =>
  Object.values(senders).flatMap((each) => Object.values(each))

const withSender = ({ senders }: ListenState, sender: Sender): ListenState['senders'] => {
  const group = groupOf(sender.key)
  return { ...senders, [group]: { ...senders[group], [sender.key]: sender } }
}

/** So many senders are kept apart; a whole keyboard on every channel is fewer. */
export const MOST_SENDERS = 2048

const CLOCK = 0xf8
const SENSING = 0xfe
const SEVEN = 127
const SEVEN_BITS = 7

interface Said {
  key: string
  address: Address | null
  top: number
  point: Point
  ends?: Sender['ends']
  isSteps?: boolean
  sysex?: readonly number[]
  /** Does it say more exactly what was said before it? */
  refines?: boolean
}

const FRESH: Omit<Sender, 'key' | 'address' | 'top' | 'isSteps' | 'sysex'> = {
  trail: EMPTY_TRAIL,
  answers: [],
  ends: null,
  numbered: { with: 0, without: 0 },
}

const cc = (channel: number, number: number): Address => ({
  scope: 'channel',
  channel,
  target: { kind: 'cc', number },
})
const plain = (at: number, value: number): Point => ({ at, value, mark: value })

/** What one reading says, sender by sender; nothing for what only prepares another. */
function saidBy(reading: Reading, at: number, bytes: readonly number[]): Said[] {
  switch (reading.kind) {
    case 'value': {
      const { address, value, top, refines } = reading
      const [status = 0, number = 0, data = 0] = bytes
      const isCc = (status & 0xf0) === 0xb0
      const isPart =
        address.scope === 'channel' && (address.target.kind === 'cc' || address.target.kind === 'cc14')
      // Whether two CC belong together is found out here, so that each is heard for itself.
      if (isCc && isPart) {
        const own = cc((status & 15) + 1, number)
        return [{ key: printTag(own), address: own, top: SEVEN, point: plain(at, data) }]
      }
      if (address.scope === 'channel' && address.target.kind === 'program') {
        const { channel } = address
        return [{ key: `${channel}:program`, address, top: SEVEN, point: plain(at, value) }]
      }
      return [{ key: printTag(address), address, top, point: plain(at, value), refines }]
    }
    case 'steps':
      return [
        {
          key: `${printTag(reading.address)} steps`,
          address: reading.address,
          top: SEVEN,
          point: { at, value: reading.by, mark: reading.by },
          isSteps: true,
        },
      ]
    case 'note':
      return [
        {
          key: printTag(reading.address),
          address: reading.address,
          top: SEVEN,
          point: {
            at,
            value: reading.isOn ? reading.velocity >> (reading.top > SEVEN ? SEVEN_BITS : 0) : 0,
            mark: Number(reading.isOn),
          },
          ends: reading.isOn ? null : reading.isByZero ? 'velocity-zero' : 'note-off',
        },
      ]
    case 'signal':
      return [{ key: printTag(reading.address), address: reading.address, top: 1, point: plain(at, 1) }]
    case 'sysex':
      // An answer to a question is no control's.
      if (reading.of !== 'own' && reading.of !== 'universal') return []
      return [
        {
          key: `sysex ${hexOf(reading.bytes)}`,
          sysex: reading.bytes.slice(1, -1),
          address: null,
          top: 1,
          point: plain(at, 1),
        },
      ]
    case 'lone-data': {
      const own = cc(reading.channel, reading.number)
      return [{ key: printTag(own), address: own, top: SEVEN, point: plain(at, reading.value) }]
    }
    case 'carrier':
    case 'time-code':
    case 'song-position':
    case 'song':
    case 'tune':
      return []
  }
}
/** A SysEx by its name: its bytes between F0 and F7 in hex; what is longer than any control sends is told by its beginning. */
const hexOf = (bytes: readonly number[]): string =>
  bytes
    .slice(1, -1)
    .slice(0, KEPT_BYTES)
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join(' ')
const KEPT_BYTES = 32

function withHalf(state: ListenState, { address, point }: Said): ListenState['halves'] {
  if (address?.scope !== 'channel' || address.target.kind !== 'cc' || typeof address.channel !== 'number')
    return state.halves
  const { number } = address.target
  const isLsb = number >= PAIR_DISTANCE && number < 2 * PAIR_DISTANCE
  const msb = isLsb ? number - PAIR_DISTANCE : number
  const isPart =
    number < 2 * PAIR_DISTANCE &&
    (isLsb || senderIn(state, printTag(cc(address.channel, number + PAIR_DISTANCE))))
  const key = `${address.channel} ${msb}`
  if (!isPart && !state.halves[key]) return state.halves
  if (number >= 2 * PAIR_DISTANCE) return state.halves
  const before = state.halves[key] ?? { channel: address.channel, number: msb, trail: EMPTY_TRAIL }
  const mark = isLsb ? LSB_MARK : MSB_MARK
  return { ...state.halves, [key]: { ...before, trail: withPoint(before.trail, { ...point, mark }) } }
}

function withSaid(state: ListenState, said: Said): ListenState {
  const known = senderIn(state, said.key)
  if (!known && state.count >= MOST_SENDERS) return { ...state, overflow: state.overflow + 1 }
  const before = known ?? {
    ...FRESH,
    key: said.key,
    address: said.address,
    top: said.top,
    isSteps: said.isSteps === true,
    // What is longer is a dump, and no control's.
    sysex: said.sysex && said.sysex.length <= KEPT_BYTES ? said.sysex : null,
  }
  const { numbered } = before
  const isParameter =
    said.address?.scope === 'channel' &&
    (said.address.target.kind === 'nrpn' || said.address.target.kind === 'rpn')
  const sender: Sender = {
    ...before,
    top: Math.max(before.top, said.top),
    trail: withPoint(said.refines ? withoutLast(before.trail) : before.trail, said.point),
    ends: said.ends ?? before.ends,
    numbered: isParameter
      ? state.isNumbered
        ? { ...numbered, with: numbered.with + 1 }
        : { ...numbered, without: numbered.without + 1 }
      : numbered,
  }
  const { asked } = state
  return {
    ...state,
    senders: withSender(state, sender),
    count: state.count + Number(!known),
    halves: withHalf(state, said),
    last: said.key,
    asked:
      asked?.sender === said.key
        ? {
            ...asked,
            points: [...(said.refines ? asked.points.slice(0, -1) : asked.points), said.point],
          }
        : asked,
    isNumbered: false,
  }
}

/** What was asked for has been done: what came of it belongs to its sender. */
function withAnswer(state: ListenState): ListenState {
  const { asked } = state
  const sender = asked && senderIn(state, asked.sender)
  if (!asked || !sender) return { ...state, asked: null }
  const answer = { ask: asked.ask, points: asked.points }
  return {
    ...state,
    asked: null,
    senders: withSender(state, { ...sender, answers: [...sender.answers, answer] }),
  }
}

/** Hardware that says again what it was told says so within so long, in ms. */
const ECHO_MS = 100
/** So much of what was told is kept. */
const MOST_TOLD = 64

const nameOf = (bytes: readonly number[]): string => bytes.join(' ')

function toldWith(told: ListenState['told'], bytes: readonly number[], at: number): ListenState['told'] {
  const recent = Object.entries(told).filter(([, when]) => at - when <= ECHO_MS)
  return { ...Object.fromEntries(recent.slice(-MOST_TOLD)), [nameOf(bytes)]: at }
}
const isEcho = (told: ListenState['told'], bytes: readonly number[], at: number): boolean =>
  at - (told[nameOf(bytes)] ?? -Infinity) <= ECHO_MS

/** The value that was said last where a message lands; null where none was. */
function lastSaid(state: ListenState, bytes: readonly number[]): number | null {
  const { reading } = readMessage(READ_START, bytes)
  const [said] = saidBy(reading, 0, bytes)
  const trail = said && senderIn(state, said.key)?.trail
  return trail?.points[trail.to - 1]?.value ?? null
}

/** What was told is told back once: it is nobody's hand. */
function echoed(
  { told, echoes }: ListenState,
  said: readonly Said[],
  bytes: readonly number[],
): Pick<ListenState, 'told' | 'echoes'> {
  const { [nameOf(bytes)]: _, ...rest } = told
  return {
    told: rest,
    echoes: said.reduce((all, { key }) => ({ ...all, [key]: (all[key] ?? 0) + 1 }), echoes),
  }
}

/**
 * Hear one more thing of a stream. Takes and gives plain data; a message costs the same however much was heard before. Clock and
 * active sensing are counted, and are nobody's.
 */
export function listen(state: ListenState, event: ListenEvent): ListenState {
  if (event.kind === 'told') {
    const { bytes, at } = event
    return {
      ...state,
      told: toldWith(state.told, bytes, at),
      motors: motorsTold(state.motors, bytes, at, () => lastSaid(state, bytes)),
    }
  }
  if (event.kind === 'answered') return withAnswer(state)
  if (event.kind === 'asked') {
    const { ask, sender, since } = event
    const trail = since === undefined ? undefined : senderIn(state, sender)?.trail
    const points = trail ? pointsOf(trail).filter(({ at }) => at >= (since ?? 0)) : []
    return { ...withAnswer(state), asked: { ask, sender, points } }
  }
  const [status = 0] = event.bytes
  if (status === CLOCK || status === SENSING) return { ...state, ticks: state.ticks + 1 }
  const { state: read, reading } = readMessage(state.read, event.bytes)
  const passed = passing(state.motors, event.bytes, event.at)
  const { motors } = passed ?? state
  if (passed?.isThere === true || isEcho(state.told, event.bytes, event.at))
    return { ...state, read, motors, ...echoed(state, saidBy(reading, event.at, event.bytes), event.bytes) }
  if (passed) return { ...state, read, motors }
  const next = {
    ...state,
    read,
    motors: handMoved(motors, event.bytes, event.at),
    isNumbered: reading.kind === 'carrier' || state.isNumbered,
  }
  return saidBy(reading, event.at, event.bytes).reduce(withSaid, next)
}
