import { SEVEN_MAX, type Channel, type Message, type SentMessage } from '../midi'
import type { Control, GestureKind } from '../rig'
import { isPressed } from './act'
import { guessFor, guessOfOne, type Guess } from './guesses'
import { senderIn, type ListenState } from './listen'
import type { Ask, Manner } from './types'
import { messageAs } from './written'
import { channelsOfKeys, zoneHeard, type HeardZone } from './zone'

/** What is known of one gesture of a control that was moved. */
export interface Known {
  gesture: GestureKind
  guess: Guess
  /** What it most likely is; null where nothing that such a control can be explains it. */
  manner: Manner | null
  /** What else such a control can be explains it as well. */
  others: readonly Manner[]
  /**
   * `sure` where nothing else that such a control can be explains it; `along` for what goes with a movement, which two hands can
   * do as well.
   */
  state: 'sure' | 'open' | 'along'
  /** What would settle it. */
  ask: Ask | null
  /** Of keys, the lowest and the highest that were played; of all else null. */
  keys: { low: number; high: number } | null
  /** Of keys that have a channel each, their zone; of all else null. */
  zone: HeardZone | null
  /** The program that is sent, where it is one. */
  program: number | null
}

const PRESSES: ReadonlySet<Manner['kind']> = new Set(['momentary', 'toggle', 'trigger', 'list', 'signal'])
const TURNS: ReadonlySet<Manner['kind']> = new Set(['swept', 'relative', 'steps'])
const STANDS: ReadonlySet<Manner['kind']> = new Set(['swept'])
const PEDAL: ReadonlySet<Manner['kind']> = new Set([...PRESSES, ...STANDS])
const HELD: ReadonlySet<Manner['kind']> = new Set(['momentary'])

/** How a gesture of a kind of control can work. */
function mannersOf({ kind }: Pick<Control, 'kind'>, gesture: GestureKind): ReadonlySet<Manner['kind']> {
  switch (gesture) {
    case 'press':
      return kind === 'pedal' ? PEDAL : PRESSES
    case 'push':
    case 'strike':
      return PRESSES
    case 'turn':
      return TURNS
    case 'touch':
      return HELD
    case 'slide':
    case 'x':
    case 'y':
    case 'tilt':
    case 'pressure':
      return STANDS
  }
}

/** Touch and pressure are known by what they go with. */
const isAlong = (gesture: GestureKind): boolean => gesture === 'touch' || gesture === 'pressure'

/** What would settle a gesture: a knob is not pressed, and a button is not turned. */
function askOf(guess: Guess, manners: ReadonlySet<Manner['kind']>): Ask | null {
  const can: ReadonlySet<Ask> = new Set<Ask>([
    ...(manners.has('toggle') ? (['press'] as const) : []),
    ...(manners.has('relative') ? (['clicks'] as const) : []),
    ...(manners.has('swept') ? (['sweep'] as const) : []),
  ])
  return guess.asks.find((ask) => can.has(ask)) ?? null
}

/** What is known of a gesture by the senders that belong to it; null where none was heard. */
export function knownOf(
  heard: ListenState,
  control: Control,
  gesture: GestureKind,
  senders: readonly string[],
  program: number | null,
): Known | null {
  // Of a keyboard the keys tell what it is.
  const [first] = senders.toSorted((a, b) => Number(b.includes(':note')) - Number(a.includes(':note')))
  const manners = mannersOf(control, gesture)
  const look = isPressed(gesture) && !manners.has('swept') ? guessOfOne : guessFor
  const guess = first === undefined ? null : look(heard, first)
  if (!guess) return null
  const fitting = guess.fitting.filter(({ kind }) => manners.has(kind))
  const believed = guess.believed.filter(({ kind }) => manners.has(kind))
  const [manner = null, ...others] = fitting
  const isSure = manner !== null && fitting.length === 1 && believed.length === 1 && guess.beside === null
  const state = isAlong(gesture) ? 'along' : isSure ? 'sure' : 'open'
  return {
    gesture,
    guess,
    manner,
    others,
    state,
    ask: state === 'open' ? askOf(guess, manners) : null,
    keys: control.kind === 'keybed' ? spanOf(heard, senders) : null,
    zone: control.kind === 'keybed' ? zoneHeard(heard, channelsOfKeys(heard, senders)) : null,
    program,
  }
}

function spanOf(heard: ListenState, senders: readonly string[]): Known['keys'] {
  const notes = senders.flatMap((key) => {
    const address = senderIn(heard, key)?.address
    return address?.scope === 'channel' && address.target.kind === 'note' ? [address.target.low] : []
  })
  return notes.length === 0
    ? null
    : {
        low: notes.reduce((least, note) => Math.min(least, note), SEVEN_MAX),
        high: notes.reduce((most, note) => Math.max(most, note), 0),
      }
}

type NoteMessage = Extract<SentMessage, { kind: 'note' }>

/** A note message whose keys have a channel each: it is written on the channel of their manager. */
const inZone = (
  message: NoteMessage,
  keys: NonNullable<Known['keys']>,
  { manager, members }: HeardZone,
  homeChannel: Channel,
): NoteMessage => ({
  ...message,
  channel: manager === homeChannel ? 'home' : manager,
  keys: { kind: 'zone', transpose: 0, octaveReach: 0, ...keys, manager, members },
})

/** Before anything tells how it works, it is taken to work as most such controls do. */
const usual = ({ gesture, guess }: Known): Manner =>
  isPressed(gesture) ? { kind: 'momentary', pressed: guess.high, released: 0 } : { kind: 'swept' }

/**
 * What is known as a message to be written: the one before with everything that was heard. Where it is not sure yet, as what it
 * most likely is. Null for what cannot be written.
 */
export function knownMessage(known: Known, before: Message | null, homeChannel: Channel): SentMessage | null {
  const { guess, manner, keys, zone, program } = known
  const message = messageAs(guess, manner ?? usual(known), before, homeChannel)
  if (message?.kind === 'program' && program !== null) return { ...message, number: program }
  if (message?.kind !== 'note' || !keys) return message
  if (zone) return inZone(message, keys, zone, homeChannel)
  if (message.keys.kind === 'zone') return message
  const span = { kind: 'span' as const, transpose: 0, octaveReach: 0 }
  return { ...message, keys: { ...(message.keys.kind === 'span' ? message.keys : span), ...keys } }
}
