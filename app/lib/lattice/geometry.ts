/** Sizes of the lattice in px. */
export const LATTICE = {
  /** Channel number, owners' letters and fullness, left of the grid. */
  left: 92,
  /** Distance from bend to pressure to program. */
  stripStep: 36,
  /** Bend, pressure and program, right of the grid. */
  strip: 116,
  top: 20,
  rowHeight: 22,
} as const

export interface LatticeGeometry {
  width: number
  gridWidth: number
  columnWidth: number
  height: number
  stripX: number
  x: (number: number) => number
  y: (row: number) => number
  /** The cell under a point of the drawing, or null outside the grid. */
  cellAt: (x: number, y: number) => { row: number; number: number } | null
}

/** Geometry for a drawing `width` px wide with `rows` rows. */
export function latticeGeometry(width: number, rows: number): LatticeGeometry {
  const gridWidth = Math.max(256, width - LATTICE.left - LATTICE.strip)
  const columnWidth = gridWidth / 128
  return {
    width: gridWidth + LATTICE.left + LATTICE.strip,
    gridWidth,
    columnWidth,
    height: LATTICE.top + rows * LATTICE.rowHeight + 1,
    stripX: LATTICE.left + gridWidth + 12,
    x: (number) => LATTICE.left + number * columnWidth,
    y: (row) => LATTICE.top + row * LATTICE.rowHeight,
    cellAt: (x, y) => {
      const number = Math.floor((x - LATTICE.left) / columnWidth)
      const row = Math.floor((y - LATTICE.top) / LATTICE.rowHeight)
      return number < 0 || number > 127 || row < 0 || row >= rows ? null : { row, number }
    },
  }
}
