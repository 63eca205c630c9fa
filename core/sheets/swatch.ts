import { PAPER_INK } from './card/drawing'
import { strokesOf, type Pattern } from '../lights'
import { escaped } from './markup'

const SIDE = 12

/** A swatch of a colour as SVG of 12 by 12 px, with the pattern of its role where it has one. */
export function swatchSvg(colour: string, pattern: Pattern = 'plain'): string {
  const strokes = strokesOf[pattern].map(
    ([x1, y1, x2, y2]) =>
      `<line x1="${x1 * SIDE}" y1="${y1 * SIDE}" x2="${x2 * SIDE}" y2="${y2 * SIDE}" stroke="${PAPER_INK}" stroke-width="1"/>`,
  )
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE}" height="${SIDE}" viewBox="0 0 ${SIDE} ${SIDE}"><rect x="0.5" y="0.5" width="${SIDE - 1}" height="${SIDE - 1}" fill="${escaped(colour)}" stroke="${PAPER_INK}"/>${strokes.join('')}</svg>`
}
