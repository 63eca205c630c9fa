import type { LatticeRow } from '#core/addresses'

export interface Spot {
  row: number
  number: number
}

const occupied = (rows: readonly LatticeRow[], { row, number }: Spot): boolean =>
  rows[row]?.cells.some((cell) => cell.number === number) ?? false

const isKept = (rows: readonly LatticeRow[], { row, number }: Spot): boolean =>
  rows[row]?.kept.some(({ low, high }) => number >= low && number <= high) ?? false

/** All spots from `from` on (not itself), row by row, and round to the start. */
function* onward(rows: readonly LatticeRow[], from: Spot, by: 1 | -1): Generator<Spot> {
  const total = rows.length * 128
  let index = from.row * 128 + from.number
  for (let step = 1; step < total; step++) {
    index = (index + by + total) % total
    yield { row: Math.floor(index / 128), number: index % 128 }
  }
}

/** The next spot that someone sends to, or that is free; null where there is none. */
export function nextSpot(
  rows: readonly LatticeRow[],
  from: Spot,
  wanted: 'occupied' | 'free',
  by: 1 | -1 = 1,
): Spot | null {
  for (const spot of onward(rows, from, by)) {
    const taken = occupied(rows, spot)
    if (wanted === 'occupied' ? taken : !taken && !isKept(rows, spot)) return spot
  }
  return null
}

/** One step in a direction, kept within the grid. */
export function stepSpot(rows: readonly LatticeRow[], from: Spot, dx: number, dy: number): Spot {
  const clamp = (value: number, top: number): number => Math.max(0, Math.min(top, value))
  return { row: clamp(from.row + dy, rows.length - 1), number: clamp(from.number + dx, 127) }
}
