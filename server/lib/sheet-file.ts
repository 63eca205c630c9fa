import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import type { Rig } from '#core/rig'
import {
  bookOf,
  chosenProblem,
  fingerprint,
  SHEET_FORMATS,
  sheetsOf,
  type OfferedSheet,
  type SheetDocument,
} from '#core/sheets'
import { wholeOf } from '#core/sheets/card/drawing'
import { svgOf } from '#core/sheets/card/svg'
import { once, type PdfMaker, type SheetTools, type Spreadsheets } from '../../shared/sheets/tools'
import { typefaceCss } from '../../shared/sheets/typeface-css'
import { writeSheet } from '../../shared/sheets/write'
import { ApiError } from './refusal'

const require = createRequire(import.meta.url)
const beside = (name: string): URL => new URL(name, import.meta.url)

/** The packages and typefaces as they lie beside this module in its thread. */
const tools: SheetTools = {
  loadFont: async (file) => new Uint8Array(await readFile(beside(`./${file}.woff`))),
  loadPdf: once(async () => require('./pdfmake.cjs') as PdfMaker),
  loadSpreadsheets: once(async () => require('./exceljs.cjs') as Spreadsheets),
}

/** A file as it is answered. */
export interface SheetFile {
  bytes: Uint8Array
  mediaType: string
}

const SVG = 'svg'
const BOOK = 'book'

/** The sheet of a kind that is asked for. Throws an ApiError that says which there are. */
function offeredIn(rig: Rig, kind: string, about: string | undefined): OfferedSheet {
  const all = sheetsOf(rig).flatMap(({ sheets }) => sheets)
  const ofKind = all.filter((sheet) => sheet.kind === kind)
  const kinds = [...new Set(all.map((sheet) => sheet.kind)), BOOK].join(', ')
  const [first] = ofKind
  if (!first) throw new ApiError(404, `There is no sheet “${kind}” of this rig. It has: ${kinds}.`, 'kind')
  if (first.about === null) {
    if (about !== undefined) throw new ApiError(422, 'This sheet is of the whole rig: leave out “of”.', 'of')
    return first
  }
  const found = ofKind.find((sheet) => sheet.about === about)
  if (found) return found
  const ids = ofKind.map((sheet) => sheet.about).join(', ')
  throw new ApiError(
    422,
    `Say of what the sheet is to be, for example ?of=${first.about}. There are: ${ids}.`,
    'of',
  )
}

/** Throws an ApiError where the rig has no sheet so made. */
function documentIn(
  rig: Rig,
  kind: string,
  about: string | undefined,
  chosen: Record<string, string>,
): SheetDocument {
  if (kind === BOOK) {
    const sheets = sheetsOf(rig).flatMap(({ sheets: all }) => all.map((each) => each.make()))
    const [wrong] = Object.keys(chosen)
    if (wrong !== undefined) throw new ApiError(422, `The book has no option “${wrong}”.`, wrong)
    const date = new Date().toISOString().slice(0, 10)
    return bookOf(rig.name, sheets, { date, version: fingerprint(JSON.stringify(rig)) })
  }
  const offered = offeredIn(rig, kind, about)
  const problem = chosenProblem(offered.options, chosen)
  if (problem !== null) throw new ApiError(422, problem, Object.keys(chosen)[0] ?? null)
  return offered.make(chosen)
}

/** The drawing of a card as SVG; `card` counts from 1. */
async function drawnFile(sheet: SheetDocument, card: string): Promise<SheetFile> {
  const drawings = sheet.sections.flatMap(({ drawing }) => drawing ?? [])
  if (drawings.length === 0) throw new ApiError(422, 'Only cards are drawn: ask for SVG of a card.', 'format')
  const drawing = drawings[Number(card) - 1]
  if (!drawing) throw new ApiError(422, `There is no card ${card}: use 1 to ${drawings.length}.`, 'card')
  const svg = svgOf(drawing, wholeOf(drawing), await typefaceCss(drawing, tools))
  return { bytes: new TextEncoder().encode(svg), mediaType: 'image/svg+xml' }
}

/**
 * A sheet of a rig as a file: `kind` and `format`, `of` for a sheet of one controller or destination, `card` for one card of
 * several as SVG, and the options of the sheet by their names. Throws an ApiError for what cannot be.
 */
export async function sheetFile(rig: Rig, asked: Readonly<Record<string, string>>): Promise<SheetFile> {
  const { kind = '', format: wanted = 'pdf', of: about, card = '1', ...chosen } = asked
  const format = SHEET_FORMATS.find(({ id }) => id === wanted)
  if (!format && wanted !== SVG) {
    const names = [...SHEET_FORMATS.map(({ id }) => id), SVG].join(', ')
    throw new ApiError(422, `“${wanted}” is no format: use ${names}.`, 'format')
  }
  const sheet = documentIn(rig, kind, about, chosen)
  if (!format) return drawnFile(sheet, card)
  const date = new Date().toISOString().slice(0, 10)
  return { bytes: await writeSheet(sheet, format, date, tools), mediaType: format.mediaType }
}
