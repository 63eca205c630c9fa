import type { Control, Id } from '../types'

/** Where a control shall lie, in mm. */
export type Place = Control['place']
export type Placing = ReadonlyMap<Id, Place>

export type Edge = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom'
export type Axis = 'across' | 'down'

const GRID_MM = 0.5
const tidy = (value: number): number => Math.round(value * 100) / 100

interface Span {
  low: number
  high: number
}

const spanOf = ({ x, y, w, h }: Place, axis: Axis): Span =>
  axis === 'across' ? { low: x, high: x + w } : { low: y, high: y + h }

const shifted = (place: Place, axis: Axis, low: number): Place =>
  axis === 'across' ? { ...place, x: Math.max(0, tidy(low)) } : { ...place, y: Math.max(0, tidy(low)) }

const bounds = (controls: readonly Control[], axis: Axis): Span => {
  const spans = controls.map(({ place }) => spanOf(place, axis))
  return { low: Math.min(...spans.map(({ low }) => low)), high: Math.max(...spans.map(({ high }) => high)) }
}

const AXIS_OF_EDGE: Readonly<Record<Edge, Axis>> = {
  left: 'across',
  centre: 'across',
  right: 'across',
  top: 'down',
  middle: 'down',
  bottom: 'down',
}

/** Line controls up at one edge (or the middle) of the space they take together. */
export function align(controls: readonly Control[], edge: Edge): Placing {
  const axis = AXIS_OF_EDGE[edge]
  const { low, high } = bounds(controls, axis)
  return new Map(
    controls.map(({ id, place }) => {
      const own = spanOf(place, axis)
      const size = own.high - own.low
      const to =
        edge === 'left' || edge === 'top'
          ? low
          : edge === 'right' || edge === 'bottom'
            ? high - size
            : (low + high - size) / 2
      return [id, shifted(place, axis, to)]
    }),
  )
}

/** Make the gaps between controls equal; the outermost two stay. With `gap` (mm), the first stays and the rest follow. */
export function distribute(controls: readonly Control[], axis: Axis, gap: number | null = null): Placing {
  const ordered = controls.toSorted((a, b) => spanOf(a.place, axis).low - spanOf(b.place, axis).low)
  const { low, high } = bounds(controls, axis)
  const sizes = ordered.map(({ place }) => spanOf(place, axis)).map((span) => span.high - span.low)
  const free = high - low - sizes.reduce((sum, size) => sum + size, 0)
  const between = gap ?? free / Math.max(1, controls.length - 1)
  let position = low
  return new Map(
    ordered.map(({ id, place }, index) => {
      const placed = shifted(place, axis, position)
      position += (sizes[index] ?? 0) + between
      return [id, placed]
    }),
  )
}

/** Move controls by a distance in mm; none leaves the surface to the left or above. */
export function moved(controls: readonly Control[], dx: number, dy: number): Placing {
  const left = Math.max(dx, -bounds(controls, 'across').low)
  const up = Math.max(dy, -bounds(controls, 'down').low)
  return new Map(
    controls.map(({ id, place }) => [id, { ...place, x: tidy(place.x + left), y: tidy(place.y + up) }]),
  )
}

/** A length snapped to the drawing grid. */
export const snapped = (value: number): number => Math.round(value / GRID_MM) * GRID_MM

/** How close (mm) an edge must come to another's to snap to it. */
const SNAP_MM = 2

/**
 * How far to correct a move so that an edge or middle of what is moved meets one of its neighbours',
 * in each direction; where nobody is near, to the grid.
 */
export function snapMove(
  movedControls: readonly Control[],
  others: readonly Control[],
  dx: number,
  dy: number,
): { dx: number; dy: number } {
  return {
    dx: snapAxis(movedControls, others, 'across', dx),
    dy: snapAxis(movedControls, others, 'down', dy),
  }
}

const lines = ({ low, high }: Span): number[] => [low, (low + high) / 2, high]

function snapAxis(controls: readonly Control[], others: readonly Control[], axis: Axis, by: number): number {
  if (controls.length === 0) return by
  const own = bounds(controls, axis)
  const wanted = others.flatMap(({ place }) => lines(spanOf(place, axis)))
  let best: number | null = null
  for (const line of lines(own)) {
    for (const target of wanted) {
      const correction = target - (line + by)
      if (Math.abs(correction) <= SNAP_MM && (best === null || Math.abs(correction) < Math.abs(best)))
        best = correction
    }
  }
  return best === null ? snapped(own.low + by) - own.low : by + best
}
