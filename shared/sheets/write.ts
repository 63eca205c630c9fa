import type { SheetDocument, SheetFormat } from '#core/sheets'
import { writePdf } from './pdf'
import type { SheetTools } from './tools'
import { writeXlsx } from './xlsx'

/** A sheet as the bytes of a file. Rejected where what a format needs cannot be loaded. */
export async function writeSheet(
  sheet: SheetDocument,
  format: SheetFormat,
  foot: string,
  tools: SheetTools,
): Promise<Uint8Array> {
  if (format.by === 'text') return new TextEncoder().encode(format.render(sheet))
  return format.id === 'pdf' ? writePdf(sheet, foot, tools) : writeXlsx(sheet, tools)
}
