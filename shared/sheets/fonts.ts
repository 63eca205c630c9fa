import { facesIn, type Face } from '#core/sheets/scripts'
import { FAMILIES, MONO_FAMILIES } from '#core/sheets/typefaces'
import type { SheetDocument } from '#core/sheets'
import { FONT_FILES } from './font-files'

export { FONT_FILES }
export type FontFile = keyof typeof FONT_FILES
/** Gives the bytes of a file of a typeface, in WOFF. */
export type LoadFont = (file: FontFile) => Promise<Uint8Array>

interface Cut {
  family: string
  regular: FontFile
  bold: FontFile
}

const ALWAYS: readonly Cut[] = [
  { family: FAMILIES.latin, regular: 'next-400', bold: 'next-700' },
  { family: MONO_FAMILIES.latin, regular: 'mono-400', bold: 'mono-400' },
]
/** A typeface that is the same for bold. */
const inOneCut = (face: Face & FontFile): Cut => ({ family: FAMILIES[face], regular: face, bold: face })
const EXTRA: Readonly<Record<Exclude<Face, 'latin' | 'unknown'>, readonly Cut[]>> = {
  'latin-ext': [
    { family: FAMILIES['latin-ext'], regular: 'next-ext-400', bold: 'next-ext-700' },
    { family: MONO_FAMILIES['latin-ext'], regular: 'mono-ext-400', bold: 'mono-ext-400' },
  ],
  greek: [inOneCut('greek')],
  cyrillic: [inOneCut('cyrillic')],
  hebrew: [inOneCut('hebrew')],
  arabic: [inOneCut('arabic')],
  emoji: [inOneCut('emoji')],
  korean: [inOneCut('korean')],
  japanese: [inOneCut('japanese')],
  simplified: [inOneCut('simplified')],
  traditional: [inOneCut('traditional')],
}

function* textsOf({ title, subtitle, facts, sections }: SheetDocument): Generator<string> {
  yield title
  yield subtitle
  for (const { label, value } of facts) {
    yield label
    yield value
  }
  for (const { heading, note, drawing, table } of sections) {
    yield heading
    if (note !== undefined) yield note
    for (const part of drawing?.parts ?? []) if (part.kind === 'text') yield part.text
    for (const { title: name } of table?.columns ?? []) yield name
    for (const { cells } of table?.rows ?? []) for (const { text } of cells) yield text
  }
}

/** The typefaces that a sheet needs: those of every sheet, and those of the scripts that are written in it. */
export function cutsFor(sheet: SheetDocument): Cut[] {
  const faces = facesIn(textsOf(sheet))
  return [
    ...ALWAYS,
    ...Object.entries(EXTRA).flatMap(([face, cuts]) => (faces.has(face as Face) ? cuts : [])),
  ]
}
