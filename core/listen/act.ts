import { primaryOf } from './guesses'
import { senderIn, type ListenState } from './listen'
import type { GestureKind } from '../rig'
import { sysexFamily } from './sysex'
import { EMPTY_TRAIL, pointsOf, shareTogether, type Point } from './trail'
import type { Sender } from './types'

/**
 * How something was used while a hand was at it: moved or turned, pressed, or leaned into. Few values may be presses as well as
 * clicks or the begin of a movement: that is `unclear`.
 */
export type Shape = 'moved' | 'pressed' | 'leaned' | 'unclear'

/** Gestures that are pressed, of those that a hand makes by itself: a touch comes with a movement. */
const PRESSED: ReadonlySet<GestureKind> = new Set(['press', 'push', 'strike'])
export const isPressed = (gesture: GestureKind): boolean => PRESSED.has(gesture)

/** What a hand is at: since when, when something came last (ms), and what sends. Never changed in place. */
export interface Act {
  from: number
  last: number
  senders: ReadonlySet<string>
}
/** The act with one more message of a sender, at ms; a new one where there is none. */
export const actWith = (act: Act | null, sender: string, at: number): Act => ({
  from: act?.from ?? at,
  last: at,
  senders: act?.senders.has(sender) ? act.senders : new Set([...(act?.senders ?? []), sender]),
})

type Since = Pick<Act, 'senders' | 'from'>

/** What one sender said while a hand was at something. */
export interface Acted {
  sender: string
  shape: Shape
  points: readonly Point[]
}

/** Values that follow one another so closely, in ms, are a movement; single presses are further apart. */
const FLOWING_MS = 150
const FEW_VALUES = 3
/** Values that encoders say for one click, in whatever encoding. */
const ONE_CLICK: ReadonlySet<number> = new Set([1, 63, 65, 127])
/** Something that was touched by accident says little, beside something that was moved. */
const [ACCIDENT, AT_LEAST] = [3, 12]
/** This share of a movement lies between its touch and letting go. */
const WITHIN = 0.9

function shapeOf({ address, isSteps, sysex }: Sender, points: readonly Point[]): Shape {
  const kind = address?.scope === 'channel' ? address.target.kind : null
  if (kind === 'channelPressure' || kind === 'polyPressure') return 'leaned'
  if (isSteps) return 'moved'
  if ((kind === null && !sysex) || kind === 'note' || kind === 'program') return 'pressed'
  const flowing = points.filter(({ at, value }, index) => {
    const before = points[index - 1]
    return before !== undefined && at - before.at < FLOWING_MS && value !== before.value
  })
  if (new Set(flowing.map(({ value }) => value)).size >= FEW_VALUES) return 'moved'
  if (kind === null) return 'pressed'
  const values = new Set(points.map(({ value }) => value))
  return values.size === 2 && [...values].some((value) => !ONE_CLICK.has(value)) ? 'pressed' : 'unclear'
}

/** What is waited for: one movement, two axes, or something that is pressed. */
export type Awaited = 'movement' | 'axes' | 'press'

/**
 * What the senders of an act have said in it, in the order in which they came. A half of a pair is part of its other half; where two axes are
 * awaited, only if that is sure. SysEx that differ at one place are one sender, unless presses are awaited: then each is its own.
 */
export function actedSince(state: ListenState, { senders, from }: Since, awaited: Awaited): Acted[] {
  const keys = [...new Set([...senders].map((key) => spokenFor(state, { senders, from }, key, awaited)))]
  return keys.flatMap((key) => actedBy(state, key, from, awaited) ?? [])
}

/** The sender that a half belongs to: one that came with it, or to which it surely belongs. */
function spokenFor(state: ListenState, { senders, from }: Since, key: string, awaited: Awaited): string {
  if (senderIn(state, key)?.sysex) return awaited === 'press' ? key : primaryOf(state, key)
  const other = primaryOf(state, key, awaited === 'axes')
  const isHere = other === key || senders.has(other) || cameWith(state, key, other, from)
  return isHere ? other : primaryOf(state, key, true)
}

/** Two halves that come so closely together, in ms, may be of one movement. */
const TOGETHER_MS = 8
const MOSTLY = 0.5

/** Was another sender, which is known and so began no act, moved along with this one? A half that comes first begins an act alone. */
function cameWith(state: ListenState, key: string, other: string, from: number): boolean {
  const since = (of: string): Point[] =>
    pointsOf(senderIn(state, of)?.trail ?? EMPTY_TRAIL).filter(({ at }) => at >= from)
  return shareTogether(since(key), since(other), TOGETHER_MS) > MOSTLY
}

/** What one sender has said from a time on, in ms; null where that is nothing. */
export function actedBy(
  state: ListenState,
  key: string,
  from: number,
  awaited: Awaited = 'movement',
): Acted | null {
  const sender = senderIn(state, key)
  if (!sender) return null
  const family = awaited === 'press' ? null : sysexFamily(state, sender)
  const points = (family?.points ?? pointsOf(sender.trail)).filter(({ at }) => at >= from)
  return points.length > 0 ? { sender: key, shape: shapeOf(sender, points), points } : null
}

/** Does one begin before another moves, and end after it? */
export function encloses(touch: Acted, moved: Acted): boolean {
  const [on] = touch.points
  if (!on || touch.shape !== 'pressed') return false
  const off = touch.points.find(({ at, mark }) => at >= on.at && mark !== on.mark)?.at
  if (off === undefined) return false
  const inside = moved.points.filter(({ at }) => at >= on.at && at <= off).length
  return inside >= moved.points.length * WITHIN
}

/** Did something say so little beside a movement that nobody meant it? */
export const isAccident = ({ shape, points }: Acted, all: readonly Acted[]): boolean =>
  (shape === 'moved' || shape === 'unclear') &&
  points.length <= ACCIDENT &&
  all.some((each) => (each.shape === 'moved' || each.shape === 'leaned') && each.points.length >= AT_LEAST)

/** When something was moved, in the middle, in ms. */
export const meanTime = ({ points }: Acted): number =>
  points.reduce((sum, { at }) => sum + at, 0) / Math.max(1, points.length)

const RANK: Readonly<Record<Shape, number>> = { moved: 0, pressed: 1, unclear: 2, leaned: 3 }

/**
 * What a hand meant: of several that moved, what moved most; a movement, and not the touch before it; a blow, and not the pressure
 * after it.
 */
export function meantOf(all: readonly Acted[]): Acted | null {
  const [meant = null] = all.toSorted(
    (a, b) => RANK[a.shape] - RANK[b.shape] || (a.shape === 'moved' ? b.points.length - a.points.length : 0),
  )
  // What is slid along or leaned into while a note sounds was struck for the note.
  const note = all.find(({ sender }) => sender.includes(':note'))
  return meant && note && note !== meant && encloses(note, meant) ? note : meant
}
