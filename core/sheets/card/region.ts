import { SOFT_INK, type Drawing, type Part, type Region } from './drawing'
import type { CardPage } from './pages'

const boxOf = (part: Part): Region => {
  switch (part.kind) {
    case 'rect':
      return part
    case 'circle':
      return { x: part.cx - part.r, y: part.cy - part.r, w: 2 * part.r, h: 2 * part.r }
    case 'line':
      return {
        x: Math.min(part.x1, part.x2),
        y: Math.min(part.y1, part.y2),
        w: Math.abs(part.x2 - part.x1),
        h: Math.abs(part.y2 - part.y1),
      }
    case 'text': {
      // Wider than any text is set, so that none is missed.
      const reach = part.text.length * part.size * 1.4
      return { x: part.x - reach, y: part.y - part.size, w: 2 * reach, h: 2 * part.size }
    }
  }
}

const meets = (a: Region, b: Region): boolean =>
  a.x <= b.x + b.w && b.x <= a.x + a.w && a.y <= b.y + b.h && b.y <= a.y + a.h

/** The parts of a drawing that reach into a region of it. */
export const inRegion = ({ parts }: Drawing, region: Region): Part[] =>
  parts.filter((part) => meets(boxOf(part), region))

const MARK = 5

/** Marks at the corners of what is printed on a page, to cut along, and which page it is of how many. */
export function cutMarks({ x, y, region: { w, h }, row, column }: CardPage, count: number): Part[] {
  const line = (x1: number, y1: number, x2: number, y2: number): Part => ({
    kind: 'line',
    x1,
    y1,
    x2,
    y2,
    ink: 'mark',
  })
  const corners = [x, x + w].flatMap((cx, right) =>
    [y, y + h].flatMap((cy, bottom) => [
      line(cx, bottom === 0 ? cy - MARK : cy, cx, bottom === 0 ? cy : cy + MARK),
      line(right === 0 ? cx - MARK : cx, cy, right === 0 ? cx : cx + MARK, cy),
    ]),
  )
  return [
    ...corners,
    {
      kind: 'text',
      x: x + MARK,
      y: y + h + 4,
      size: 2.4,
      text: `Row ${row + 1}, column ${column + 1} of ${count} pages`,
      anchor: 'start',
      face: 'plain',
      colour: SOFT_INK,
    },
  ]
}
