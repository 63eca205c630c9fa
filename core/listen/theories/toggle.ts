import { ASKED_PRESSES, type Theory } from '../types'
import { alternating, ANSWERED, FASTEST_PRESS_MS, notPressed } from './alternating'

const FEWEST = 6
/** So many messages are more than one a press. */
const TOO_MANY = ASKED_PRESSES + 2

/** One value at one press, the other at the next. */
export const toggle: Theory = (evidence) => {
  const found = alternating(evidence)
  if (!found) return null
  const { points, answers } = evidence
  const tooMany = answers.filter(({ ask, points: own }) => ask === 'press' && own.length >= TOO_MANY).length
  const tooFast = points.filter(
    ({ at, mark }, index) =>
      index > 0 && at - (points[index - 1]?.at ?? 0) < FASTEST_PRESS_MS && points[index - 1]?.mark !== mark,
  ).length
  return {
    manner: {
      kind: 'toggle',
      on: Math.max(found.first, found.second),
      off: Math.min(found.first, found.second),
    },
    hard: found.strangers + tooMany * ANSWERED + tooFast + notPressed(evidence),
    soft: found.repeats,
    isShown: points.length >= FEWEST,
  }
}
