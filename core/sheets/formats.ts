import type { SheetDocument } from './document'
import { renderCsv } from './render-csv'
import { renderHtml } from './render-html'
import { renderMarkdown } from './render-markdown'

interface FormatFacts {
  id: string
  name: string
  extension: string
  mediaType: string
}
/** A file format that every sheet can be written in: as text by itself, or by a package that is fetched when it is needed. */
export type SheetFormat = FormatFacts &
  ({ by: 'text'; render: (sheet: SheetDocument) => string } | { by: 'package' })

const text = (
  id: string,
  name: string,
  extension: string,
  mediaType: string,
  render: (sheet: SheetDocument) => string,
): SheetFormat => ({ id, name, extension, mediaType, by: 'text', render })

/** Every format, in the order in which they are offered. */
export const SHEET_FORMATS: readonly SheetFormat[] = [
  { id: 'pdf', name: 'PDF', extension: 'pdf', mediaType: 'application/pdf', by: 'package' },
  {
    id: 'xlsx',
    name: 'XLSX',
    extension: 'xlsx',
    mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    by: 'package',
  },
  text('csv', 'CSV', 'csv', 'text/csv', renderCsv),
  text('markdown', 'Markdown', 'md', 'text/markdown', renderMarkdown),
  text('html', 'HTML', 'html', 'text/html', renderHtml),
]
