import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

type Tool = 'PDFTOTEXT' | 'PDFTOPPM' | 'PDFINFO' | 'PDFFONTS'

/** Run a tool of somebody else’s on a PDF; `ahead` stands before the file, `after` behind it. */
function read(tool: Tool, pdf: Uint8Array, ahead: readonly string[], after: readonly string[] = []): Buffer {
  const path = process.env[tool] ?? `/usr/bin/${tool.toLowerCase()}`
  if (!existsSync(path))
    throw new Error(`Install ${tool.toLowerCase()} (Debian: poppler-utils) to read what is printed.`)
  const folder = mkdtempSync(join(tmpdir(), 'deft-pdf-'))
  const file = join(folder, 'sheet.pdf')
  writeFileSync(file, pdf)
  try {
    return execFileSync(path, [...ahead, file, ...after], {
      maxBuffer: 256 * 1024 * 1024,
      stdio: ['ignore', 'pipe', 'pipe'],
    })
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** The text of each page, in the order in which it was written. */
export const pagesOf = (pdf: Uint8Array): string[] =>
  read('PDFTOTEXT', pdf, ['-raw', '-enc', 'UTF-8'], ['-']).toString('utf8').split('\f').slice(0, -1)

/** A word where it stands on its page, in points from the left and from the top. */
export interface PdfWord {
  text: string
  left: number
  right: number
  bottom: number
}

/** The reader gives letters as they lie from left to right. */
const asWritten = (word: string): string =>
  /[\u0590-\u08ff\ufb1d-\ufefc]/.test(word) ? [...word].reverse().join('') : word

/** The words of all pages, without marks of direction. */
export const wordsOf = (pdf: Uint8Array): PdfWord[] =>
  [
    ...read('PDFTOTEXT', pdf, ['-bbox', '-enc', 'UTF-8'], ['-'])
      .toString('utf8')
      .matchAll(/<word xMin="([\d.]+)" yMin="[\d.]+" xMax="([\d.]+)" yMax="([\d.]+)">(.*?)<\/word>/g),
  ].map(([, left, right, bottom, text = '']) => ({
    text: asWritten(text.replace(/[\u200e\u200f\u202a-\u202e]/g, '')),
    left: Number(left),
    right: Number(right),
    bottom: Number(bottom),
  }))

export interface PdfFacts {
  pages: number
  /** Of the first page, in mm. */
  width: number
  height: number
}

export function factsOf(pdf: Uint8Array): PdfFacts {
  const text = read('PDFINFO', pdf, []).toString('utf8')
  const size = /Page size:\s+([\d.]+) x ([\d.]+) pts/.exec(text)
  const mm = (pt: string | undefined): number => (Number(pt) * 25.4) / 72
  return { pages: Number(/Pages:\s+(\d+)/.exec(text)?.[1]), width: mm(size?.[1]), height: mm(size?.[2]) }
}

/** What is said of each typeface of a file, its name first. */
export const fontsOf = (pdf: Uint8Array): string[] =>
  read('PDFFONTS', pdf, []).toString('utf8').trim().split('\n').slice(2)

/** Whether each typeface of a file is embedded in it. */
export const embedded = (pdf: Uint8Array): boolean[] =>
  fontsOf(pdf).map((line) => / (yes|no) +(yes|no) +(yes|no) +\d+ +\d+$/.exec(line)?.[1] === 'yes')

/** So many px are 1 mm of a painted page. */
export const PX_A_MM = 10

/** The first page as it is printed, as a PNG of so many dots an inch. */
export const paintedPng = (pdf: Uint8Array, dots = 110): Buffer =>
  read('PDFTOPPM', pdf, ['-r', String(dots), '-png', '-f', '1', '-l', '1'])

export interface Painted {
  width: number
  height: number
  /** Is a px dark? */
  isDark: (x: number, y: number) => boolean
}

/** A page as it is printed, painted black on white. */
export function painted(pdf: Uint8Array, page = 1): Painted {
  const one = String(page)
  const bytes = read('PDFTOPPM', pdf, ['-r', String(PX_A_MM * 25.4), '-gray', '-f', one, '-l', one])
  const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(bytes.subarray(0, 40).toString('latin1'))
  if (!head) throw new Error('pdftoppm gave no picture')
  const [width, height, start] = [Number(head[1]), Number(head[2]), head[0].length]
  return { width, height, isDark: (x, y) => (bytes[start + y * width + x] ?? 255) < 110 }
}

/** A line of a drawing is thinner than that, in px; a bar is not. */
const BAR_PX = 8

/** The longest unbroken dark bar of a picture, in px. */
export function longestBar({ width, height, isDark }: Painted): number {
  let longest = 0
  for (let y = 0; y < height - BAR_PX; y++) {
    let run = 0
    for (let x = 0; x < width; x++) {
      run = isDark(x, y) && isDark(x, y + BAR_PX) && isDark(x, y + BAR_PX / 2) ? run + 1 : 0
      if (run > longest) longest = run
    }
  }
  return longest
}
