import type { CardPage } from '../card/pages'
import type { Drawing, Ink, Part } from '../card/drawing'
import { cutMarks, inRegion } from '../card/region'
import { textWidth } from '../card/fit'
import { FAMILIES, MONO_FAMILIES } from '../typefaces'
import { pt, type PdfNode } from './nodes'
import { ascentOf, pdfText } from './text'

/** Line widths in mm, as in the SVG of a card. */
const STROKES: Readonly<
  Record<Ink, { width: number; colour: string; dash?: { length: number; space: number } }>
> = {
  edge: { width: 0.3, colour: '#18222a' },
  mark: { width: 0.18, colour: '#18222a' },
  detail: { width: 0.12, colour: '#56625f' },
  cut: { width: 0.15, colour: '#18222a', dash: { length: pt(1), space: pt(0.8) } },
}

type Point = (mm: number) => number
interface Onto {
  x: Point
  y: Point
  scale: number
}

const stroke = (ink: Ink | null, scale: number): PdfNode => {
  if (ink === null) return {}
  const { width, colour, dash } = STROKES[ink]
  return { lineWidth: pt(width) * scale, lineColor: colour, ...(dash ? { dash } : {}) }
}

type Line = Extract<Part, { kind: 'line' }>

function areaOf(part: Extract<Part, { kind: 'rect' | 'circle' }>, { x, y, scale }: Onto): PdfNode {
  const length = (mm: number): number => pt(mm) * scale
  switch (part.kind) {
    case 'rect':
      return {
        type: 'rect',
        x: x(part.x),
        y: y(part.y),
        w: length(part.w),
        h: length(part.h),
        r: length(Math.min(part.radius, part.w / 2, part.h / 2)),
        ...(part.fill === null ? {} : { color: part.fill }),
        ...stroke(part.ink, scale),
      }
    case 'circle':
      return {
        type: 'ellipse',
        x: x(part.cx),
        y: y(part.cy),
        r1: length(part.r),
        r2: length(part.r),
        ...(part.fill === null ? {} : { color: part.fill }),
        ...stroke(part.ink, scale),
      }
  }
}

const point = (length: number): string => length.toFixed(2)

/** Lines of one ink as one path. */
const pathOf = (lines: readonly Line[], ink: Ink, { x, y, scale }: Onto): PdfNode => ({
  type: 'path',
  d: lines
    .map(({ x1, y1, x2, y2 }) => `M${point(x(x1))} ${point(y(y1))}L${point(x(x2))} ${point(y(y2))}`)
    .join(''),
  ...stroke(ink, scale),
})

/** What is drawn of some parts, in their order; lines of one ink that follow one another are one path. */
function vectorsOf(parts: readonly Part[], onto: Onto): PdfNode[] {
  const vectors: PdfNode[] = []
  let lines: Line[] = []
  const flush = (): void => {
    const [first] = lines
    if (first) vectors.push(pathOf(lines, first.ink, onto))
    lines = []
  }
  for (const part of parts) {
    if (part.kind === 'text') continue
    if (part.kind !== 'line' || part.ink !== (lines[0]?.ink ?? part.ink)) flush()
    if (part.kind === 'line') lines.push(part)
    else vectors.push(areaOf(part, onto))
  }
  flush()
  return vectors
}

const SIDES = { start: 'left', middle: 'center', end: 'right' } as const

function textNode(part: Extract<Part, { kind: 'text' }>, { x, y, scale }: Onto): PdfNode {
  const isMono = part.face === 'figures'
  const size = pt(part.size) * scale
  // Wider than any text is set, so that nothing is wrapped.
  const width = pt(textWidth(part.text, part.size, part.face)) * scale * 1.6 + 20
  const left = { start: 0, middle: width / 2, end: width }[part.anchor]
  return {
    columns: [
      {
        width,
        text: pdfText(part.text, isMono),
        font: (isMono ? MONO_FAMILIES : FAMILIES).latin,
        bold: part.face === 'bold',
        fontSize: size,
        lineHeight: 1,
        color: part.colour,
        alignment: SIDES[part.anchor],
        noWrap: true,
      },
    ],
    absolutePosition: { x: x(part.x) - left, y: y(part.y) - ascentOf(part.text) * size },
  }
}

/** White over what of a drawing reaches beyond the region of its page. */
function margins(page: CardPage): PdfNode[] {
  const { width, height, x, y, region, scale } = page
  const [right, bottom] = [x + region.w * scale, y + region.h * scale]
  return [
    [0, 0, x, height],
    [right, 0, width - right, height],
    [0, 0, width, y],
    [0, bottom, width, height - bottom],
  ].map(([left = 0, top = 0, w = 0, h = 0]) => ({
    type: 'rect',
    x: pt(left),
    y: pt(top),
    w: pt(w),
    h: pt(h),
    color: '#ffffff',
  }))
}

const at = (canvas: readonly PdfNode[]): PdfNode => ({ canvas, absolutePosition: { x: 0, y: 0 } })

/** What stands on one page of a card, in points from its left top corner: lines and text, not pixels. */
export function cardNodes(drawing: Drawing, page: CardPage, count: number): PdfNode[] {
  const { region, scale } = page
  const onto: Onto = {
    x: (mm) => pt(page.x + (mm - region.x) * scale),
    y: (mm) => pt(page.y + (mm - region.y) * scale),
    scale,
  }
  const plain: Onto = { x: pt, y: pt, scale: 1 }
  const parts = inRegion(drawing, region)
  const vectors = vectorsOf(parts, onto)
  const texts = parts.flatMap((part): PdfNode[] => (part.kind === 'text' ? [textNode(part, onto)] : []))
  const marks = count === 1 ? [] : cutMarks(page, count)
  return [
    at(vectors),
    ...texts,
    ...(count === 1 ? [] : [at(margins(page))]),
    ...(marks.length === 0 ? [] : [at(vectorsOf(marks, plain))]),
    ...marks.flatMap((part): PdfNode[] => (part.kind === 'text' ? [textNode(part, plain)] : [])),
    { text: ' ', fontSize: 1 },
  ]
}
