import type { SheetDocument } from './document'

/** A line of a sheet in which everything that is looked for stands. */
export interface SheetHit {
  sheet: string
  sheetName: string
  /** Which section of the sheet, and which line of its table, from 0. */
  section: number
  line: number
  heading: string
  text: string
}

export interface SheetHits {
  /** The first so many, in the order of the sheets. */
  hits: readonly SheetHit[]
  count: number
}

const folded = (text: string): string => text.normalize('NFKC').toLowerCase()

/** The lines of some sheets that hold all words of a text, whatever their case; `most` are given, all are counted. */
export function searchSheets(
  sheets: ReadonlyArray<{ id: string; name: string; sheet: SheetDocument }>,
  text: string,
  most: number,
): SheetHits {
  const words = folded(text).split(/\s+/).filter(Boolean)
  if (words.length === 0) return { hits: [], count: 0 }
  const hits: SheetHit[] = []
  let count = 0
  for (const { id, name, sheet } of sheets) {
    sheet.sections.forEach(({ heading, table }, section) => {
      table?.rows.forEach(({ cells }, line) => {
        const whole = folded(`${heading} ${cells.map((cell) => cell.text).join(' ')}`)
        if (!words.every((word) => whole.includes(word))) return
        count++
        if (hits.length >= most) return
        const said = cells
          .map((cell) => cell.text)
          .filter(Boolean)
          .join(' · ')
        hits.push({ sheet: id, sheetName: name, section, line, heading, text: said })
      })
    })
  }
  return { hits, count }
}
