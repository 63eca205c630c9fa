import { strokesOf, type Pattern } from '../../lights'
import { cardPages, PAPERS, type Paper } from '../card/pages'
import { PAPER_INK, SOFT_INK } from '../card/drawing'
import { textWidth } from '../card/fit'
import { linesBeside, type Cell, type Section, type SheetDocument, type Table } from '../document'
import { FAMILIES, MONO_FAMILIES } from '../typefaces'
import { cardNodes } from './card'
import { pt, type PdfNode } from './nodes'
import { pdfText } from './text'
import { columnWidths, linesOf, wantedWidths } from './widths'

const SIZE = 8.5
const LINE = SIZE * 1.25
const MARGIN_MM = { side: 12, top: 14, bottom: 16 }
const HAIR = '#d8d2c2'
/** What a column keeps free on its right, in points. */
const GAP = 8

interface PageShape {
  width: number
  height: number
  orientation: 'portrait' | 'landscape'
  room: number
}

const shapeOf = (paper: Paper, orientation: PageShape['orientation']): PageShape => {
  const { width, height } = PAPERS[paper]
  const [w, h] = orientation === 'portrait' ? [width, height] : [height, width]
  return { width: pt(w), height: pt(h), orientation, room: pt(w - 2 * MARGIN_MM.side) }
}

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

/** What is as wide on every paper. */
const LEAST_ROOM = pt(Math.min(...Object.values(PAPERS).map(({ width }) => width)) - 2 * MARGIN_MM.side)

const headingNode = (heading: string, width: number, size = 11.5): PdfNode => ({
  text: pdfText(heading, false, { width, size }),
  bold: true,
  fontSize: size,
})
const noteText = (note: string, width: number): ReturnType<typeof pdfText> =>
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

/** A note that would fill a page stands above its table and is not repeated. */
const LONGEST_NOTE = 400

function tableNode(heading: string, note: string | undefined, table: Table, shape: PageShape): PdfNode {
  const { columns, rows } = table
  // What each column keeps free on its right is not for its text.
  const widths = columnWidths(wantedWidths(table, SIZE), shape.room - columns.length * GAP)
  const inches = shape.height - pt(MARGIN_MM.top + MARGIN_MM.bottom)
  const isTall = rows.some(
    ({ cells }) =>
      linesOf(
        cells.map(({ text }) => text),
        widths,
        SIZE,
      ) *
        LINE >
      inches * 0.4,
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
          cells.map((cell, at) => cellNode(cell, columns[at]?.align === 'right', widths[at] ?? 0)),
        ),
      ],
    },
    layout: LAYOUT,
    margin: [0, 12, 0, 0],
  }
}

const factsNode = (facts: SheetDocument['facts']): PdfNode[] =>
  facts.length === 0
    ? []
    : [
        {
          table: {
            widths: ['auto', '*'],
            body: facts.map(({ label, value }) => [
              { text: pdfText(label), color: SOFT_INK },
              { text: noteText(value, LEAST_ROOM * 0.7) },
            ]),
          },
          layout: { ...LAYOUT, hLineWidth: () => 0, paddingRight: () => 10 },
          margin: [0, 6, 0, 0],
        },
      ]

function sectionNodes(section: Section, shape: PageShape): PdfNode[] {
  const { heading, note, drawing } = section
  const rows = linesBeside(section)
  const table = section.table && rows.length > 0 ? { ...section.table, rows } : null
  if (!table && drawing && note === undefined) return []
  if (!table)
    return [
      {
        stack: [
          headingNode(heading, shape.room),
          ...(note === undefined ? [] : [{ text: noteText(note, shape.room), margin: [0, 2, 0, 0] }]),
        ],
        unbreakable: (note?.length ?? 0) < LONGEST_NOTE,
        margin: [0, 12, 0, 0],
      },
    ]
  if ((note?.length ?? 0) < LONGEST_NOTE) return [tableNode(heading, note, table, shape)]
  return [
    { text: noteText(note ?? '', shape.room), color: SOFT_INK, margin: [0, 12, 0, 0] },
    tableNode(heading, undefined, table, shape),
  ]
}

/** Pages of a drawing, each of the size of its paper and without a margin: what is drawn is true to scale. */
function drawingPages({ drawing }: Section, paper: SheetDocument['paper']): PdfNode[] {
  if (!drawing) return []
  const pages = cardPages(drawing, paper ?? 'a4')
  return pages.map((page) => ({
    section: cardNodes(drawing, page, pages.length),
    pageSize: { width: pt(page.width), height: pt(page.height) },
    pageMargins: [0, 0, 0, 0],
    header: null,
    footer: null,
  }))
}

/** Lying where a table has many columns that want more room than a standing page has. */
function orientationFor(sections: readonly Section[], paper: Paper): PageShape['orientation'] {
  const { room } = shapeOf(paper, 'portrait')
  const isWide = sections.some(({ table }) => {
    if (!table || table.columns.length < 6) return false
    return wantedWidths(table, SIZE).reduce((sum, { natural }) => sum + Math.min(natural, 160), 0) > room
  })
  return isWide ? 'landscape' : 'portrait'
}

interface Made {
  title: string
  foot: string
}

function textPages(nodes: readonly PdfNode[], shape: PageShape, { title, foot }: Made): PdfNode {
  const side = pt(MARGIN_MM.side)
  return {
    section: nodes,
    pageSize: { width: shape.width, height: shape.height },
    pageMargins: [side, pt(MARGIN_MM.top), side, pt(MARGIN_MM.bottom)],
    footer: (page: number, count: number) => ({
      columns: [
        { text: pdfText(foot === '' ? title : `${title} · ${foot}`), width: '*' },
        { text: `${page} of ${count}`, width: 'auto', alignment: 'right' },
      ],
      fontSize: 7.5,
      color: SOFT_INK,
      margin: [side, pt(5), side, 0],
    }),
  }
}

const paperOf = (paper: SheetDocument['paper']): Paper =>
  paper === undefined || paper === 'own' ? 'a4' : paper

/** What of a sheet goes onto one run of pages: what stands before it, and the sections of one chapter. */
function chapterPages(
  head: readonly PdfNode[],
  sections: readonly Section[],
  { paper }: SheetDocument,
  made: Made,
): PdfNode[] {
  const drawn = sections.flatMap((section) => drawingPages(section, paper))
  const shape = shapeOf(paperOf(paper), orientationFor(sections, paperOf(paper)))
  const nodes = sections.flatMap((section) => (section.isChapter ? [] : sectionNodes(section, shape)))
  if (drawn.length === 0) return [textPages([...head, ...nodes], shape, made)]
  // A sheet of a book begins with its name; a card by itself is what one looks for, so it comes first.
  if (sections.some(({ isChapter }) => isChapter))
    return [
      textPages(head, shape, made),
      ...drawn,
      ...(nodes.length > 0 ? [textPages(nodes, shape, made)] : []),
    ]
  return [...drawn, textPages([...head, ...nodes], shape, made)]
}

const titleNodes = ({ title, subtitle, facts }: SheetDocument): PdfNode[] => [
  headingNode(title, LEAST_ROOM, 17),
  { text: noteText(subtitle, LEAST_ROOM), color: SOFT_INK, margin: [0, 1, 0, 0] },
  ...factsNode(facts),
]

/** The chapters of a book: each with the sections up to the next. */
function chaptersOf(sections: readonly Section[]): Section[][] {
  const chapters: Section[][] = []
  for (const section of sections) {
    if (section.isChapter || chapters.length === 0) chapters.push([section])
    else chapters.at(-1)?.push(section)
  }
  return chapters
}

const contents: PdfNode = {
  toc: { title: { text: 'Contents', bold: true, fontSize: 12, margin: [0, 14, 0, 4] } },
}

function chapterHead(chapter: Section): PdfNode[] {
  const rows = chapter.table?.rows ?? []
  return [
    { ...headingNode(chapter.heading, LEAST_ROOM, 15), tocItem: true, tocMargin: [0, 2, 0, 0] },
    ...(chapter.note === undefined ? [] : [{ text: noteText(chapter.note, LEAST_ROOM), color: SOFT_INK }]),
    ...factsNode(rows.map(({ cells }) => ({ label: cells[0]?.text ?? '', value: cells[1]?.text ?? '' }))),
  ]
}

/**
 * A sheet as the definition of a PDF, for the package that lays it out: drawings on pages of their paper, true to scale;
 * tables with their heading on every page; a book with its contents. `foot` stands in the foot of every page.
 */
export function pdfDefinition(sheet: SheetDocument, foot = ''): PdfNode {
  const { title, subtitle, sections } = sheet
  const made = { title, foot }
  const isBook = sections.some(({ isChapter }) => isChapter)
  const pages = isBook
    ? [
        textPages([...titleNodes(sheet), contents], shapeOf(paperOf(sheet.paper), 'portrait'), made),
        ...chaptersOf(sections).flatMap((chapter) => {
          const [first] = chapter
          return first ? chapterPages(chapterHead(first), chapter, sheet, made) : []
        }),
      ]
    : chapterPages(titleNodes(sheet), sections, sheet, made)
  return {
    content: pages,
    info: { title, subject: subtitle },
    defaultStyle: { font: FAMILIES.latin, fontSize: SIZE, color: PAPER_INK, lineHeight: 1.12 },
  }
}
