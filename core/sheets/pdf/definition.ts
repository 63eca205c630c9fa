import { cardPages, type Paper } from '../card/pages'
import { PAPER_INK, SOFT_INK } from '../card/drawing'
import { linesBeside, type Section, type SheetDocument } from '../document'
import { FAMILIES } from '../typefaces'
import { cardNodes } from './card'
import { pt, type PdfNode } from './nodes'
import { LEAST_ROOM, MARGIN_MM, shapeOf, type PageShape } from './page-shape'
import { factsNode, headingNode, noteText, SIZE, tableNode } from './tables'
import { pdfText } from './text'
import { wantedWidths } from './widths'

/** A note that would fill a page stands above its table and is not repeated. */
const LONGEST_NOTE = 400

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
