/** One cell of a table: words, or an address or figure that is set in the figures' typeface. */
export interface Cell {
  text: string
  mono?: boolean
  /** A colour (`#rrggbb`) that is shown beside the words. */
  swatch?: string
}

export interface Column {
  title: string
  /** A figure column is set to the right. */
  align?: 'left' | 'right'
}

export interface Table {
  columns: readonly Column[]
  rows: ReadonlyArray<readonly Cell[]>
}

/** A part of a sheet under its own heading. */
export interface Section {
  heading: string
  /** Said instead of the table where there is nothing to list, and above it otherwise. */
  note?: string
  table?: Table
}

/** A sheet, before it is written in any format: previews and files are made from this alone. */
export interface SheetDocument {
  title: string
  subtitle: string
  facts: ReadonlyArray<{ label: string; value: string }>
  sections: readonly Section[]
}

/** A cell of text. */
export const words = (text: string): Cell => ({ text })
/** A cell of a number or address, in figures of one width. */
export const figure = (text: string): Cell => ({ text, mono: true })
