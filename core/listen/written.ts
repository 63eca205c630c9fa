import {
  channelOf,
  decodeClicks,
  isChannelMessage,
  withChannel,
  type Behaviour,
  type Channel,
  type Message,
  type SentMessage,
} from '../midi'
import { freshMessage, messageAt } from '../rig'
import type { Guess } from './guesses'
import type { Manner } from './types'

const FULL = 127

type Acceleration = Extract<Behaviour, { kind: 'relative' }>['acceleration']
const BY_STRENGTH: readonly Acceleration[] = ['none', 'gentle', 'strong']
/** So many clicks at once are gentle acceleration at most. */
const GENTLE_MOST = 3

/** How an encoder was accelerated at least: it may not have been turned as fast as it can be. */
function accelerationOf(clicks: readonly number[]): Acceleration {
  const most = clicks.reduce((largest, by) => Math.max(largest, Math.abs(by)), 0)
  return most > GENTLE_MOST ? 'strong' : most > 1 ? 'gentle' : 'none'
}
const stronger = (a: Acceleration, b: Acceleration): Acceleration =>
  BY_STRENGTH.indexOf(a) > BY_STRENGTH.indexOf(b) ? a : b

/** The behaviour and range by which a manner is written down; what stays open is kept as it was written before. */
function behaviourOf(manner: Manner, guess: Guess, before: SentMessage | null) {
  switch (manner.kind) {
    case 'swept': {
      const kept = before && 'range' in before ? before.range : null
      const isKept =
        kept !== null &&
        guess.low >= Math.min(kept.low, kept.high) &&
        guess.high <= Math.max(kept.low, kept.high)
      const turns =
        before && 'behaviour' in before && before.behaviour.kind === 'absolute'
          ? before.behaviour.turns
          : null
      return {
        behaviour: { kind: 'absolute' as const, turns },
        range: isKept ? kept : { low: 0, high: guess.top },
      }
    }
    case 'momentary':
      return {
        behaviour: { kind: 'momentary' as const },
        range: { low: manner.released, high: manner.pressed },
      }
    case 'toggle':
      return { behaviour: { kind: 'toggle' as const }, range: { low: manner.off, high: manner.on } }
    case 'trigger':
      return { behaviour: { kind: 'trigger' as const }, range: { low: manner.value, high: manner.value } }
    case 'list':
      return {
        behaviour: { kind: 'list' as const, values: [...manner.values] },
        range: { low: 0, high: FULL },
      }
    case 'relative': {
      const { encoding } = manner
      const kept =
        before && 'behaviour' in before && before.behaviour.kind === 'relative' ? before.behaviour : null
      const heard = accelerationOf(guess.points.map(({ value }) => decodeClicks(encoding, value)))
      return {
        behaviour: {
          kind: 'relative' as const,
          encoding,
          acceleration: stronger(heard, kept?.acceleration ?? 'none'),
        },
        range: { low: 0, high: FULL },
      }
    }
    case 'steps':
    case 'signal':
      return null
  }
}

/**
 * What was heard as a message to be written into a template: the one that was written before, with everything else that the
 * stream tells. Null where it has no address, or is not known for sure. A channel that is the home channel is written as home.
 */
export function messageFor(guess: Guess, before: Message | null, homeChannel: Channel): SentMessage | null {
  const [manner] = guess.fitting
  return guess.isConfident && manner ? messageAs(guess, manner, before, homeChannel) : null
}

/** The same of a sender that works in a manner, whether that is sure or not; null where it has no address. */
export function messageAs(
  guess: Guess,
  manner: Manner,
  before: Message | null,
  homeChannel: Channel,
): SentMessage | null {
  if (guess.sysex) return sysexMessage(guess.sysex, before)
  const placed = guess.address && messageAt(guess.address)
  if (!placed) return null
  const same = before && before.kind === placed.kind ? before : null
  const written = behaviourOf(manner, guess, same)
  const base: SentMessage = same ? keepingAddress(same, placed) : placed
  const channelled = isChannelMessage(base) ? withChannel(base, homed(placed, homeChannel)) : base
  return withManner(channelled, manner, guess, written)
}

/** A SysEx with its value, over the whole of its range; what was written of when it is sent stays. */
function sysexMessage(bytes: NonNullable<Guess['sysex']>, before: Message | null): SentMessage | null {
  const fresh = before?.kind === 'sysex' ? before : freshMessage('sysex', 'knob', 'turn')
  return fresh.kind === 'sysex' ? { ...fresh, bytes: [...bytes], range: { low: 0, high: FULL } } : null
}

/** The channel as it is written: home where it is the home channel. */
const homed = (placed: SentMessage, home: Channel) => {
  const channel = isChannelMessage(placed) ? channelOf(placed, home) : null
  return channel === null || channel === home ? ('home' as const) : channel
}

/** A message that was written before, where the other one lands. */
function keepingAddress(same: SentMessage, placed: SentMessage): SentMessage {
  if ('number' in same && 'number' in placed) return { ...same, number: placed.number } as SentMessage
  if ('keys' in same && 'keys' in placed) return { ...same, keys: placed.keys } as SentMessage
  return same
}

function withManner(
  message: SentMessage,
  manner: Manner,
  guess: Guess,
  written: ReturnType<typeof behaviourOf>,
): SentMessage {
  switch (message.kind) {
    case 'cc':
    case 'cc14':
      return written ? { ...message, ...written } : message
    case 'note': {
      const behaviour = written?.behaviour ?? message.behaviour
      const velocity =
        guess.isFixedVelocity === true
          ? ({ kind: 'fixed', value: guess.high } as const)
          : guess.isFixedVelocity === false && message.velocity.kind === 'fixed'
            ? ({ kind: 'sensed', curve: 'linear', low: 1, high: FULL } as const)
            : message.velocity
      const release =
        guess.ends === 'velocity-zero'
          ? ({ kind: 'velocity-zero' } as const)
          : guess.ends === 'note-off' && message.release.kind === 'velocity-zero'
            ? ({ kind: 'note-off', velocity: 64 } as const)
            : message.release
      return { ...message, behaviour, velocity, release }
    }
    case 'nrpn':
    case 'rpn':
      return {
        ...message,
        steps: manner.kind === 'steps' ? 'increments' : 'values',
        sendsLsb: manner.kind === 'steps' ? message.sendsLsb : guess.top > FULL,
        omitNumber: guess.omitsNumber ?? message.omitNumber,
      }
    case 'pitchBend':
    case 'channelPressure':
    case 'polyPressure':
      return written && manner.kind === 'swept'
        ? ({ ...message, range: written.range } as SentMessage)
        : message
    case 'program':
    case 'channelMode':
    case 'mmc':
    case 'realtime':
    case 'sysex':
      return message
  }
}
