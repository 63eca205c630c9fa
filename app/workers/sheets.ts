import { transfer } from 'comlink'
import type { Rig } from '#core/rig'
import {
  bookOf,
  fingerprint,
  SHEET_FORMATS,
  sheetsOf,
  type BookMade,
  type Chosen,
  type OfferedSheet,
  type SheetDocument,
} from '#core/sheets'
import { changesSheet } from '#core/sheets/changes-sheet'
import { wholeOf } from '#core/sheets/card/drawing'
import { svgOf } from '#core/sheets/card/svg'
import { searchSheets, type SheetHits } from '#core/sheets/search'
import { typefaceCss } from '../../shared/sheets/typeface-css'
import type { SheetTools } from '../../shared/sheets/tools'
import { writeSheet } from '../../shared/sheets/write'

/** A sheet of the list as the page knows it; how it is made stays in the worker. */
export type ListedSheet = Omit<OfferedSheet, 'make'>
export interface SheetGroup {
  heading: string
  sheets: ListedSheet[]
}
/** Which sheet, made in which way. */
export interface Wanted {
  id: string
  chosen: Chosen
}
/** A file that was written. */
export interface Written {
  bytes: Uint8Array<ArrayBuffer>
  extension: string
  mediaType: string
}

/** Making and writing of sheets as the page sees it, wherever it runs. */
export interface SheetMaker {
  /** The rig that everything is made from until the next. Gives the sheets that it has. */
  take: (rig: Rig) => SheetGroup[]
  /** A sheet to be looked at; null where the rig has it no more. */
  make: (wanted: Wanted) => SheetDocument | null
  /** A sheet as a file of a format. */
  write: (wanted: Wanted, format: string, foot: string) => Promise<Written>
  /** The drawing of one section of a sheet as SVG with its typefaces; null where it has none. */
  drawing: (wanted: Wanted, section: number) => Promise<string | null>
  /** Some sheets bound into one document, as a file of a format; `date` is the day as it is to be read. */
  writeBook: (
    wanted: readonly Wanted[],
    date: string,
    paper: SheetDocument['paper'],
    format: string,
  ) => Promise<Written>
  /** What changed from an earlier rig, which is called so, to a later one, as a file of a format. */
  writeChanges: (before: Rig, after: Rig, since: string, format: string, foot: string) => Promise<Written>
  search: (text: string, most: number) => SheetHits
}

/** Making of sheets, to be run in a worker. */
export function createSheetMaker(tools: SheetTools): SheetMaker {
  let rig: Rig | null = null
  let offered: OfferedSheet[] = []
  const made = new Map<string, SheetDocument>()

  function make({ id, chosen }: Wanted): SheetDocument | null {
    const key = JSON.stringify([id, chosen])
    const known = made.get(key)
    if (known) return known
    const sheet = offered.find((each) => each.id === id)?.make(chosen) ?? null
    if (sheet) made.set(key, sheet)
    return sheet
  }
  function existing(wanted: Wanted): SheetDocument {
    const sheet = make(wanted)
    if (!sheet) throw new Error('This sheet is no longer in the rig. Choose another in the list.')
    return sheet
  }
  const boundFrom = (
    wanted: readonly Wanted[],
    bookMade: BookMade,
    paper: SheetDocument['paper'],
  ): SheetDocument =>
    bookOf(
      rig?.name ?? '',
      wanted.flatMap((each) => make(each) ?? []),
      bookMade,
      paper,
    )
  async function written(sheet: SheetDocument, id: string, foot: string): Promise<Written> {
    const format = SHEET_FORMATS.find((each) => each.id === id)
    if (!format) throw new Error(`No format is called “${id}”.`)
    const bytes = new Uint8Array(await writeSheet(sheet, format, foot, tools))
    const { extension, mediaType } = format
    return transfer({ bytes, extension, mediaType }, [bytes.buffer])
  }

  return {
    take(next) {
      rig = next
      made.clear()
      const groups = sheetsOf(next)
      offered = groups.flatMap(({ sheets }) => sheets)
      return groups.map(({ heading, sheets }) => ({
        heading,
        sheets: sheets.map(({ make: _, options, ...listed }) => ({
          ...listed,
          options: options.map(({ id, label, choices }) => ({ id, label, choices })),
        })),
      }))
    },
    make,
    write: async (wanted, format, foot) => written(existing(wanted), format, foot),
    async drawing(wanted, section) {
      const drawing = make(wanted)?.sections[section]?.drawing
      return drawing ? svgOf(drawing, wholeOf(drawing), await typefaceCss(drawing, tools)) : null
    },
    writeBook(wanted, date, paper, format) {
      const version = fingerprint(JSON.stringify(rig))
      return written(boundFrom(wanted, { date, version }, paper), format, `${date} · ${version}`)
    },
    writeChanges: async (before, after, since, format, foot) =>
      written(changesSheet(before, after, since), format, foot),
    search: (text, most) =>
      searchSheets(
        offered.flatMap((each) => {
          const sheet = make({ id: each.id, chosen: {} })
          return sheet ? [{ id: each.id, name: each.fileName, sheet }] : []
        }),
        text,
        most,
      ),
  }
}
