import type { Cell, SheetDocument, Table } from './document'

/** Signs that mean something in Markdown, kept as they are (CommonMark 0.31, section 2.4). */
const escaped = (text: string): string => text.replace(/[\\|*_`<>[\]&~#]/g, '\\$&')
/** At the start of a line a list, a quote or a rule would begin. */
const atStart = (text: string): string => escaped(text).replace(/^([-+=]|\d+(?=[.)]))/, '\\$1')

const inCell = ({ text, mono }: Cell): string =>
  mono && text !== '' && !/[`|]/.test(text) ? `\`${text}\`` : escaped(text)

function renderTable({ columns, rows }: Table): string[] {
  const line = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`
  return [
    line(columns.map(({ title }) => escaped(title))),
    line(columns.map(({ align }) => (align === 'right' ? '---:' : '---'))),
    ...rows.map(({ cells }) => line(cells.map(inCell))),
  ]
}

/** A sheet as Markdown with tables (CommonMark; tables by the GitHub Flavored Markdown specification, 4.10). */
export function renderMarkdown(sheet: SheetDocument): string {
  const lines = [`# ${escaped(sheet.title)}`, '', atStart(sheet.subtitle), '']
  for (const { label, value } of sheet.facts) lines.push(`- ${atStart(label)}: ${escaped(value)}`)
  const chapters = sheet.sections.filter(({ isChapter }) => isChapter)
  if (chapters.length > 0) {
    lines.push('', '**Contents**', '')
    chapters.forEach(({ heading }, index) => lines.push(`${index + 1}. ${atStart(heading)}`))
  }
  for (const { heading, note, table, isChapter } of sheet.sections) {
    lines.push('', `${isChapter ? '#' : '##'} ${escaped(heading)}`, '')
    if (isChapter) {
      for (const { cells } of table?.rows ?? [])
        lines.push(`- ${atStart(cells[0]?.text ?? '')}: ${escaped(cells[1]?.text ?? '')}`)
      continue
    }
    if (note !== undefined) lines.push(atStart(note), '')
    if (table && table.rows.length > 0) lines.push(...renderTable(table))
  }
  return `${lines
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trimEnd()}\n`
}
