import { decodeClicks, type RelativeEncoding } from '../../midi'
import type { Theory } from '../types'
import { notMoved } from './alternating'

/** Nobody turns by more clicks between two readings, however it is accelerated. */
export const MOST_CLICKS_AT_ONCE = 24
const EACH_WAY = 2

/** So many clicks up or down, in one of the encodings. */
export const relativeIn =
  (encoding: RelativeEncoding): Theory =>
  (evidence) => {
    const { points, top } = evidence
    if (top !== 127) return null
    const clicks = points.map(({ value }) => decodeClicks(encoding, value))
    const misfits = clicks.filter((by) => by === 0 || Math.abs(by) > MOST_CLICKS_AT_ONCE).length
    return {
      manner: { kind: 'relative', encoding },
      hard: misfits + notMoved(evidence),
      soft: 0,
      isShown:
        clicks.filter((by) => by > 0).length >= EACH_WAY && clicks.filter((by) => by < 0).length >= EACH_WAY,
    }
  }
