import type { Worksheet } from 'exceljs'
import type { Cell, Section, SheetDocument } from '#core/sheets'
import type { SheetTools } from './tools'

const LONGEST_NAME = 31
/** Signs that the name of a worksheet cannot have (ECMA-376, part 1, section 18.2.19). */
const BARRED = /[[\]:*?/\\']/g

/** A name that no worksheet has yet, as long as one may be. */
function nameFor(heading: string, taken: Set<string>): string {
  const plain = heading.replace(BARRED, ' ').replace(/\s+/g, ' ').trim() || 'Sheet'
  for (let number = 1; ; number++) {
    const tail = number === 1 ? '' : ` ${number}`
    const name = `${[...plain]
      .slice(0, LONGEST_NAME - tail.length)
      .join('')
      .slice(0, LONGEST_NAME - tail.length)}${tail}`
    const key = name.toLowerCase()
    if (taken.has(key) || key === 'history') continue
    taken.add(key)
    return name
  }
}

const WIDEST = 60
const NARROWEST = 7

const argb = (colour: string): string => `FF${colour.slice(1).toUpperCase()}`
const valueOf = ({ text, value }: Cell): string | number => value ?? text

function fill(sheet: Worksheet, { heading, note, table }: Section): void {
  if (!table) return
  const { columns, rows } = table
  sheet.columns = columns.map(({ title }, at) => {
    const longest = rows.reduce(
      (most, { cells }) => Math.max(most, cells[at]?.text.length ?? 0),
      title.length,
    )
    return { header: title, width: Math.min(WIDEST, Math.max(NARROWEST, longest + 2)) }
  })
  const head = sheet.getRow(1)
  head.font = { bold: true }
  head.alignment = { wrapText: true, vertical: 'top' }
  for (const { cells } of rows) {
    const line = sheet.addRow(cells.map(valueOf))
    line.alignment = { wrapText: true, vertical: 'top' }
    cells.forEach(({ swatch }, at) => {
      if (swatch === undefined) return
      const side = { style: 'thick' as const, color: { argb: argb(swatch) } }
      line.getCell(at + 1).border = { left: side }
    })
  }
  sheet.views = [{ state: 'frozen', ySplit: 1 }]
  sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: rows.length + 1, column: columns.length } }
  sheet.headerFooter = { oddHeader: '', oddFooter: `&P / &N` }
  sheet.pageSetup = {
    orientation: 'landscape',
    fitToPage: true,
    fitToWidth: 1,
    fitToHeight: 0,
    printTitlesRow: '1:1',
  }
  if (note !== undefined || heading.length > LONGEST_NAME)
    head.getCell(1).note = [heading, note ?? ''].filter(Boolean).join('\n')
}

/** What stands beside the tables: title, facts and notes. */
function about(sheet: Worksheet, { title, subtitle, facts, sections }: SheetDocument): void {
  sheet.columns = [
    { header: 'About', width: 28 },
    { header: 'Said', width: 90 },
  ]
  sheet.getRow(1).font = { bold: true }
  const lines: Array<[string, string]> = [
    ['Sheet', title],
    ['Rig', subtitle],
    ...facts.map(({ label, value }): [string, string] => [label, value]),
    ...sections.flatMap(({ heading, note, isChapter, table }): Array<[string, string]> => [
      ...(isChapter ? [[heading, ''] satisfies [string, string]] : []),
      ...(isChapter ? (table?.rows ?? []) : []).map(({ cells }): [string, string] => [
        `${heading}: ${cells[0]?.text ?? ''}`,
        cells[1]?.text ?? '',
      ]),
      ...(note === undefined ? [] : [[heading, note] satisfies [string, string]]),
    ]),
  ]
  for (const line of lines) sheet.addRow(line).alignment = { wrapText: true, vertical: 'top' }
  sheet.views = [{ state: 'frozen', ySplit: 1 }]
}

/**
 * A sheet as XLSX (ECMA-376): a worksheet for each table, with numbers as numbers, a filter and headings that stay in view,
 * and one for what is said beside them. Rejected where the package cannot be loaded.
 */
export async function writeXlsx(
  sheet: SheetDocument,
  { loadSpreadsheets }: Pick<SheetTools, 'loadSpreadsheets'>,
): Promise<Uint8Array> {
  const { Workbook } = await loadSpreadsheets()
  const book = new Workbook()
  book.title = sheet.title
  book.subject = sheet.subtitle
  const taken = new Set<string>()
  const first = book.addWorksheet(nameFor('About', taken))
  for (const section of sheet.sections) {
    if (section.isChapter || !section.table || section.table.rows.length === 0) continue
    fill(book.addWorksheet(nameFor(section.heading, taken)), section)
  }
  about(first, sheet)
  return new Uint8Array((await book.xlsx.writeBuffer()) as ArrayBuffer)
}
