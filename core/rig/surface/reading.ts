import type { Control } from '../types'

/** Controls whose middles lie closer than this (mm) are in one row. */
const ROW_TOLERANCE_MM = 4

const middle = ({ place }: Control): number => place.y + place.h / 2

const across = ({ place }: Control): number => place.x + place.w / 2

/** Those of `controls` that stand in a line with one of `picked`: their middles differ by less than the tolerance. */
function inLine(
  controls: readonly Control[],
  picked: readonly Control[],
  at: (control: Control) => number,
): Control[] {
  const lines = picked.map(at)
  return controls.filter((control) => lines.some((line) => Math.abs(at(control) - line) < ROW_TOLERANCE_MM))
}

/** The rows in which picked controls stand, across blocks. */
export const rowsWith = (controls: readonly Control[], picked: readonly Control[]): Control[] =>
  inLine(controls, picked, middle)

/** The columns in which picked controls stand: a channel strip of a mixer, say. */
export const columnsWith = (controls: readonly Control[], picked: readonly Control[]): Control[] =>
  inLine(controls, picked, across)

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
