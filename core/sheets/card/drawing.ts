/** How a line is inked: the edge of the paper's subject, a mark, a light detail, or a line to cut along. */
export type Ink = 'edge' | 'mark' | 'detail' | 'cut'

/** The typeface of a text: words, words that stand out, or figures of one width. */
export type Face = 'plain' | 'bold' | 'figures'

/** A part of a drawing; every length is in mm. */
export type Part =
  | {
      kind: 'rect'
      x: number
      y: number
      w: number
      h: number
      radius: number
      ink: Ink | null
      fill: string | null
    }
  | { kind: 'circle'; cx: number; cy: number; r: number; ink: Ink | null; fill: string | null }
  | { kind: 'line'; x1: number; y1: number; x2: number; y2: number; ink: Ink }
  | {
      kind: 'text'
      /** Where the base line begins, is centred or ends. */
      x: number
      y: number
      /** Height of the type, in mm. */
      size: number
      text: string
      /** The whole of a text that is cut. */
      whole?: string
      anchor: 'start' | 'middle' | 'end'
      face: Face
      colour: string
    }

/** A drawing true to scale, in mm. */
export interface Drawing {
  name: string
  width: number
  height: number
  parts: readonly Part[]
}

/** A part of a drawing that is looked at, in mm. */
export interface Region {
  x: number
  y: number
  w: number
  h: number
}

export const PAPER_INK = '#18222a'
export const SOFT_INK = '#56625f'

export const wholeOf = ({ width, height }: Drawing): Region => ({ x: 0, y: 0, w: width, h: height })
