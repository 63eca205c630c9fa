import type { Ask, Evidence, Judgement, Manner, Theory } from './types'

/** So much that a theory never explains is too much, whatever else was heard. */
const TOO_HARD = 3
/** Of little that was heard, this share is. */
const HARD_SHARE = 0.34
/** So much, and this share of all, is more than messages are ever lost. */
const TOO_SOFT = 3
const SOFT_SHARE = 0.25
/** What is believed explains everything but for a few messages that were lost. */
const BELIEVED_SHARE = 0.15

/** What one sender most likely does, and what else it may do. */
export interface Verdict {
  /** What explains most of what was heard first. Empty while nothing does. */
  fitting: readonly Manner[]
  /** Is it the first, for nothing else explains what was heard? */
  isConfident: boolean
  /** Of these what explains everything by itself, but for a few messages that were lost. */
  believed: readonly Manner[]
  /** What would tell the rest apart, the most telling first. Empty where there is nothing to ask. */
  asks: readonly Ask[]
}

const isOut = ({ hard, soft }: Judgement, count: number): boolean =>
  hard >= TOO_HARD || hard > count * HARD_SHARE || (soft >= TOO_SOFT && soft > count * SOFT_SHARE)
const isBelievable = ({ hard, soft, isShown }: Judgement, count: number): boolean =>
  isShown && hard === 0 && soft <= count * BELIEVED_SHARE

const isPressed = ({ kind }: Manner): boolean =>
  kind === 'momentary' || kind === 'toggle' || kind === 'trigger' || kind === 'list'

/** Messages that are so far apart, in ms, are single acts: presses, or clicks. */
const SINGLE_MS = 150

/** Values that encoders say for one click, in whatever encoding. */
const ONE_CLICK = new Set([1, 63, 65, 127])

function asksFor(fitting: readonly Manner[], { points }: Evidence): Ask[] {
  if (fitting.length === 0) return []
  const has = (kind: Manner['kind']): boolean => fitting.some((each) => each.kind === kind)
  const isOnlyFull = points.every(({ mark }) => mark === 127)
  const isLikeClicks = has('relative') && !isOnlyFull && points.every(({ value }) => ONE_CLICK.has(value))
  if (isLikeClicks) return ['clicks', 'press', 'sweep']
  if (fitting.some(isPressed) && !has('swept')) return ['press', 'clicks', 'sweep']
  const isSingle = points.every(({ at }, index) => at - (points[index - 1]?.at ?? -Infinity) > SINGLE_MS)
  return isSingle ? ['press', 'clicks', 'sweep'] : ['sweep', 'clicks', 'press']
}

/** Judge what was heard of one sender by every theory that its kind allows. */
export function verdictOf(theories: readonly Theory[], evidence: Evidence): Verdict {
  const count = evidence.points.length
  const all = theories.flatMap((theory) => theory(evidence) ?? [])
  const fitting = all
    .filter((each) => !isOut(each, count))
    .sort((a, b) => Number(b.isShown) - Number(a.isShown) || a.hard - b.hard || a.soft - b.soft)
  const [best] = fitting
  const isConfident = best !== undefined && fitting.length === 1 && isBelievable(best, count)
  const manners = fitting.map(({ manner }) => manner)
  // What gave nothing is not asked again, and only more presses tell more.
  const answered = new Set(
    evidence.answers.flatMap(({ ask, points }) => (ask === 'press' && points.length > 0 ? [] : [ask])),
  )
  return {
    fitting: manners,
    isConfident,
    believed: fitting.filter((each) => isBelievable(each, count)).map(({ manner }) => manner),
    asks: isConfident ? [] : asksFor(manners, evidence).filter((ask) => !answered.has(ask)),
  }
}
