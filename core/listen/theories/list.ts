import { ASKED_PRESSES, type Evidence, type Theory } from '../types'
import { counted, FASTEST_PRESS_MS, notPressed } from './alternating'

const [LEAST, MOST] = [3, 32]
const ROUNDS = 3
const LOST_SHARE = 0.15
const MOST_LOST = 1

/** The next of a list of values at every press, from the first again after the last. */
export const list: Theory = (evidence) => {
  const { points } = evidence
  const after = new Map<number, number[]>()
  points.forEach(({ mark }, index) => {
    const before = points[index - 1]
    if (before) after.set(before.mark, [...(after.get(before.mark) ?? []), mark])
  })
  let misfits = 0
  const next = new Map<number, number>()
  for (const [mark, followers] of after) {
    const [usual] = counted(followers)
    if (!usual) continue
    next.set(mark, usual.mark)
    misfits += followers.length - usual.count
  }
  const values = roundOf(next)
  if (values.length < LEAST || values.length > MOST) return null
  const tooFast = points.filter(({ at }, index) => {
    const before = points[index - 1]
    return before && at - before.at < FASTEST_PRESS_MS
  }).length
  const strangers = points.filter(({ mark }) => !values.includes(mark)).length
  return {
    manner: { kind: 'list', values },
    hard: strangers + notPressed(evidence),
    soft: misfits + tooFast,
    // What was lost in every round would leave a value out.
    isShown:
      lostIn(evidence) <= MOST_LOST &&
      misfits <= points.length * LOST_SHARE &&
      points.length >= values.length * ROUNDS,
  }
}

/** How many presses that were asked for gave nothing. */
const lostIn = ({ answers }: Evidence): number =>
  answers.reduce(
    (sum, { ask, points }) => sum + (ask === 'press' ? Math.max(0, ASKED_PRESSES - points.length) : 0),
    0,
  )

/** The values that come round and round, from the lowest on. */
function roundOf(next: ReadonlyMap<number, number>): number[] {
  const start = [...next.keys()].sort((a, b) => a - b)[0]
  if (start === undefined) return []
  const seen: number[] = []
  for (let at: number | undefined = start; at !== undefined && !seen.includes(at); at = next.get(at))
    seen.push(at)
  return seen
}
