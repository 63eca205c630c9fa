import { wrapped } from '../card/fit'
import { isLatin, runsOf, type Face, type Run } from '../scripts'
import { FAMILIES, MONO_FAMILIES } from '../typefaces'
import type { PdfRun } from './nodes'
import { fromLeft, runsFromRight } from './visual'

/** From the top of a line to its base line, in parts of the height of the type, as the files of the faces say. */
const ASCENT: Readonly<Record<Face, number>> = {
  latin: 0.984,
  'latin-ext': 0.984,
  greek: 1.069,
  cyrillic: 1.069,
  hebrew: 1.068,
  arabic: 1.374,
  emoji: 0.928,
  korean: 1.16,
  japanese: 1.16,
  simplified: 1.16,
  traditional: 1.16,
  unknown: 0.984,
}

/** From the top of a line with this text to its base line, in parts of the height of the type. */
export const ascentOf = (text: string): number =>
  isLatin(text) ? ASCENT.latin : Math.max(ASCENT.latin, ...runsOf(text).map(({ face }) => ASCENT[face]))

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
