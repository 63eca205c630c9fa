import type { Cell, Column, SheetDocument, Table } from './document'

const ENTITIES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}
const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => ENTITIES[sign] ?? sign)

const STYLE = `
@page { size: A4; margin: 14mm 12mm; }
* { box-sizing: border-box; }
body { font: 10.5pt/1.4 "Atkinson Hyperlegible Next", system-ui, sans-serif; color: #18222a; max-width: 1000px; margin: 24px auto; padding: 0 24px; }
h1 { font-size: 18pt; margin: 0; } h2 { font-size: 12pt; margin: 22px 0 6px; break-after: avoid; }
.sub { color: #56625f; margin: 2px 0 14px; }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 2px 14px; margin: 0; } dt { color: #56625f; } dd { margin: 0; }
table { border-collapse: collapse; width: 100%; } thead { display: table-header-group; } tr { break-inside: avoid; }
th { white-space: nowrap; text-align: left; font-weight: 600; border-bottom: 1.2px solid #18222a; padding: 3px 10px 3px 0; }
td { border-bottom: 0.6px solid #d8d2c2; padding: 3px 10px 3px 0; vertical-align: baseline; }
.s { display: inline-block; width: 0.8em; height: 0.8em; border: 0.6px solid #18222a; border-radius: 50%; margin-right: 0.5em; print-color-adjust: exact; }
.n { text-align: right; } code { font: 0.95em "Atkinson Hyperlegible Mono", ui-monospace, monospace; }
@media print { body { margin: 0; padding: 0; max-width: none; } }
`.trim()

const sided = (column: Column | undefined): string => (column?.align === 'right' ? ' class="n"' : '')
const inCell = ({ text, mono, swatch }: Cell): string =>
  (swatch === undefined ? '' : `<i class="s" style="background:${escaped(swatch)}"></i>`) +
  (mono && text !== '' ? `<code>${escaped(text)}</code>` : escaped(text))

function renderTable({ columns, rows }: Table): string {
  const head = columns
    .map((column) => `<th scope="col"${sided(column)}>${escaped(column.title)}</th>`)
    .join('')
  const body = rows
    .map(
      (row) =>
        `<tr>${row.map((cell, index) => `<td${sided(columns[index])}>${inCell(cell)}</td>`).join('')}</tr>`,
    )
    .join('\n')
  return `<table>\n<thead><tr>${head}</tr></thead>\n<tbody>\n${body}\n</tbody>\n</table>`
}

/** A sheet as one HTML file that needs nothing else and prints on A4, table heads repeated on every page. */
export function renderHtml(sheet: SheetDocument): string {
  const facts = sheet.facts
    .map(({ label, value }) => `<dt>${escaped(label)}</dt><dd>${escaped(value)}</dd>`)
    .join('')
  const sections = sheet.sections
    .map(({ heading, note, table }) =>
      [
        `<section>\n<h2>${escaped(heading)}</h2>`,
        note === undefined ? '' : `<p>${escaped(note)}</p>`,
        table && table.rows.length > 0 ? renderTable(table) : '',
        '</section>',
      ]
        .filter((part) => part !== '')
        .join('\n'),
    )
    .join('\n')
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
<h1>${escaped(sheet.title)}</h1>
<p class="sub">${escaped(sheet.subtitle)}</p>
<dl>${facts}</dl>
${sections}
</body>
</html>
`
}
