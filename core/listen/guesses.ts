import { decodeClicks, type Address } from '../midi'
import { orderOf, pairVerdict, wholeValues, type PairVerdict } from './pairs'
import { pointsOf, type Point } from './trail'
import { PROGRAM_THEORIES, STRUCK_THEORIES, VALUE_THEORIES } from './theories'
import { swept } from './theories/swept'
import { senderIn, sendersIn, type ListenState } from './listen'
import { sysexFamily, sysexKey, type SysexFamily } from './sysex'
import type { Ask, Halves, Manner, Sender, Theory } from './types'
import { verdictOf, type Verdict } from './verdict'

/** What something that was heard most likely is. */
export interface Guess extends Verdict {
  sender: string
  address: Address | null
  /** Every value that was heard, oldest first. */
  points: readonly Point[]
  top: number
  /** The lowest and highest value; of notes the softest and hardest blow. */
  low: number
  high: number
  /** Values between the ends that never came. */
  skipped: number
  /** Of notes: is every blow the same? Null for all else. */
  isFixedVelocity: boolean | null
  ends: Sender['ends']
  /** What comes with it and may be its other half; null where nothing does. */
  beside: string | null
  /** Of a pair: in which order its halves come. */
  halves: ReturnType<typeof orderOf> | null
  /** Of what is turned by clicks, how many came when it was turned once round; null where that was not asked, or it was turned both ways. */
  clicksATurn: number | null
  /** How often it has said again what it was told, as motors and feedback do; that is no movement. */
  echoes: number
  /** Of SysEx, the bytes between F0 and F7, with a word where its value stands; null for all else. */
  sysex: ReadonlyArray<number | 'value'> | null
  /** Of parameters: is the number left out while it stays? Null where that cannot be told. */
  omitsNumber: boolean | null
}

const isNote = ({ address }: Sender): boolean =>
  address?.scope === 'channel' && address.target.kind === 'note'
const kindOf = ({ address }: Sender): string =>
  address?.scope === 'channel' ? address.target.kind : 'system'

/** What can be meant by a kind of message. */
function theoriesFor(sender: Sender): readonly Theory[] {
  switch (kindOf(sender)) {
    case 'note':
      return STRUCK_THEORIES
    case 'cc':
      return VALUE_THEORIES
    case 'program':
      return PROGRAM_THEORIES
    default:
      return [swept, ...STRUCK_THEORIES]
  }
}

const certainly = (manner: Manner): Verdict => ({
  fitting: [manner],
  believed: [manner],
  isConfident: true,
  asks: [],
})
const SIGNAL = certainly({ kind: 'signal' })
const STEPS = certainly({ kind: 'steps' })
const FEW_BLOWS = 3

function rangeOf(
  sender: Sender,
  points: readonly Point[],
): Pick<Guess, 'low' | 'high' | 'skipped' | 'isFixedVelocity'> {
  const values = (isNote(sender) ? points.filter(({ mark }) => mark === 1) : points).map(({ value }) => value)
  const low = values.reduce((least, value) => Math.min(least, value), Infinity)
  const high = values.reduce((most, value) => Math.max(most, value), -Infinity)
  const distinct = new Set(values).size
  return {
    low: values.length > 0 ? low : 0,
    high: values.length > 0 ? high : 0,
    skipped: values.length > 0 ? high - low + 1 - distinct : 0,
    isFixedVelocity: isNote(sender) && values.length >= FEW_BLOWS ? distinct === 1 : null,
  }
}

/** One SysEx may be one value of many: it is believed to have none when it came again and again and no other did. */
function sysexVerdict(count: number): Verdict {
  const verdict = certainly({ kind: 'signal' })
  return count >= FEW_BLOWS ? verdict : { ...verdict, believed: [], isConfident: false }
}

/** What SysEx that differ at one place are: a value that is moved, or messages that cannot be told apart by pressing. */
function familyGuess(sender: Sender, { key, bytes, points }: SysexFamily): Guess {
  const verdict = verdictOf(PROGRAM_THEORIES, { points, top: SEVEN, answers: [] })
  const isMoved = verdict.isConfident && verdict.fitting[0]?.kind === 'swept'
  return {
    ...guessOf(sender),
    sender: key,
    points,
    top: SEVEN,
    sysex: bytes,
    ...rangeOf(sender, points),
    fitting: verdict.fitting,
    believed: isMoved ? verdict.believed : [],
    isConfident: isMoved,
    asks: isMoved ? [] : ['sweep'],
  }
}
const SEVEN = 127

function verdictFor(sender: Sender, points: readonly Point[]): Verdict {
  if (sender.sysex) return sysexVerdict(points.length)
  if (sender.address === null || sender.address.scope === 'system') return SIGNAL
  if (sender.isSteps) return STEPS
  return verdictOf(theoriesFor(sender), { points, top: sender.top, answers: sender.answers })
}

function guessOf(sender: Sender): Guess {
  const points = pointsOf(sender.trail)
  const { with: numbered, without } = sender.numbered
  return {
    sender: sender.key,
    address: sender.address,
    points,
    top: sender.top,
    ends: sender.ends,
    halves: null,
    beside: null,
    echoes: 0,
    clicksATurn: null,
    sysex: sender.sysex,
    omitsNumber: numbered + without < FEW_BLOWS ? null : without > 0,
    ...rangeOf(sender, points),
    ...verdictFor(sender, points),
  }
}

const PAIR_TOP = 16_383
const WHOLE = certainly({ kind: 'swept' })

function pairGuess(halves: Halves, msb: Sender): Guess {
  const points = wholeValues(halves)
  const address: Address = {
    scope: 'channel',
    channel: halves.channel,
    target: { kind: 'cc14', number: halves.number },
  }
  return {
    ...guessOf(msb),
    address,
    points,
    top: PAIR_TOP,
    halves: orderOf(halves),
    ...rangeOf({ ...msb, address }, points),
    ...WHOLE,
  }
}

/** A half of what may be a pair is nothing for sure until that is told. */
const unsettled = (guess: Guess): Guess => ({
  ...guess,
  believed: [],
  isConfident: false,
  asks: [...new Set<Ask>([...guess.asks, 'sweep'])],
})

const halvesOf = (state: ListenState, { address }: Sender): Halves | null => {
  if (address?.scope !== 'channel' || address.target.kind !== 'cc') return null
  const { number } = address.target
  if (number >= 64) return null
  const found = state.halves[`${address.channel} ${number % 32}`]
  return found && found.trail.heard > 0 ? found : null
}

/**
 * The sender that speaks for another: the MSB for the LSB that belongs to it, or may (`mustBeSure`: only that which does); else
 * itself.
 */
export function primaryOf(state: ListenState, key: string, mustBeSure = false): string {
  const sender = senderIn(state, key)
  if (sender?.sysex) return sysexKey(state, key)
  const halves = sender && halvesOf(state, sender)
  const msb = halves && `${halves.channel}:cc${halves.number}`
  if (!msb || msb === key || !senderIn(state, msb)) return key
  const verdict = pairVerdict(halves)
  return verdict === 'pair' || (verdict === 'open' && !mustBeSure) ? msb : key
}

/** The clicks of the turn that was counted last. */
function clicksCounted({ fitting, isConfident }: Guess, answers: Sender['answers']): number | null {
  const [manner] = fitting
  const round = answers.findLast(({ ask, points }) => ask === 'round' && points.length > 0)
  if (!isConfident || manner?.kind !== 'relative' || !round) return null
  const clicks = round.points.map(({ value }) => decodeClicks(manner.encoding, value))
  const isOneWay = clicks.every((by) => by > 0) || clicks.every((by) => by < 0)
  return isOneWay ? Math.abs(clicks.reduce((sum, by) => sum + by, 0)) : null
}

/** The data of NRPN and RPN, whose number may have come before anybody listened. */
const DATA_ENTRY: ReadonlySet<number> = new Set([6, 38])

export const isDataEntry = (address: Address | null): boolean =>
  address?.scope === 'channel' && address.target.kind === 'cc' && DATA_ENTRY.has(address.target.number)

/** What one sender most likely is; null for the LSB of a pair, and for what was never heard. */
export function guessFor(state: ListenState, key: string): Guess | null {
  const alone = guessAlone(state, key)
  const guess = alone && {
    ...alone,
    echoes: state.echoes[key] ?? 0,
    clicksATurn: clicksCounted(alone, senderIn(state, key)?.answers ?? []),
  }
  return guess && isDataEntry(guess.address) ? { ...unsettled(guess), asks: guess.asks } : guess
}

function guessAlone(state: ListenState, key: string): Guess | null {
  const sender = senderIn(state, key)
  if (!sender) return null
  const family = sysexFamily(state, sender)
  if (family) return family.key === key ? familyGuess(sender, family) : null
  const halves = halvesOf(state, sender)
  const isMsb =
    sender.address?.scope === 'channel' &&
    sender.address.target.kind === 'cc' &&
    sender.address.target.number < 32
  const other = halves && senderIn(state, `${halves.channel}:cc${halves.number + (isMsb ? 32 : 0)}`)
  if (!halves || !other) return guessOf(sender)
  const verdict: PairVerdict = pairVerdict(halves)
  if (verdict === 'apart') return guessOf(sender)
  const isPair = verdict === 'pair' && !isDataEntry(sender.address)
  if (isPair) return isMsb ? pairGuess(halves, sender) : null
  return { ...unsettled(guessOf(sender)), beside: other.key }
}

/** What a SysEx is by itself, whatever others differ from it at one place: a button has its own. */
export function guessOfOne(state: ListenState, key: string): Guess | null {
  const sender = senderIn(state, key)
  return sender?.sysex ? guessOf(sender) : guessFor(state, key)
}

/** What everything that was heard most likely is. */
export const guessesOf = (state: ListenState): Guess[] =>
  sendersIn(state).flatMap(({ key }) => guessFor(state, key) ?? [])
