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

export type Stroke = readonly [x1: number, y1: number, x2: number, y2: number]
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
