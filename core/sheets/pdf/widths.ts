import { textWidth } from '../card/fit'
import { piecesOf } from '../card/pieces'
import type { Table } from '../document'

/** Of a long table so many rows, evenly spread, say how wide its columns want to be. */
const LOOKED_AT = 400

/** How wide each column would be if nothing were wrapped, in points, and the least that its longest word needs. */
export function wantedWidths(
  { columns, rows }: Table,
  size: number,
): Array<{ natural: number; least: number }> {
  const every = Math.max(1, Math.floor(rows.length / LOOKED_AT))
  const looked = rows.filter((_, index) => index % every === 0)
  return columns.map(({ title }, at) => {
    let natural = textWidth(title, size, 'bold')
    let least = Math.max(...piecesOf(title).map((piece) => textWidth(piece.text, size, 'bold')))
    for (const { cells } of looked) {
      const cell = cells[at]
      if (!cell) continue
      const face = cell.mono ? 'figures' : 'plain'
      const ahead = cell.swatch !== undefined || cell.box !== undefined ? size * 1.6 : 0
      natural = Math.max(natural, ahead + textWidth(cell.text, size, face))
      for (const { text } of piecesOf(cell.text)) least = Math.max(least, ahead + textWidth(text, size, face))
    }
    return { natural: natural + 4, least: Math.min(least, size * 14) + 4 }
  })
}

/**
 * The widths of the columns of a table in `room` points: each as wide as it wants where that goes; else those that want
 * little have it, and the others share what is left, none below the least that its words need as long as that goes.
 */
export function columnWidths(
  wanted: ReadonlyArray<{ natural: number; least: number }>,
  room: number,
): number[] {
  const all = wanted.reduce((sum, { natural }) => sum + natural, 0)
  if (all <= room) return wanted.map(({ natural }) => natural + (room - all) * (natural / all))
  const leasts = wanted.reduce((sum, { least }) => sum + least, 0)
  if (leasts >= room) return wanted.map(({ least }) => (least / leasts) * room)
  // Those that want most are cut to one width, the same for all of them, never below what their words need.
  let [low, high] = [0, room]
  for (let turn = 0; turn < 40; turn++) {
    const middle = (low + high) / 2
    const sum = wanted.reduce(
      (total, { natural, least }) => total + Math.max(least, Math.min(natural, middle)),
      0,
    )
    if (sum > room) high = middle
    else low = middle
  }
  const cut = wanted.map(({ natural, least }) => Math.max(least, Math.min(natural, low)))
  const used = cut.reduce((sum, width) => sum + width, 0)
  return cut.map((width) => (width * room) / used)
}

/** How many lines the fullest cell of a row takes in columns of these widths. */
export const linesOf = (texts: readonly string[], widths: readonly number[], size: number): number =>
  Math.max(
    1,
    ...texts.map((text, at) =>
      Math.ceil((textWidth(text, size, 'plain') * 1.15) / Math.max(10, (widths[at] ?? 50) - 4)),
    ),
  )
