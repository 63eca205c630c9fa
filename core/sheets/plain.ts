import { plain } from '../rig'
import type { Cell, Section, SheetDocument } from './document'

const plainCell = (cell: Cell): Cell => {
  const text = plain(cell.text)
  return text === cell.text ? cell : { ...cell, text }
}

const plainSection = ({ heading, note, drawing, table, isChapter }: Section): Section => ({
  ...(isChapter ? { isChapter } : {}),
  heading: plain(heading),
  ...(note === undefined ? {} : { note: plain(note) }),
  ...(drawing ? { drawing } : {}),
  ...(table
    ? {
        table: {
          columns: table.columns.map((column) => ({ ...column, title: plain(column.title) })),
          rows: table.rows.map((row) => ({ ...row, cells: row.cells.map(plainCell) })),
        },
      }
    : {}),
})

/** A sheet whose every text is plain: what all formats are written from, so that they say the same. */
export const plainSheet = ({ title, subtitle, facts, sections, paper }: SheetDocument): SheetDocument => ({
  ...(paper ? { paper } : {}),
  title: plain(title),
  subtitle: plain(subtitle),
  facts: facts.map(({ label, value }) => ({ label: plain(label), value: plain(value) })),
  sections: sections.map(plainSection),
})
