import type { SHEET_FORMATS } from '#core/sheets'

/** The formats by name alone: how they are written stays in the worker. A test compares the two lists. */
export const FORMATS: ReadonlyArray<Pick<(typeof SHEET_FORMATS)[number], 'id' | 'name'>> = [
  { id: 'pdf', name: 'PDF' },
  { id: 'xlsx', name: 'XLSX' },
  { id: 'csv', name: 'CSV' },
  { id: 'markdown', name: 'Markdown' },
  { id: 'html', name: 'HTML' },
]
