import type { Channel } from '../midi'
import type { Id, Place } from '../rig'
import type { Drawing } from './card/drawing'
import type { CardPaper } from './card/pages'
import type { Pattern } from '../lights'

/** What a line of a sheet speaks of, so that a preview can lead there. */
export type Lead =
  | { kind: 'place'; place: Place }
  | { kind: 'parameter'; destination: Id; parameter: Id }
  /** A channel of the lattice of what reaches a destination, and what kind of number. */
  | { kind: 'lattice'; bus: string; family: 'cc' | 'note'; channel: Channel }
  | { kind: 'controller' | 'destination' | 'computer' | 'box' | 'cable'; id: Id }

/** One cell of a table: words, or an address or figure that is set in the figures' typeface. */
export interface Cell {
  text: string
  mono?: boolean
  /** The number that the text writes, for formats that keep numbers as such. */
  value?: number
  /** A colour (`#rrggbb`) that is shown beside the words. */
  swatch?: string
  /** The pattern in the swatch, which tells what a colour alone does not. */
  pattern?: Pattern
  /** A box to tick, drawn where a format can draw; the text says the same in words. */
  box?: 'open' | 'ticked'
}

export interface Column {
  title: string
  /** A figure column is set to the right. */
  align?: 'left' | 'right'
}

export interface Row {
  cells: readonly Cell[]
  /** All that the line says stands in the drawing of its section too: where that is shown, the line is left out. */
  isDrawn?: boolean
  lead?: Lead
  /** The step of a checklist that the line is, to be ticked. */
  step?: string
}

export interface Table {
  columns: readonly Column[]
  rows: readonly Row[]
}

/** A part of a sheet under its own heading. */
export interface Section {
  /** In a book the sheet that begins here stands under this; its own sections follow. */
  isChapter?: true
  heading: string
  /** Said instead of the table where there is nothing to list, and above it otherwise. */
  note?: string
  /** A drawing in mm; whatever is written in it stands in the table too, for formats that do not draw. */
  drawing?: Drawing
  table?: Table
}

/** A sheet, before it is written in any format: previews and files are made from this alone. */
export interface SheetDocument {
  /** The paper that its drawings are laid out for; A4 where it says none. */
  paper?: CardPaper
  title: string
  subtitle: string
  facts: ReadonlyArray<{ label: string; value: string }>
  sections: readonly Section[]
}

/** A cell of text. */
export const words = (text: string): Cell => ({ text })
/** A cell of an address, in figures of one width. */
export const figure = (text: string): Cell => ({ text, mono: true })
/** A cell of a number, which spreadsheets take as one; null is empty. */
export const numeral = (value: number | null): Cell =>
  value === null ? { text: '', mono: true } : { text: String(value), mono: true, value }
/** A box to tick. */
export const tickBox = (isTicked: boolean): Cell =>
  isTicked ? { text: 'done', box: 'ticked' } : { text: 'open', box: 'open' }

/** A line of a table. */
export const row = (cells: readonly Cell[], lead?: Lead): Row => (lead ? { cells, lead } : { cells })
/** Columns by their titles; those of figures are set to the right. */
export const columns = (...titles: ReadonlyArray<string | { figures: string }>): Column[] =>
  titles.map((title) =>
    typeof title === 'string' ? { title } : { title: title.figures, align: 'right' as const },
  )

/** The lines of a section as a format shows them that draws its drawing. */
export const linesBeside = ({ drawing, table }: Section): readonly Row[] =>
  drawing ? (table?.rows ?? []).filter(({ isDrawn }) => !isDrawn) : (table?.rows ?? [])
