import pdfAddress from 'pdfmake/build/pdfmake.min.js?url'
import spreadsheetsAddress from 'exceljs/dist/exceljs.min.js?url'
import { once, type PdfMaker, type SheetTools, type Spreadsheets } from '../../shared/sheets/tools'
import { fetchFont } from './sheet-fonts'

interface CommonJs {
  exports?: unknown
  module?: { exports: unknown }
}

/** Scripts that give what they have to `module.exports` are loaded one after the other: that place is the worker's only one. */
let loading: Promise<unknown> = Promise.resolve()

/**
 * Load a package that is a script, not a module, and is served as it is: what bundles modules would take minutes over it.
 * Such a script gives what it has to `module.exports` where there is one.
 */
function loaded<T>(address: string): Promise<T> {
  const load = async (): Promise<T> => {
    const place = globalThis as CommonJs
    place.module = { exports: null }
    place.exports = {}
    try {
      await import(/* @vite-ignore */ address)
      const { exports: found } = place.module
      if (!found)
        throw new Error(
          'A part of the application that writes files could not be loaded. Load the page anew.',
        )
      return found as T
    } finally {
      delete place.module
      delete place.exports
    }
  }
  const result = loading.then(load, load)
  loading = result.catch(() => {})
  return result
}

/** The tools as our own server sends them to the page. */
export const browserTools: SheetTools = {
  loadFont: fetchFont,
  loadPdf: once(() => loaded<PdfMaker>(pdfAddress)),
  loadSpreadsheets: once(() => loaded<Spreadsheets>(spreadsheetsAddress)),
}
