import { wrapped } from '../card/fit'
import { isLatin, runsOf, type Run } from '../scripts'
import { FAMILIES, MONO_FAMILIES } from '../typefaces'
import type { PdfRun } from './nodes'
import { fromLeft, runsFromRight } from './visual'

/** Where a text is set: its lines are so many points wide, its type so many high. */
export interface Room {
  width: number
  size: number
}

/**
 * A text in the typefaces that hold its characters.
 *
 * @param room Where it may take several lines. What runs from right to left is broken into them here, as it has to be put in
 * order line by line.
 */
export function pdfText(text: string, isMono = false, room: Room | null = null): string | PdfRun[] {
  if (isLatin(text)) return text
  const families = isMono ? MONO_FAMILIES : FAMILIES
  const inFaces = (runs: readonly Run[]): PdfRun[] =>
    runs.map(({ face, text: run }) => ({ text: run, font: families[face] }))
  if (!runsFromRight(text)) return inFaces(runsOf(text))
  const lines = room === null ? [text] : wrapped(text, room.width, room.size, isMono ? 'figures' : 'plain')
  return lines.flatMap((line, index) => [
    ...(index === 0 ? [] : [{ text: '\n', font: families.latin }]),
    ...inFaces(fromLeft(line)).map((run) => ({ ...run, noWrap: true })),
  ])
}
