import Papa from 'papaparse'
import { INERT } from '../rig'
import type { Section, SheetDocument } from './document'

const titlesOf = ({ table }: Section): string =>
  JSON.stringify(table?.columns.map(({ title }) => title) ?? [])

/**
 * A sheet as CSV (RFC 4180): its tables, each line under its section, those with the same columns under one header line;
 * below them what is said beside the tables. Every line has as many fields as the longest, and no field is a formula to a
 * spreadsheet.
 */
export function renderCsv({ title, subtitle, facts, sections }: SheetDocument): string {
  const lines: string[][] = []
  let last = ''
  for (const section of sections) {
    const { heading, table } = section
    if (!table || table.rows.length === 0) continue
    const titles = titlesOf(section)
    if (titles !== last) lines.push(['Section', ...table.columns.map((column) => column.title)])
    last = titles
    for (const { cells } of table.rows) lines.push([heading, ...cells.map(({ text }) => text)])
  }
  lines.push(['Section', 'About', 'Said'])
  lines.push([title, 'Rig', subtitle])
  for (const { label, value } of facts) lines.push([title, label, value])
  for (const { heading, note } of sections) if (note !== undefined) lines.push([heading, 'Note', note])
  const width = Math.max(...lines.map((line) => line.length))
  const padded = lines.map((line) => [...line, ...Array<string>(width - line.length).fill('')])
  return `${Papa.unparse(padded, INERT)}\r\n`
}
