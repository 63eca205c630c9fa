import { landedAt, matchOf, claimCovers, cellsListened, type Bus } from '../addresses'
import {
  CHANNELS,
  decodeClicks,
  encodeClicks,
  topOf,
  type Address,
  type ChannelAddress,
  type RelativeEncoding,
  type SentMessage,
} from '../midi'
import { chartedAt, isInForce, listeningOf } from '../mappings'
import {
  memoOf,
  memoOfTwo,
  parameterOf,
  rigIndex,
  type Claim,
  type Destination,
  type Id,
  type Mapping,
  type Parameter,
  type Rig,
} from '../rig'
import { clickSize, followed, mappedRange, positionOf, settled, spanOf, valueAt } from '../values'
import { timesTaken, type Misbehaviour } from './misbehave'
import { meantBy } from './selection'

/** What a destination remembers. Plain data. */
export interface DestinationState {
  /** Where each parameter stands, in its own unit; what is not here stands at its lowest. */
  values: Readonly<Record<Id, number>>
  /** The scope it is in; null in none. */
  scope: Id | null
  /** Where the control of each mapping was heard last, 0–1. */
  controls: Readonly<Record<Id, number>>
  /** What is selected in it, which parameters relative to a selection follow; null for the first that can be. */
  selected: string | null
  /** How many messages have come. */
  received: number
}

export const AT_REST: DestinationState = {
  values: {},
  scope: null,
  controls: {},
  selected: null,
  received: 0,
}

/** How a destination behaves: well, unless it is asked to do something wrong. */
export interface Manners {
  does: readonly Misbehaviour[]
  /** The mappings that it was taught when it was switched on; some may be gone since. */
  taught: readonly Mapping[]
}
const WELL: Manners = { does: [], taught: [] }

/** What moved, and by what. */
interface Moved {
  parameter: Id
  /** The parameter relative to a selection that stood for it; null where it listens itself. */
  through: Id | null
  mapping: Id | null
}

/** What a destination did with a message. */
export type Effect =
  /** A parameter went from one value to another; the same where takeover holds it back. */
  | (Moved & { kind: 'moves'; from: number; to: number; isHeldBack: boolean })
  | (Moved & { kind: 'acts'; switchesTo: Id | null })
  /** It is kept for a function of the destination's own. */
  | { kind: 'function'; claim: Id }
  | { kind: 'sounds'; note: number; velocity: number }
  | { kind: 'program'; number: number }
  /** It was heard, and lost: a destination that was asked to lose some does so. */
  | { kind: 'lost' }
  | { kind: 'nothing' }

/** A message as it arrives at a destination, with what it carries. */
export interface Arriving {
  bus: Bus
  message: SentMessage
  /** A value of its range, clicks, or a velocity with 0 to let go. */
  value: number
  /** Does it only say that something was let go? */
  isLetGo?: boolean
}

/** Where a parameter stands. */
export const standing = ({ values }: DestinationState, parameter: Parameter): number =>
  values[parameter.id] ?? spanOf(parameter).min

interface Ear {
  parameter: Parameter
  mapping: Mapping | null
  address: Address
}

/** Everything of a destination that listens, by chart or by what it was taught. */
const earsIn = memoOf((rig: Rig) => {
  const byDestination = new Map<Id, Ear[]>()
  for (const destination of rig.destinations) {
    const mappings = rig.mappings.filter((mapping) => mapping.destination === destination.id)
    const ears = destination.parameters.flatMap((parameter): Ear[] => {
      const own = mappings.filter((mapping) => mapping.parameter === parameter.id)
      const charted = chartedAt(parameter)
      // What listens by its chart hears whoever comes; a mapping only says how far and which way round.
      if (charted) return [{ parameter, mapping: own[0] ?? null, address: charted.address }]
      return own.flatMap((mapping) => {
        const listening = listeningOf(mapping, parameter)
        return listening ? [{ parameter, mapping, address: listening.address }] : []
      })
    })
    byDestination.set(destination.id, ears)
  }
  return byDestination
})

/** What a destination listens to besides, for it was taught it once and the rig no longer says so. */
const oldEarsIn = memoOfTwo((rig: Rig, taught: readonly Mapping[]) => {
  const now = new Map(rig.mappings.map((mapping) => [mapping.id, mapping]))
  return taught.flatMap((mapping): Array<Ear & { destination: Id }> => {
    const destination = rigIndex(rig).destinations.get(mapping.destination)
    const parameter = destination ? parameterOf(destination, mapping.parameter) : null
    const current = now.get(mapping.id)
    const isSame = current && JSON.stringify(current.learnedAt) === JSON.stringify(mapping.learnedAt)
    if (!parameter || chartedAt(parameter) || mapping.learnedAt === null || isSame) return []
    return [{ destination: mapping.destination, parameter, mapping, address: mapping.learnedAt }]
  })
})

/** The 7-bit value that is on the wire for clicks. */
const rawOf = ({ message, value }: Arriving): number =>
  'behaviour' in message && message.behaviour.kind === 'relative'
    ? encodeClicks(message.behaviour.encoding, value)
    : value

/** The clicks that a destination understands, which expects an encoding; increments say them themselves. */
const clicksHeard = (arriving: Arriving, encoding: RelativeEncoding): number => {
  const { message, value } = arriving
  const isIncrement = (message.kind === 'nrpn' || message.kind === 'rpn') && message.steps === 'increments'
  return isIncrement ? value : decodeClicks(encoding, rawOf(arriving))
}

const PLAIN = { min: null, max: null, inverted: false, curve: 'linear' as const }
const SEVEN_TOP = 127

/** The highest value that a message says: 127, or 16383. */
const topOfArriving = ({ message }: Arriving): number => topOf(message) ?? SEVEN_TOP

type Moves = Extract<Effect, { kind: 'moves' | 'acts' }>

function moved(
  state: DestinationState,
  destination: Destination,
  { parameter: listens, mapping }: Ear,
  arriving: Arriving,
  jumps: boolean,
): { state: DestinationState; effect: Moves | null } {
  const parameter = meantBy(destination, listens, state.selected)
  const range = mappedRange(mapping ?? PLAIN, parameter)
  const from = standing(state, parameter)
  const at = {
    parameter: parameter.id,
    through: parameter === listens ? null : listens.id,
    mapping: mapping?.id ?? null,
  }
  const to = (value: number, isHeldBack = false): { state: DestinationState; effect: Moves } => ({
    state: { ...state, values: { ...state.values, [parameter.id]: value } },
    effect: { kind: 'moves', ...at, from, to: value, isHeldBack },
  })
  const expects = mapping?.expects ?? { kind: 'absolute' as const }
  const isStruck = arriving.message.kind === 'note' || arriving.message.kind === 'program'
  if (parameter.kind === 'action' || parameter.kind === 'note' || expects.kind === 'press') {
    const isPress =
      expects.kind === 'press'
        ? arriving.isLetGo !== true
        : arriving.message.kind === 'program' || rawOf(arriving) > 0
    if (!isPress) return { state, effect: null }
    if (parameter.kind === 'action' || parameter.kind === 'note')
      return {
        state: parameter.switchesTo === null ? state : { ...state, scope: parameter.switchesTo },
        effect: { kind: 'acts', ...at, switchesTo: parameter.switchesTo },
      }
    return to(from === range.max ? range.min : range.max)
  }
  if (expects.kind === 'relative') {
    const click = clickSize(destination.stepRule, range, parameter)
    if (click === null) return { state, effect: null }
    const by = clicksHeard(arriving, expects.encoding) * click * (range.inverted ? -1 : 1)
    return to(settled(range.span, Math.min(range.max, Math.max(range.min, from + by))))
  }
  const raw = rawOf(arriving)
  const share = Math.min(1, raw / (range.rawTop ?? (isStruck ? SEVEN_TOP : topOfArriving(arriving))))
  const key = mapping?.id ?? parameter.id
  const last = state.controls[key]
  const stands = Math.min(1, Math.max(0, positionOf(range, from)))
  // A switch or choice is set, not approached.
  const takeover = range.span.count === null && !jumps ? (mapping?.takeover ?? 'at-once') : 'at-once'
  // What nothing has moved yet is there to be taken. Else it counts as met within one step of seven bits, which rounding
  // may part.
  const isUntouched = state.values[parameter.id] === undefined
  const isTogether = isUntouched || Math.abs(stands - (last ?? share)) <= 1 / SEVEN_TOP
  const start = { control: isTogether ? stands : (last ?? share), parameter: stands }
  const end = followed(takeover, start, [share]).at(-1) ?? start
  const isHeldBack = end.parameter !== share
  const heard = { ...state, controls: { ...state.controls, [key]: share } }
  if (isHeldBack && end.parameter === stands)
    return { state: heard, effect: { kind: 'moves', ...at, from, to: from, isHeldBack: true } }
  const value = settled(range.span, valueAt(range, end.parameter))
  return {
    state: { ...heard, values: { ...heard.values, [parameter.id]: value } },
    effect: { kind: 'moves', ...at, from, to: value, isHeldBack },
  }
}

/** Does a destination keep where something lands for a function of its own? */
const keptAt = ({ claims }: Destination, landed: Address): Claim | null =>
  landed.scope === 'system'
    ? null
    : (claims.find((claim) => cellsListened(landed).some((cell) => claimCovers(claim, cell))) ?? null)

/** Does a bus hear where something lands? */
const hears = (bus: Bus, landed: Address): boolean =>
  landed.scope === 'system' || bus.hearsAll || cellsListened(landed).some((cell) => bus.hears(cell))

function otherwise({ message, value }: Arriving, landed: Address): Effect {
  const { target } = landed as ChannelAddress
  if (message.kind === 'note' && target.kind === 'note')
    return { kind: 'sounds', note: target.low, velocity: value }
  return target.kind === 'program' ? { kind: 'program', number: target.number } : { kind: 'nothing' }
}

/** A bus of a destination that takes all channels for one. */
const mergedBus = (bus: Bus): Bus => ({
  ...bus,
  mergesChannels: true,
  hears: (cell) => CHANNELS.some((channel) => bus.hears({ ...cell, channel })),
})

/** Who listens where a message lands. */
interface Landed {
  landed: Address
  claim: Claim | null
  ears: readonly Ear[]
}

function seekListeners({ bus, message }: Arriving, destination: Destination, all: readonly Ear[]): Landed[] {
  return landedAt(message).flatMap((landed): Landed[] => {
    if (!hears(bus, landed)) return []
    const claim = keptAt(destination, landed)
    const ears = all.filter(
      ({ address, parameter }) =>
        matchOf(address, landed, bus.mergesChannels) !== null &&
        (claim === null || claim.serves.includes(parameter.id)),
    )
    return [{ landed, claim, ears }]
  })
}

/** Who listened to the very same message before, by bus. */
const knownListeners = memoOfTwo((_rig: Rig, _message: SentMessage) => new Map<Bus, readonly Landed[]>())

function listenersTo(
  rig: Rig,
  destination: Destination,
  arriving: Arriving,
  does: readonly Misbehaviour[],
  taught: readonly Mapping[],
): readonly Landed[] {
  const own = earsIn(rig).get(destination.id) ?? []
  const isOld = does.includes('old-mappings')
  if (isOld || does.includes('merges-channels')) {
    const bus = does.includes('merges-channels') ? mergedBus(arriving.bus) : arriving.bus
    const old = isOld ? oldEarsIn(rig, taught).filter((ear) => ear.destination === destination.id) : []
    return seekListeners({ ...arriving, bus }, destination, [...own, ...old])
  }
  const known = knownListeners(rig, arriving.message)
  const before = known.get(arriving.bus)
  if (before) return before
  const found = seekListeners(arriving, destination, own)
  known.set(arriving.bus, found)
  return found
}

function take(
  rig: Rig,
  destination: Destination,
  state: DestinationState,
  arriving: Arriving,
  { does, taught }: Manners,
): { state: DestinationState; effects: readonly Effect[] } {
  let next = state
  const effects: Effect[] = []
  for (const { landed, claim, ears } of listenersTo(rig, destination, arriving, does, taught)) {
    if (claim) effects.push({ kind: 'function', claim: claim.id })
    const listening = ears.filter(({ mapping }) => mapping === null || isInForce(rig, mapping, state.scope))
    for (const ear of listening) {
      const { state: after, effect } = moved(next, destination, ear, arriving, does.includes('jumps'))
      next = after
      if (effect) effects.push(effect)
    }
    if (!claim && listening.length === 0) effects.push(otherwise(arriving, landed))
  }
  return { state: next, effects }
}

/**
 * What a destination does with one message that arrives, and how it stands then. Whatever listens there moves, whose mapping it
 * may be; what it keeps for itself goes no further. Nothing where it does not hear the message.
 */
export function receive(
  rig: Rig,
  destination: Destination,
  state: DestinationState,
  arriving: Arriving,
  manners: Manners = WELL,
): { state: DestinationState; effects: readonly Effect[] } {
  const { values, scope, controls, selected, received } = state
  let next: DestinationState = { values, scope, controls, selected, received: received + 1 }
  const often = timesTaken(manners.does, received)
  if (often === 1) return take(rig, destination, next, arriving, manners)
  const effects: Effect[] = []
  if (often === 0 && landedAt(arriving.message).some((landed) => hears(arriving.bus, landed)))
    effects.push({ kind: 'lost' })
  for (let times = often; times > 0; times--) {
    const taken = take(rig, destination, next, arriving, manners)
    next = taken.state
    effects.push(...taken.effects)
  }
  return { state: next, effects }
}
