import { isLatin, runsOf } from '../scripts'
import { FAMILIES, MONO_FAMILIES } from '../typefaces'
import type { PdfRun } from './nodes'

/** A text in the typefaces that hold its characters. */
export function pdfText(text: string, isMono = false): string | PdfRun[] {
  if (isLatin(text)) return text
  const families = isMono ? MONO_FAMILIES : FAMILIES
  return runsOf(text).map(({ face, text: run }) => ({ text: run, font: families[face] }))
}
