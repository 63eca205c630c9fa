import { svgOf } from './card/svg'
import { linesBeside, type Cell, type Column, type Row, type Section, type SheetDocument } from './document'
import { escaped } from './markup'
import { swatchSvg } from './swatch'

const STYLE = `
@page { size: A4; margin: 14mm 12mm; }
* { box-sizing: border-box; }
body { font: 10.5pt/1.4 "Atkinson Hyperlegible Next", system-ui, sans-serif; color: #18222a; background: #fff; max-width: 1000px; margin: 24px auto; padding: 0 24px; }
h1 { font-size: 18pt; margin: 0; } h2 { font-size: 12pt; margin: 22px 0 6px; break-after: avoid; }
.sub { color: #56625f; margin: 2px 0 14px; }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 2px 14px; margin: 0; } dt { color: #56625f; } dd { margin: 0; }
table { border-collapse: collapse; width: 100%; } thead { display: table-header-group; } tr { break-inside: avoid; }
th { text-align: left; font-weight: 600; border-bottom: 1.2px solid #18222a; padding: 3px 10px 3px 0; vertical-align: bottom; }
td { border-bottom: 0.6px solid #d8d2c2; padding: 3px 10px 3px 0; vertical-align: baseline; overflow-wrap: anywhere; unicode-bidi: isolate; }
td > svg { margin-right: 0.5em; vertical-align: -1px; print-color-adjust: exact; }
h1, h2, p, dd { overflow-wrap: anywhere; }
.chapter { break-before: page; margin-top: 40px; } nav a { color: inherit; }
.n { text-align: right; } code { font: 0.95em "Atkinson Hyperlegible Mono", ui-monospace, monospace; }
figure { margin: 6px 0; overflow: auto; } figure svg { background: #fff; }
@media print { body { margin: 0; padding: 0; max-width: none; } figure { overflow: visible; break-inside: avoid; } }
`.trim()

const sided = (column: Column | undefined): string => (column?.align === 'right' ? ' class="n"' : '')
const BOXES = { open: '☐', ticked: '☑' } as const

const inCell = ({ text, mono, swatch, pattern, box }: Cell): string =>
  (swatch === undefined ? '' : swatchSvg(swatch, pattern)) +
  (box === undefined ? '' : `<span aria-hidden="true">${BOXES[box]} </span>`) +
  (mono && text !== '' ? `<code>${escaped(text)}</code>` : escaped(text))

function renderTable(columns: readonly Column[], rows: readonly Row[]): string {
  const head = columns
    .map((column) => `<th scope="col"${sided(column)}>${escaped(column.title)}</th>`)
    .join('')
  const body = rows
    .map(
      ({ cells }) =>
        `<tr>${cells.map((cell, index) => `<td dir="auto"${sided(columns[index])}>${inCell(cell)}</td>`).join('')}</tr>`,
    )
    .join('\n')
  return `<table>\n<thead><tr>${head}</tr></thead>\n<tbody>\n${body}\n</tbody>\n</table>`
}

function renderSection(section: Section, index: number): string {
  const { heading, note, drawing, table, isChapter } = section
  if (isChapter) return renderChapter(section, index)
  const lines = linesBeside(section)
  return [
    `<section>\n<h2 dir="auto">${escaped(heading)}</h2>`,
    note === undefined ? '' : `<p dir="auto">${escaped(note)}</p>`,
    drawing ? `<figure>${svgOf(drawing)}</figure>` : '',
    table && lines.length > 0 ? renderTable(table.columns, lines) : '',
    '</section>',
  ]
    .filter((part) => part !== '')
    .join('\n')
}

const terms = (facts: SheetDocument['facts']): string =>
  facts.map(({ label, value }) => `<dt>${escaped(label)}</dt><dd dir="auto">${escaped(value)}</dd>`).join('')

const chapterId = (index: number): string => `sheet-${index}`

/** Where a sheet of a book begins, on a page of its own. */
function renderChapter({ heading, table }: Section, index: number): string {
  const facts = (table?.rows ?? []).map(({ cells }) => ({
    label: cells[0]?.text ?? '',
    value: cells[1]?.text ?? '',
  }))
  return `<h1 class="chapter" id="${chapterId(index)}" dir="auto">${escaped(heading)}</h1>\n<dl>${terms(facts)}</dl>`
}

/** The sheets of a book, each leading to where it begins. */
function renderContents(sections: readonly Section[]): string {
  const lines = sections.flatMap(({ heading, isChapter }, index) =>
    isChapter ? [`<li><a href="#${chapterId(index)}">${escaped(heading)}</a></li>`] : [],
  )
  return lines.length === 0 ? '' : `<nav><h2>Contents</h2>\n<ol>\n${lines.join('\n')}\n</ol></nav>`
}

/** A sheet as one HTML file that needs nothing else and prints on A4, table heads repeated on every page. */
export function renderHtml(sheet: SheetDocument): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(sheet.title)}</title>
<style>
${STYLE}
</style>
</head>
<body>
<h1 dir="auto">${escaped(sheet.title)}</h1>
<p class="sub" dir="auto">${escaped(sheet.subtitle)}</p>
<dl>${terms(sheet.facts)}</dl>
${renderContents(sheet.sections)}
${sheet.sections.map(renderSection).join('\n')}
</body>
</html>
`
}
