import { escaped } from '../markup'
import { isLatin, runsOf } from '../scripts'
import { FAMILIES, MONO_FAMILIES } from '../typefaces'
import { inRegion } from './region'
import { PAPER_INK, SOFT_INK, wholeOf, type Drawing, type Ink, type Part, type Region } from './drawing'

const STROKES: Readonly<Record<Ink, string>> = {
  edge: `stroke="${PAPER_INK}" stroke-width="0.3"`,
  mark: `stroke="${PAPER_INK}" stroke-width="0.18"`,
  detail: `stroke="${SOFT_INK}" stroke-width="0.12"`,
  cut: `stroke="${PAPER_INK}" stroke-width="0.15" stroke-dasharray="1 0.8"`,
}

/** A length in mm, to a hundredth. */
const mm = (length: number): string => String(Math.round(length * 1000) / 1000)
const stroked = (ink: Ink | null): string => (ink === null ? 'stroke="none"' : STROKES[ink])
const filled = (fill: string | null): string => `fill="${fill === null ? 'none' : escaped(fill)}"`

/** Text as spans of one typeface each, because a file of a typeface holds a part of Unicode only. */
function spans(text: string, isMono: boolean): string {
  if (isLatin(text)) return escaped(text)
  return runsOf(text)
    .map(({ face, text: run }) =>
      face === 'latin'
        ? escaped(run)
        : `<tspan font-family="${(isMono ? MONO_FAMILIES : FAMILIES)[face]}">${escaped(run)}</tspan>`,
    )
    .join('')
}

function textOf(part: Extract<Part, { kind: 'text' }>): string {
  const isMono = part.face === 'figures'
  const family = (isMono ? MONO_FAMILIES : FAMILIES).latin
  const title =
    part.whole !== undefined && part.whole !== part.text ? `<title>${escaped(part.whole)}</title>` : ''
  return `<text x="${mm(part.x)}" y="${mm(part.y)}" font-family="${family}" font-size="${mm(part.size)}" font-weight="${part.face === 'bold' ? 'bold' : 'normal'}" text-anchor="${part.anchor}" fill="${escaped(part.colour)}">${title}${spans(part.text, isMono)}</text>`
}

function partOf(part: Part): string {
  switch (part.kind) {
    case 'rect':
      return `<rect x="${mm(part.x)}" y="${mm(part.y)}" width="${mm(part.w)}" height="${mm(part.h)}" rx="${mm(Math.min(part.radius, part.w / 2, part.h / 2))}" ${filled(part.fill)} ${stroked(part.ink)}/>`
    case 'circle':
      return `<circle cx="${mm(part.cx)}" cy="${mm(part.cy)}" r="${mm(part.r)}" ${filled(part.fill)} ${stroked(part.ink)}/>`
    case 'line':
      return `<line x1="${mm(part.x1)}" y1="${mm(part.y1)}" x2="${mm(part.x2)}" y2="${mm(part.y2)}" ${stroked(part.ink)}/>`
    case 'text':
      return textOf(part)
  }
}

/**
 * A drawing, or a region of it, as SVG (Scalable Vector Graphics 1.1) true to scale: one user unit is 1 mm. Nothing in it
 * asks for anything outside; a text that is cut carries its whole as its title. `css` are the typefaces that go with it.
 */
export function svgOf(drawing: Drawing, region: Region = wholeOf(drawing), css = ''): string {
  const { x, y, w, h } = region
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(w)}mm" height="${mm(h)}mm" viewBox="${mm(x)} ${mm(y)} ${mm(w)} ${mm(h)}" role="img">`,
    `<title>${escaped(drawing.name)}</title>`,
    ...(css === '' ? [] : [`<style>${escaped(css)}</style>`]),
    ...inRegion(drawing, region).map(partOf),
    '</svg>\n',
  ].join('\n')
}
