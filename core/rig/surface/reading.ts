import type { Control } from '../types'

/** Controls whose middles lie closer than this (mm) are in one row. */
const ROW_TOLERANCE_MM = 4

const middle = ({ place }: Control): number => place.y + place.h / 2

/** Rows of controls, top to bottom, each left to right. */
export function rowsOf(controls: readonly Control[]): Control[][] {
  const rows: Control[][] = []
  for (const control of controls.toSorted((a, b) => middle(a) - middle(b))) {
    const row = rows.at(-1)
    const first = row?.[0]
    if (row && first && middle(control) - middle(first) < ROW_TOLERANCE_MM) row.push(control)
    else rows.push([control])
  }
  return rows.map((row) => row.sort((a, b) => a.place.x - b.place.x))
}

/** Top to bottom, left to right. */
export const readingOrder = (controls: readonly Control[]): Control[] => rowsOf(controls).flat()
