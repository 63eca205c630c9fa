import { ASKED_PRESSES, type Theory } from '../types'
import { ANSWERED, counted, notPressed } from './alternating'

const FEWEST = 5
/** So many messages are more than one a press. */
const TOO_MANY = ASKED_PRESSES + 2

/** The same value at every press, and nothing when it is let go. */
export const trigger: Theory = (evidence) => {
  const { points, answers } = evidence
  const [usual] = counted(points.map(({ mark }) => mark))
  if (!usual) return null
  const tooMany = answers.filter(({ ask, points: own }) => ask === 'press' && own.length >= TOO_MANY).length
  return {
    manner: { kind: 'trigger', value: usual.mark },
    hard: points.length - usual.count + tooMany * ANSWERED + notPressed(evidence),
    soft: 0,
    isShown: points.length >= FEWEST,
  }
}
