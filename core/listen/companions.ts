import { senderIn, sendersIn, type ListenState } from './listen'
import { pointsOf, shareTogether, type Point } from './trail'
import type { Sender } from './types'

/** How something else that was heard goes with a sender. */
export interface Companion {
  sender: string
  /**
   * `touch` comes before each movement and goes after it; `axis` moves at the same times, as another hand may; `pressure` comes only while the
   * note sounds.
   */
  kind: 'touch' | 'axis' | 'pressure'
}

/** Of what moves together, messages are no further apart, in ms: moved slowly, an axis is not said at every reading. */
const SAME_MS = 20
/** A hand that touches moves within so long, in ms. */
const SOON_MS = 600
const [FEW_EPISODES, FEW_POINTS] = [2, 12]
/** An axis that stays is not sent: of the other one's messages only some come together with it. */
const [MOSTLY, OFTEN] = [0.8, 0.4]
/** Only what was heard within so long of it, in ms, can go with it. */
const NEAR_MS = 30_000

interface Interval {
  from: number
  to: number
}

/** When something that begins and ends was on; null where it is not like that. */
function onIntervals(points: readonly Point[]): Interval[] | null {
  const marks = new Set(points.map(({ mark }) => mark))
  if (marks.size !== 2) return null
  const off = Math.min(...marks)
  const found: Interval[] = []
  let from: number | null = null
  for (const { at, mark } of points) {
    if (mark !== off) from ??= at
    else if (from !== null) {
      found.push({ from, to: at })
      from = null
    }
  }
  return found
}

const isWithin = ({ from, to }: Interval, at: number): boolean => at >= from && at <= to

/** Is one on whenever the other moves, again and again, and never long before it does? */
function isTouchOf(touch: readonly Point[], moved: readonly Point[]): boolean {
  const all = onIntervals(touch)
  if (!all || all.length < FEW_EPISODES || moved.length < FEW_POINTS) return false
  const isAlways = moved.every(({ at }) => all.some((each) => isWithin(each, at)))
  const isFor = all.every((each) => {
    const first = moved.find(({ at }) => isWithin(each, at))
    return first !== undefined && first.at - each.from <= SOON_MS
  })
  return isAlways && isFor
}

const kindOf = ({ address }: Sender): string | null =>
  address?.scope === 'channel' ? address.target.kind : null

function relationOf(own: Sender, other: Sender): Companion['kind'] | null {
  const [mine, theirs] = [pointsOf(own.trail), pointsOf(other.trail)]
  const isNote = kindOf(own) === 'note'
  const isPressure = kindOf(other) === 'channelPressure' || kindOf(other) === 'polyPressure'
  if (isNote) return isPressure && isTouchOf(mine, theirs) ? 'pressure' : null
  if (isTouchOf(theirs, mine)) return 'touch'
  const isMoved = mine.length >= FEW_POINTS && theirs.length >= FEW_POINTS
  const [less, more] = [shareTogether(mine, theirs, SAME_MS), shareTogether(theirs, mine, SAME_MS)].sort(
    (a, b) => a - b,
  ) as [number, number]
  const isOne = isMoved && more >= MOSTLY && less >= OFTEN
  return isOne ? 'axis' : null
}

/**
 * What else goes with a sender, so that it may be the same control. Two hands can do the same as one: it is told, and never
 * taken for sure.
 */
export function companionsOf(state: ListenState, key: string): Companion[] {
  const own = senderIn(state, key)
  const last = own && pointsOf(own.trail).at(-1)?.at
  if (!own || last === undefined) return []
  return sendersIn(state).flatMap((other): Companion[] => {
    const seen = pointsOf(other.trail).at(-1)?.at ?? -Infinity
    if (other.key === key || Math.abs(seen - last) > NEAR_MS || isHalfOf(own, other)) return []
    const kind = relationOf(own, other)
    return kind ? [{ sender: other.key, kind }] : []
  })
}

/** Two CC 32 apart may be one value: that is told elsewhere. */
const isHalfOf = ({ address: a }: Sender, { address: b }: Sender): boolean =>
  a?.scope === 'channel' &&
  b?.scope === 'channel' &&
  a.channel === b.channel &&
  a.target.kind === 'cc' &&
  b.target.kind === 'cc' &&
  Math.abs(a.target.number - b.target.number) === 32 &&
  Math.min(a.target.number, b.target.number) < 32
