/** A piece of text in one typeface. */
export interface PdfRun {
  text: string
  font?: string
  noWrap?: boolean
}

/** What of the definition of a PDF we use: plain data for the package that lays it out. */
export type PdfNode = Readonly<Record<string, unknown>>

/** Lengths of PDF are in points, of 1/72 inch (PDF 32000-1, section 8.3.2.3). */
export const pt = (mm: number): number => (mm * 72) / 25.4
