import type { Cell, SheetDocument, Table } from './document'

const escaped = (text: string): string => text.replace(/[\\|*_`<>[\]]/g, '\\$&').replace(/\s*\n\s*/g, ' ')

const inCell = ({ text, mono }: Cell): string =>
  mono && text !== '' && !/[`|]/.test(text) ? `\`${text}\`` : escaped(text)

function renderTable({ columns, rows }: Table): string[] {
  const line = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`
  return [
    line(columns.map(({ title }) => escaped(title))),
    line(columns.map(({ align }) => (align === 'right' ? '---:' : '---'))),
    ...rows.map((row) => line(row.map(inCell))),
  ]
}

/** A sheet as Markdown with tables (CommonMark; tables by the GitHub Flavored Markdown specification, 4.10). */
export function renderMarkdown(sheet: SheetDocument): string {
  const lines = [`# ${escaped(sheet.title)}`, '', escaped(sheet.subtitle), '']
  for (const { label, value } of sheet.facts) lines.push(`- ${escaped(label)}: ${escaped(value)}`)
  for (const { heading, note, table } of sheet.sections) {
    lines.push('', `## ${escaped(heading)}`, '')
    if (note !== undefined) lines.push(escaped(note), '')
    if (table && table.rows.length > 0) lines.push(...renderTable(table))
  }
  return `${lines
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trimEnd()}\n`
}
