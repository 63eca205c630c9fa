import {
  differenceEuclidean,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  oklab,
  parse,
  type Color,
} from 'culori'

/** A colour as `#rrggbb`. */
export type Hex = string

/** How a colour is seen: by most people, or in one of the three common forms of colour blindness. */
export const VISIONS = ['common', 'protanope', 'deuteranope', 'tritanope'] as const
export type Vision = (typeof VISIONS)[number]

const SEEN: Readonly<Record<Vision, (colour: Color) => Color>> = {
  common: (colour) => colour,
  protanope: filterDeficiencyProt(1),
  deuteranope: filterDeficiencyDeuter(1),
  tritanope: filterDeficiencyTrit(1),
}

const difference = differenceEuclidean('oklab')

const parsed = new Map<Hex, Color>()
function colourOf(hex: Hex): Color {
  const known = parsed.get(hex)
  if (known) return known
  const colour = parse(hex)
  if (!colour) throw new RangeError(`“${hex}” is no colour: write it as #rrggbb.`)
  parsed.set(hex, colour)
  return colour
}

/**
 * How far apart two colours are in OKLab (0 is the same, black and white are 1), as most people see them or in
 * a form of colour blindness. Throws a RangeError for what is no colour.
 */
export const apart = (a: Hex, b: Hex, vision: Vision = 'common'): number =>
  difference(SEEN[vision](colourOf(a)), SEEN[vision](colourOf(b)))

/** Lightness of a colour in OKLab, 0 (black) to 1 (white). */
export const lightness = (hex: Hex): number => oklab(colourOf(hex)).l

/** How colourful a colour is in OKLab: 0 is grey. */
export function colourfulness(hex: Hex): number {
  const { a, b } = oklab(colourOf(hex))
  return Math.hypot(a, b)
}
