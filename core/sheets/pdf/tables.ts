import { strokesOf, type Pattern } from '../../lights'
import { PAPER_INK, SOFT_INK } from '../card/drawing'
import { textWidth } from '../card/fit'
import type { Cell, SheetDocument, Table } from '../document'
import { MONO_FAMILIES } from '../typefaces'
import { pt, type PdfNode } from './nodes'
import { LEAST_ROOM, MARGIN_MM, type PageShape } from './page-shape'
import { ascentOf, pdfText } from './text'
import { columnWidths, linesOf, wantedWidths } from './widths'

/** Height of the type of tables and notes, in points. */
export const SIZE = 8.5
const LINE = SIZE * 1.25
const HAIR = '#d8d2c2'
/** What a column keeps free on its right, in points. */
const GAP = 8

const BOX_SIDE = 7

/** A swatch of a colour, with the pattern of its role. */
const swatchVectors = (colour: string, pattern: Pattern = 'plain'): PdfNode[] => [
  {
    type: 'rect',
    x: 0,
    y: 1.5,
    w: BOX_SIDE,
    h: BOX_SIDE,
    color: colour,
    lineWidth: 0.6,
    lineColor: PAPER_INK,
  },
  ...strokesOf[pattern].map(([x1, y1, x2, y2]) => ({
    type: 'line',
    x1: x1 * BOX_SIDE,
    y1: y1 * BOX_SIDE + 1.5,
    x2: x2 * BOX_SIDE,
    y2: y2 * BOX_SIDE + 1.5,
    lineWidth: 0.6,
    lineColor: PAPER_INK,
  })),
]

/** A cell in a column of so many points. What fits on a line is set as one piece, not word by word: that is much faster. */
function cellNode(cell: Cell, isRight: boolean, width: number): PdfNode {
  const room = cell.box !== undefined || cell.swatch !== undefined ? width - BOX_SIDE - 3 : width
  const isOneLine = textWidth(cell.text, SIZE, cell.mono ? 'figures' : 'plain') <= room
  const text = {
    text: pdfText(cell.text, cell.mono, { width: room, size: SIZE }),
    ...(isOneLine ? { noWrap: true } : {}),
    ...(cell.mono ? { font: MONO_FAMILIES.latin } : {}),
    ...(isRight ? { alignment: 'right' } : {}),
  }
  if (cell.box !== undefined) {
    const square = {
      type: 'rect',
      x: 0,
      y: 1.5,
      w: BOX_SIDE,
      h: BOX_SIDE,
      lineWidth: 0.7,
      lineColor: PAPER_INK,
    }
    const tick = [
      { type: 'line', x1: 1.2, y1: 5, x2: 3, y2: 7.2, lineWidth: 1.1, lineColor: PAPER_INK },
      { type: 'line', x1: 3, y1: 7.2, x2: 6.4, y2: 2.2, lineWidth: 1.1, lineColor: PAPER_INK },
    ]
    return {
      columns: [
        { canvas: [square, ...(cell.box === 'ticked' ? tick : [])], width: BOX_SIDE + 3 },
        { ...text, color: SOFT_INK },
      ],
    }
  }
  if (cell.swatch !== undefined)
    return {
      columns: [{ canvas: swatchVectors(cell.swatch, cell.pattern), width: BOX_SIDE + 3 }, text],
    }
  return text
}

/** The cells of a row, let down to the base line of the one whose letters reach highest. */
function onOneBaseLine(cells: readonly PdfNode[], texts: readonly string[]): PdfNode[] {
  const ascents = texts.map(ascentOf)
  const highest = Math.max(...ascents)
  return cells.map((cell, at) => {
    const down = (highest - (ascents[at] ?? highest)) * SIZE
    return down > 0 ? { ...cell, margin: [0, down, 0, 0] } : cell
  })
}

const LAYOUT: PdfNode = {
  hLineWidth: (line: number, { table }: { table: { headerRows: number } }) =>
    line === table.headerRows ? 0.9 : line < table.headerRows ? 0 : 0.4,
  vLineWidth: () => 0,
  hLineColor: (line: number, { table }: { table: { headerRows: number } }) =>
    line === table.headerRows ? PAPER_INK : HAIR,
  paddingLeft: () => 0,
  paddingRight: () => GAP,
  paddingTop: () => 1.6,
  paddingBottom: () => 1.6,
}

/** A heading, in lines of so many points. */
export const headingNode = (heading: string, width: number, size = 11.5): PdfNode => ({
  text: pdfText(heading, false, { width, size }),
  bold: true,
  fontSize: size,
})
/** A note, in lines of so many points. */
export const noteText = (note: string, width: number): ReturnType<typeof pdfText> =>
  pdfText(note, false, { width, size: SIZE })

/** A heading as a line of its table, which every page repeats with the titles: no row is ever cut from its heading. */
const headingCell = (heading: string, note: string | undefined, count: number, width: number): PdfNode[] => [
  {
    colSpan: count,
    stack: [
      headingNode(heading, width),
      ...(note === undefined ? [] : [{ text: noteText(note, width), color: SOFT_INK, margin: [0, 1, 0, 2] }]),
    ],
  },
  ...Array.from({ length: count - 1 }, () => ({ text: '' })),
]

/** A table with its heading, and a note that is repeated with it. */
export function tableNode(
  heading: string,
  note: string | undefined,
  table: Table,
  shape: PageShape,
): PdfNode {
  const { columns, rows } = table
  // What each column keeps free on its right is not for its text.
  const widths = columnWidths(wantedWidths(table, SIZE), shape.room - columns.length * GAP)
  const textHeight = shape.height - pt(MARGIN_MM.top + MARGIN_MM.bottom)
  const isTall = rows.some(
    ({ cells }) =>
      linesOf(
        cells.map(({ text }) => text),
        widths,
        SIZE,
      ) *
        LINE >
      textHeight * 0.4,
  )
  return {
    table: {
      headerRows: 2,
      keepWithHeaderRows: isTall ? 0 : 1,
      dontBreakRows: !isTall,
      widths,
      body: [
        headingCell(heading, note, columns.length, shape.room),
        columns.map(({ title, align }) => ({
          text: pdfText(title),
          bold: true,
          ...(align === 'right' ? { alignment: 'right' } : {}),
        })),
        ...rows.map(({ cells }) =>
          onOneBaseLine(
            cells.map((cell, at) => cellNode(cell, columns[at]?.align === 'right', widths[at] ?? 0)),
            cells.map(({ text }) => text),
          ),
        ),
      ],
    },
    layout: LAYOUT,
    margin: [0, 12, 0, 0],
  }
}

/** What is said of a sheet before its sections, as a table of two columns. */
export const factsNode = (facts: SheetDocument['facts']): PdfNode[] =>
  facts.length === 0
    ? []
    : [
        {
          table: {
            widths: ['auto', '*'],
            body: facts.map(({ label, value }) =>
              onOneBaseLine(
                [{ text: pdfText(label), color: SOFT_INK }, { text: noteText(value, LEAST_ROOM * 0.7) }],
                [label, value],
              ),
            ),
          },
          layout: { ...LAYOUT, hLineWidth: () => 0, paddingRight: () => 10 },
          margin: [0, 6, 0, 0],
        },
      ]
