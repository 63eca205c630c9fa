import { PAPERS, type Paper } from '../card/pages'
import { pt } from './nodes'

/** What a page keeps free around its text. */
export const MARGIN_MM = { side: 12, top: 14, bottom: 16 }

/** A page of text, in points; `room` is how wide its text is, `height` that of the page. */
export interface PageShape {
  width: number
  height: number
  orientation: 'portrait' | 'landscape'
  room: number
}

/** A page of a paper, standing or lying. */
export const shapeOf = (paper: Paper, orientation: PageShape['orientation']): PageShape => {
  const { width, height } = PAPERS[paper]
  const [w, h] = orientation === 'portrait' ? [width, height] : [height, width]
  return { width: pt(w), height: pt(h), orientation, room: pt(w - 2 * MARGIN_MM.side) }
}

/** What is as wide on every paper. */
export const LEAST_ROOM = pt(
  Math.min(...Object.values(PAPERS).map(({ width }) => width)) - 2 * MARGIN_MM.side,
)
