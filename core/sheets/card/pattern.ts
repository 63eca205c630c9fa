import type { Part } from './drawing'

/** Patterns that tell light roles apart where colours do not, in the order in which roles take them. */
export const PATTERNS = [
  'plain',
  'rising',
  'falling',
  'level',
  'upright',
  'crossed',
  'dotted',
  'squared',
] as const
export type Pattern = (typeof PATTERNS)[number]

/** The pattern of a role by its place among the roles. */
export const patternOf = (index: number): Pattern => PATTERNS[index % PATTERNS.length] ?? 'plain'

type Stroke = readonly [x1: number, y1: number, x2: number, y2: number]
const THIRDS = [0.25, 0.5, 0.75]

/** The strokes of a pattern in a square of side 1. */
export const strokesOf: Readonly<Record<Pattern, readonly Stroke[]>> = {
  plain: [],
  rising: [
    [0, 0.5, 0.5, 0],
    [0, 1, 1, 0],
    [0.5, 1, 1, 0.5],
  ],
  falling: [
    [0, 0.5, 0.5, 1],
    [0, 0, 1, 1],
    [0.5, 0, 1, 0.5],
  ],
  level: THIRDS.map((at) => [0, at, 1, at] as const),
  upright: THIRDS.map((at) => [at, 0, at, 1] as const),
  crossed: [
    [0, 0, 1, 1],
    [0, 1, 1, 0],
  ],
  dotted: THIRDS.flatMap((x) => THIRDS.map((y) => [x - 0.04, y, x + 0.04, y] as const)),
  squared: [
    [0, 0.5, 1, 0.5],
    [0.5, 0, 0.5, 1],
  ],
}

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
