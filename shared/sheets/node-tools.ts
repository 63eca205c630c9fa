import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { FONT_FILES } from './fonts'
import { once, type PdfMaker, type SheetTools, type Spreadsheets } from './tools'

const require = createRequire(import.meta.url)

/** The tools as they lie among the packages of the project: for tests and benchmarks. */
export const nodeTools: SheetTools = {
  loadFont: async (file) => new Uint8Array(await readFile(require.resolve(FONT_FILES[file]))),
  loadPdf: once(async () => require('pdfmake/build/pdfmake.min.js') as PdfMaker),
  loadSpreadsheets: once(async () => require('exceljs/dist/exceljs.min.js') as Spreadsheets),
}
