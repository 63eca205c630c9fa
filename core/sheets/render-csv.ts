import Papa from 'papaparse'
import { INERT } from '../rig'
import type { SheetDocument } from './document'

/**
 * The tables of a sheet as CSV (RFC 4180): one table, its columns those of the first section, with the
 * section named in the first column. Sections with other columns keep theirs in order, under a header
 * line of their own after an empty line. No cell is a formula to a spreadsheet.
 */
export function renderCsv(sheet: SheetDocument): string {
  const blocks = sheet.sections.flatMap(({ heading, table }) =>
    table && table.rows.length > 0
      ? [
          Papa.unparse(
            {
              fields: ['Section', ...table.columns.map(({ title }) => title)],
              data: table.rows.map((row) => [heading, ...row.map(({ text }) => text)]),
            },
            INERT,
          ),
        ]
      : [],
  )
  return blocks.map((block) => `${block}\r\n`).join('\r\n')
}
