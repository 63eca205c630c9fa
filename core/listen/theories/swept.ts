import type { Point } from '../trail'
import type { Theory } from '../types'
import { ANSWERED, notMoved } from './alternating'

/** Moved by hand, values follow one another so closely, in ms. */
const CLOSE_MS = 80
/** So many values that go one way are a movement. */
const RUN = 8
/** More than this share of the way is not passed between two readings. */
const LEAP = 0.5
const FEW = 4
const MOSTLY = 0.4

/** The longest run of values that go one way, closely after one another. */
function longestRun(points: readonly Point[]): number {
  let [longest, length, way] = [1, 1, 0]
  points.forEach(({ at, value }, index) => {
    const before = points[index - 1]
    if (!before) return
    const now = Math.sign(value - before.value)
    const isOn = now !== 0 && (way === 0 || now === way) && at - before.at <= CLOSE_MS
    length = isOn ? length + 1 : 1
    way = isOn ? now : 0
    longest = Math.max(longest, length)
  })
  return longest
}

/** The place where it stands: a control says no value twice, and passes what lies between. */
export const swept: Theory = (evidence) => {
  const { points, top } = evidence
  const oddIn = (all: readonly Point[]): number =>
    all.filter(({ value }, index) => {
      const before = all[index - 1]
      return before && (before.value === value || Math.abs(before.value - value) > top * LEAP)
    }).length
  // Turned by single clicks, what stands somewhere stands somewhere else after each.
  const clicked = evidence.answers.some(
    ({ ask, points: own }) => ask === 'clicks' && own.length >= FEW && oddIn(own) > own.length * MOSTLY,
  )
  return {
    manner: { kind: 'swept' },
    hard: notMoved(evidence) + (clicked ? ANSWERED : 0),
    soft: oddIn(points),
    isShown: longestRun(points) >= RUN,
  }
}
