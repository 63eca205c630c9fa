import type { Workbook } from 'exceljs'
import type { LoadFont } from './fonts'

/** What of the package that lays out PDF we use. */
export interface PdfMaker {
  addVirtualFileSystem: (files: Record<string, { data: string; encoding: 'base64' }>) => void
  addFonts: (fonts: Record<string, Record<'normal' | 'bold' | 'italics' | 'bolditalics', string>>) => void
  createPdf: (definition: unknown) => { getBuffer: () => Promise<Uint8Array> }
}

/** What of the package that writes spreadsheets we use. */
export interface Spreadsheets {
  Workbook: new () => Workbook
}

/** What documents need that is large, or is not ours: loaded when a document first needs it. */
export interface SheetTools {
  loadFont: LoadFont
  loadPdf: () => Promise<PdfMaker>
  loadSpreadsheets: () => Promise<Spreadsheets>
}

/** A loader that loads once; where that failed, it is tried again when it is next asked. */
export function once<T>(load: () => Promise<T>): () => Promise<T> {
  let loading: Promise<T> | null = null
  return async () => {
    loading ??= load()
    try {
      return await loading
    } catch (error) {
      loading = null
      throw error
    }
  }
}
