import type { SheetDocument } from '#core/sheets'
import { pdfDefinition } from '#core/sheets/pdf/definition'
import { cutsFor, type FontFile, type LoadFont } from './fonts'
import type { PdfMaker, SheetTools } from './tools'
import { unpackWoff } from './woff'

const CHUNK = 0x8000
/** Bytes as base64 (RFC 4648, section 4). */
export function base64(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += CHUNK)
    text += String.fromCharCode(...bytes.subarray(at, at + CHUNK))
  return btoa(text)
}

/** The typefaces that each package has been given. */
const given = new WeakMap<PdfMaker, Set<FontFile>>()

async function giveFonts(to: PdfMaker, sheet: SheetDocument, loadFont: LoadFont): Promise<void> {
  const cuts = cutsFor(sheet)
  const has = given.get(to) ?? new Set()
  given.set(to, has)
  const wanted = new Set(cuts.flatMap(({ regular, bold }) => [regular, bold]))
  for (const file of wanted) {
    if (has.has(file)) continue
    to.addVirtualFileSystem({
      [file]: { data: base64(unpackWoff(await loadFont(file))), encoding: 'base64' },
    })
    has.add(file)
  }
  to.addFonts(
    Object.fromEntries(
      cuts.map(({ family, regular, bold }) => [
        family,
        { normal: regular, bold, italics: regular, bolditalics: bold },
      ]),
    ),
  )
}

/**
 * A sheet as PDF (ISO 32000-1): lines and text, not pixels; the typefaces are embedded. `foot` stands in the foot of every
 * page. Rejected where the package or a typeface cannot be loaded.
 */
export async function writePdf(
  sheet: SheetDocument,
  foot: string,
  { loadFont, loadPdf }: Pick<SheetTools, 'loadFont' | 'loadPdf'>,
): Promise<Uint8Array> {
  const to = await loadPdf()
  await giveFonts(to, sheet, loadFont)
  return new Uint8Array(await to.createPdf(pdfDefinition(sheet, foot)).getBuffer())
}
