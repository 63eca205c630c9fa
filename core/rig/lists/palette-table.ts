import type { PaletteEntry } from '../types'
import { guessedColumns, readLines, type Field, type FromTable } from './columns'
import type { TableRow } from './table'

/** The columns of a table of light colours. */
export const PALETTE_FIELDS = [
  { id: 'index', name: 'Number', means: ['number', 'index', 'value', 'velocity', 'no', 'no.'] },
  { id: 'colour', name: 'Colour', means: ['colour', 'color', 'rgb', 'hex'] },
  { id: 'name', name: 'Name', means: ['name'] },
] as const satisfies ReadonlyArray<Field<string>>

/** `#f80` and `ff8800` as `#ff8800`; null for anything else. */
function hexOf(text: string): string | null {
  const digits = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(text)?.[1]?.toLowerCase()
  if (digits === undefined) return null
  return `#${digits.length === 3 ? [...digits].map((digit) => digit + digit).join('') : digits}`
}

/** A palette out of a table: number, colour as #rrggbb, and a name where there is one. */
export function paletteFrom(rows: readonly TableRow[]): FromTable<PaletteEntry> {
  const seen = new Set<number>()
  return readLines(PALETTE_FIELDS, rows, guessedColumns(PALETTE_FIELDS, rows), (cell) => {
    const written = cell('index')
    const index = Number(written)
    if (!/^\d+$/.test(written)) return `“${written}” is no number.`
    if (index > 127) return `${written} is more than a message can carry: 0 to 127.`
    if (seen.has(index)) return `number ${written} stands here for the second time.`
    const colour = hexOf(cell('colour'))
    if (colour === null) return `“${cell('colour')}” is no colour: write it as #ff8800.`
    seen.add(index)
    return { index, colour, name: cell('name') || `Colour ${index}` }
  })
}
