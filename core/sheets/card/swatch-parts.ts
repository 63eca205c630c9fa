import { strokesOf, type Pattern } from '../../lights'
import type { Part } from './drawing'

/** A square swatch of a colour with the pattern of its role, `side` mm wide. */
export function swatchParts(x: number, y: number, side: number, colour: string, pattern: Pattern): Part[] {
  return [
    { kind: 'rect', x, y, w: side, h: side, radius: 0, ink: 'mark', fill: colour },
    ...strokesOf[pattern].map(([x1, y1, x2, y2]): Part => ({
      kind: 'line',
      x1: x + x1 * side,
      y1: y + y1 * side,
      x2: x + x2 * side,
      y2: y + y2 * side,
      ink: 'mark',
    })),
  ]
}
