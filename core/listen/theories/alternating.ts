import type { Evidence } from '../types'

/** Nobody lets go and presses again so fast, in ms. */
export const FASTEST_PRESS_MS = 45
/** An answer that speaks against a theory speaks as loud as so many values that it does not explain. */
export const ANSWERED = 3
const FEW = 4

/** How often each mark came, the commonest first. */
export function counted(marks: readonly number[]): Array<{ mark: number; count: number }> {
  const counts = new Map<number, number>()
  for (const mark of marks) counts.set(mark, (counts.get(mark) ?? 0) + 1)
  return [...counts].map(([mark, count]) => ({ mark, count })).sort((a, b) => b.count - a.count)
}

interface Alternating {
  /** The mark that came first when it was pressed, and the other. */
  first: number
  second: number
  /** Marks that are neither. */
  strangers: number
  /** The same mark twice: one between them was lost, if they take turns. */
  repeats: number
}

/** What two marks that take turns look like; null where there are not two. */
export function alternating({ points, answers }: Evidence): Alternating | null {
  const [a, b] = counted(points.map(({ mark }) => mark))
  if (!a || !b) return null
  let [strangers, repeats] = [0, 0]
  points.forEach(({ mark }, index) => {
    if (mark !== a.mark && mark !== b.mark) strangers++
    else if (points[index - 1]?.mark === mark) repeats++
  })
  const [answered] = answers.flatMap(({ ask, points: own }) =>
    ask === 'press' ? own.slice(0, 1).map(({ mark }) => mark) : [],
  )
  const first = answered ?? points[0]?.mark ?? a.mark
  return { first, second: first === a.mark ? b.mark : a.mark, strangers, repeats }
}

/** What speaks against anything that is pressed: it was turned or moved, and much came of it. */
export const notPressed = ({ answers }: Evidence): number =>
  answers.some(({ ask, points }) => ask !== 'press' && points.length >= FEW) ? ANSWERED : 0

/** Messages that are so far apart, in ms, are single acts. */
const SINGLE_MS = 150

/** What speaks against anything that is turned or moved: it was pressed, and what came of it came press by press. */
export const notMoved = ({ answers }: Evidence): number =>
  answers.some(({ ask, points }) => {
    if (ask !== 'press' || points.length < FEW) return false
    const isOfTwo = counted(points.map(({ mark }) => mark)).length <= 2
    return isOfTwo || points.every(({ at }, index) => at - (points[index - 1]?.at ?? -Infinity) > SINGLE_MS)
  })
    ? ANSWERED
    : 0
