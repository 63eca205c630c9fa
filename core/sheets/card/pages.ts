import { wholeOf, type Drawing, type Region } from './drawing'

/** A size of paper, in mm (ISO 216; ANSI/ASME Y14.1 for Letter), or as large as what is drawn. */
export const PAPERS = {
  a4: { name: 'A4', width: 210, height: 297 },
  a3: { name: 'A3', width: 297, height: 420 },
  letter: { name: 'Letter', width: 215.9, height: 279.4 },
} as const

export type Paper = keyof typeof PAPERS
/** `own`: one page as large as the drawing. */
export type CardPaper = Paper | 'own'

/** What printers leave empty at each edge, in mm. */
const EDGE = 7
/** What two pages show both, so that they can be laid over one another, in mm. */
export const OVERLAP = 8
/** More pages than that nobody glues together. */
const MOST_PAGES = 40
/** The longest side a page can have: 14,400 units of 1/72 inch (PDF 32000-1, annex C). */
const LONGEST = 5080

/** A page of paper with a region of a drawing on it; lengths in mm. */
export interface CardPage {
  width: number
  height: number
  region: Region
  /** Left and top of the region on the page. */
  x: number
  y: number
  /** How large 1 mm of the drawing is printed: 1 is true to scale. */
  scale: number
  row: number
  column: number
}

const across = (length: number, room: number): number =>
  length <= room ? 1 : Math.ceil((length - OVERLAP) / (room - OVERLAP))

interface Sheet {
  width: number
  height: number
}
const turned = ({ width, height }: Sheet): Sheet => ({ width: height, height: width })

function tiles(drawing: Drawing, { width, height }: Sheet): CardPage[] {
  const room = { w: width - 2 * EDGE, h: height - 2 * EDGE }
  const columns = across(drawing.width, room.w)
  const rows = across(drawing.height, room.h)
  const pages: CardPage[] = []
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const x = column * (room.w - OVERLAP)
      const y = row * (room.h - OVERLAP)
      const region = { x, y, w: Math.min(room.w, drawing.width - x), h: Math.min(room.h, drawing.height - y) }
      const isWhole = columns === 1 && rows === 1
      pages.push({
        width,
        height,
        region,
        x: isWhole ? (width - region.w) / 2 : EDGE,
        y: isWhole ? (height - region.h) / 2 : EDGE,
        scale: 1,
        row,
        column,
      })
    }
  }
  return pages
}

const countOn = (drawing: Drawing, { width, height }: Sheet): number =>
  across(drawing.width, width - 2 * EDGE) * across(drawing.height, height - 2 * EDGE)

/** One page on which a drawing is made smaller, because true to scale it would take too many. */
function reduced(drawing: Drawing, sheet: Sheet): CardPage {
  const { width, height } =
    drawing.width > drawing.height === sheet.width > sheet.height ? sheet : turned(sheet)
  const scale = Math.min((width - 2 * EDGE) / drawing.width, (height - 2 * EDGE) / drawing.height)
  return { width, height, region: wholeOf(drawing), x: EDGE, y: EDGE, scale, row: 0, column: 0 }
}

/** The pages that a drawing takes, true to scale, lying or standing as takes fewer; one that is reduced where it takes too many. */
export function cardPages(drawing: Drawing, paper: CardPaper): CardPage[] {
  if (paper === 'own') {
    const { width, height } = drawing
    if (Math.max(width, height) > LONGEST) return [reduced(drawing, { width: LONGEST, height: LONGEST })]
    return [{ width, height, region: wholeOf(drawing), x: 0, y: 0, scale: 1, row: 0, column: 0 }]
  }
  const standing = PAPERS[paper]
  const lying = turned(standing)
  const best = countOn(drawing, lying) < countOn(drawing, standing) ? lying : standing
  return countOn(drawing, best) > MOST_PAGES ? [reduced(drawing, best)] : tiles(drawing, best)
}

/** What the pages of a card are, as a sentence. */
export function pagesWords(pages: readonly CardPage[], paper: CardPaper): string {
  const [first] = pages
  if (!first) return ''
  const name =
    paper === 'own'
      ? `a page of ${Math.round(first.width)} × ${Math.round(first.height)} mm`
      : PAPERS[paper].name
  if (first.scale < 1)
    return `reduced to 1 : ${(1 / first.scale).toFixed(1)} on ${name}; true to scale it would take too many pages`
  return pages.length === 1
    ? `true to scale on ${name}`
    : `true to scale on ${pages.length} pages of ${name}, to be cut and joined`
}
