import { strokesOf, type Pattern } from '#core/lights'

/** How large the square is in which a light says the pattern of its role, in px. */
const SIDE = 9

/** The pattern of a light role as a path: a square of 9 px with its strokes. */
export const patternPath = (pattern: Pattern): string =>
  `M0 0h${SIDE}v${SIDE}h-${SIDE}z` +
  strokesOf[pattern]
    .map(([x1, y1, x2, y2]) => `M${x1 * SIDE} ${y1 * SIDE}L${x2 * SIDE} ${y2 * SIDE}`)
    .join('')
