import type { SheetDocument } from './document'
import { renderCsv } from './render-csv'
import { renderHtml } from './render-html'
import { renderMarkdown } from './render-markdown'

export * from './destination-map'
export * from './light-key'
export * from './list'
export * from './relearn-sheet'
export type * from './document'

/** A file format that every sheet can be written in. */
export interface SheetFormat {
  id: string
  name: string
  extension: string
  mediaType: string
  render: (sheet: SheetDocument) => string
}

export const SHEET_FORMATS = [
  { id: 'markdown', name: 'Markdown', extension: 'md', mediaType: 'text/markdown', render: renderMarkdown },
  { id: 'csv', name: 'CSV', extension: 'csv', mediaType: 'text/csv', render: renderCsv },
  { id: 'html', name: 'HTML', extension: 'html', mediaType: 'text/html', render: renderHtml },
] as const satisfies readonly SheetFormat[]
