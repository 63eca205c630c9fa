import type { SheetDocument } from '#core/sheets'
import { pdfDefinition } from '#core/sheets/pdf/definition'
import { cutsFor, type FontFile, type LoadFont } from './fonts'
import { unpackWoff } from './woff'

/** What of the package that lays out PDF we use. */
interface PdfMaker {
  addVirtualFileSystem: (files: Record<string, { data: string; encoding: 'base64' }>) => void
  addFonts: (fonts: Record<string, Record<'normal' | 'bold' | 'italics' | 'bolditalics', string>>) => void
  createPdf: (definition: unknown) => { getBuffer: () => Promise<Uint8Array> }
}

let maker: Promise<PdfMaker> | null = null

/** The package, which is large: loaded when it is first needed. */
function loadMaker(): Promise<PdfMaker> {
  maker ??= import('pdfmake/build/pdfmake.min.js').then(
    (loaded: { default?: PdfMaker } & Partial<PdfMaker>) => loaded.default ?? (loaded as PdfMaker),
  )
  maker.catch(() => (maker = null))
  return maker
}

const CHUNK = 0x8000
function base64(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += CHUNK)
    text += String.fromCharCode(...bytes.subarray(at, at + CHUNK))
  return btoa(text)
}

const given = new Set<FontFile>()

async function giveFonts(to: PdfMaker, sheet: SheetDocument, loadFont: LoadFont): Promise<void> {
  const cuts = cutsFor(sheet)
  const wanted = new Set(cuts.flatMap(({ regular, bold }) => [regular, bold]))
  for (const file of wanted) {
    if (given.has(file)) continue
    to.addVirtualFileSystem({
      [file]: { data: base64(unpackWoff(await loadFont(file))), encoding: 'base64' },
    })
    given.add(file)
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

/** Load what PDF needs, so that the first document does not wait for it. */
export async function readyPdf(): Promise<void> {
  await loadMaker()
}

/**
 * A sheet as PDF (ISO 32000-1): lines and text, not pixels; the typefaces are embedded. `foot` stands in the foot of every
 * page. Rejected where the package or a typeface cannot be loaded.
 */
export async function writePdf(sheet: SheetDocument, foot: string, loadFont: LoadFont): Promise<Uint8Array> {
  const to = await loadMaker()
  await giveFonts(to, sheet, loadFont)
  return new Uint8Array(await to.createPdf(pdfDefinition(sheet, foot)).getBuffer())
}
