import { FOURTEEN_MAX, SEVEN_MAX } from '../midi'
import type { Behaviour, Control, Message, RelativeEncoding } from '../rig'

/** What a control sends over its whole movement. Values are 0–`top`. */
export type Travel =
  /** Values passed through one after the other, from one end of the movement to the other. */
  | { kind: 'sweep'; count: number; at: (index: number) => number; top: number; turns: number | null }
  /** A few values, each sent by a press or release. */
  | { kind: 'points'; values: readonly number[]; top: number; isKept: boolean }
  /** So much more or less at each click. */
  | {
      kind: 'clicks'
      encoding: RelativeEncoding | 'increments'
      acceleration: 'none' | 'gentle' | 'strong'
      clicksPerTurn: number | null
    }
  /** A note, struck harder or softer. */
  | { kind: 'strike'; low: number; high: number }
  /** Something that happens, without a value. */
  | { kind: 'signal' }
  | { kind: 'nothing' }

interface Ends {
  low: number
  high: number
}

const sweep = ({ low, high }: Ends, top: number, turns: number | null = null): Travel => {
  const direction = Math.sign(high - low)
  return {
    kind: 'sweep',
    count: Math.abs(high - low) + 1,
    at: (index) => low + direction * index,
    top,
    turns,
  }
}

/** Only every 128th value leaves, because the second half is not sent. */
function coarse({ low, high }: Ends): Travel {
  const [first, last] = [low >> 7, high >> 7]
  const direction = Math.sign(last - first)
  return {
    kind: 'sweep',
    count: Math.abs(last - first) + 1,
    at: (index) => (first + direction * index) << 7,
    top: FOURTEEN_MAX - SEVEN_MAX,
    turns: null,
  }
}

function stepped({ low, high }: Ends, count: number, turns: number | null): Travel {
  const at = (index: number): number => Math.round(low + ((high - low) * index) / (count - 1))
  return { kind: 'sweep', count, at, top: SEVEN_MAX, turns }
}

function behaved(
  behaviour: Behaviour,
  range: Ends,
  top: number,
  release: number,
  clicks: number | null,
): Travel | null {
  switch (behaviour.kind) {
    case 'absolute':
    case 'latch':
      return null
    case 'relative':
      return {
        kind: 'clicks',
        encoding: behaviour.encoding,
        acceleration: behaviour.acceleration,
        clicksPerTurn: clicks,
      }
    case 'momentary':
      return { kind: 'points', values: [release, range.high], top, isKept: false }
    case 'toggle':
      return { kind: 'points', values: [range.low, range.high], top, isKept: true }
    case 'trigger':
      return { kind: 'points', values: [range.high], top, isKept: false }
    case 'list':
      return { kind: 'points', values: behaviour.values, top, isKept: true }
  }
}

const turnsOf = (behaviour: Behaviour): number | null =>
  behaviour.kind === 'absolute' ? behaviour.turns : null

/** What a message makes of the movement of its control. A control that sends one value only has one point. */
export function travelOf(message: Message, control: Pick<Control, 'detentsPerTurn'>): Travel {
  const clicks = control.detentsPerTurn
  switch (message.kind) {
    case 'off':
      return { kind: 'nothing' }
    case 'cc': {
      const { range, behaviour, resolution, releaseValue } = message
      const pressed = behaved(behaviour, range, SEVEN_MAX, releaseValue ?? range.low, clicks)
      if (pressed) return pressed
      if (range.low === range.high)
        return { kind: 'points', values: [range.low], top: SEVEN_MAX, isKept: false }
      return resolution.kind === 'steps'
        ? stepped(range, resolution.count, turnsOf(behaviour))
        : sweep(range, SEVEN_MAX, turnsOf(behaviour))
    }
    case 'cc14': {
      const { range, behaviour, halves } = message
      const pressed = behaved(behaviour, range, FOURTEEN_MAX, range.low, clicks)
      if (pressed) return pressed
      return halves === 'first-only' ? coarse(range) : sweep(range, FOURTEEN_MAX, turnsOf(behaviour))
    }
    case 'nrpn':
    case 'rpn':
      if (message.steps === 'increments')
        return { kind: 'clicks', encoding: 'increments', acceleration: 'none', clicksPerTurn: clicks }
      return message.secondByte ? sweep(message.range, FOURTEEN_MAX) : coarse(message.range)
    case 'bend':
      return sweep(message.range, FOURTEEN_MAX)
    case 'pressure':
    case 'poly':
      return sweep(message.range, SEVEN_MAX)
    case 'note': {
      const { velocity, behaviour } = message
      const hardest = velocity.kind === 'fixed' ? velocity.value : velocity.high
      if (behaviour.kind === 'toggle')
        return { kind: 'points', values: [0, hardest], top: SEVEN_MAX, isKept: true }
      return { kind: 'strike', low: velocity.kind === 'fixed' ? hardest : velocity.low, high: hardest }
    }
    case 'program':
    case 'mode':
    case 'mmc':
    case 'realtime':
    case 'sysex':
      return { kind: 'signal' }
  }
}

/** Every value of a sweep, in order. */
export const valuesOf = ({ count, at }: Extract<Travel, { kind: 'sweep' }>): number[] =>
  Array.from({ length: count }, (_, index) => at(index))
