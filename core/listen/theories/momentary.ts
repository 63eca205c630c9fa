import { ASKED_PRESSES, type Evidence, type Theory } from '../types'
import type { Point } from '../trail'
import { alternating, ANSWERED, FASTEST_PRESS_MS, notPressed } from './alternating'

const FEWEST = 6
/** So few messages are hardly more than one a press. */
const TOO_FEW = ASKED_PRESSES + 1
/** Pressed briefly, it is held for much less long than it is left alone. */
const LONGER = 1.5

const middle = (all: readonly number[]): number => all.toSorted((a, b) => a - b)[all.length >> 1] ?? 0

/** Which of two marks comes when it is pressed: what stays for less long when it was to be pressed briefly. Null if unclear. */
function pressedOf(points: readonly Point[], a: number, b: number): number | null {
  const stays = (mark: number): number =>
    middle(
      points.flatMap((point, index) => {
        const next = points[index + 1]
        return point.mark === mark && next && next.mark !== mark ? [next.at - point.at] : []
      }),
    )
  const [ofA, ofB] = [stays(a), stays(b)]
  if (ofA === 0 || ofB === 0) return null
  if (ofB > ofA * LONGER) return a
  return ofA > ofB * LONGER ? b : null
}

/** The points in which hands were quick enough to tell pressed from let go. */
const brief = ({ points, answers }: Evidence): readonly Point[] => {
  const asked = answers.filter(({ ask, points: own }) => ask === 'press' && own.length > ASKED_PRESSES)
  if (asked.length > 0) return asked.at(-1)?.points ?? []
  const isQuick = points.some(
    ({ at, mark }, index) =>
      index > 0 && points[index - 1]?.mark !== mark && at - (points[index - 1]?.at ?? 0) < FASTEST_PRESS_MS,
  )
  return isQuick ? points : []
}

/** One value while it is pressed, another when it is let go. */
export const momentary: Theory = (evidence) => {
  const found = alternating(evidence)
  if (!found) return null
  const tooFew = evidence.answers.filter(
    ({ ask, points }) => ask === 'press' && points.length > 0 && points.length <= TOO_FEW,
  ).length
  const pressed = pressedOf(brief(evidence), found.first, found.second)
  return {
    manner: {
      kind: 'momentary',
      pressed: pressed ?? found.first,
      released: pressed === found.second ? found.first : found.second,
    },
    hard: found.strangers + tooFew * ANSWERED + notPressed(evidence),
    soft: found.repeats,
    isShown: evidence.points.length >= FEWEST && pressed !== null,
  }
}
