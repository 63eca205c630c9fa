import { settable, type Face as Script } from '../scripts'
import type { Face } from './drawing'
import { piecesOf } from './pieces'

/** Width of a character in parts of the height of its type, on the safe side: narrow, wide and the rest. */
const NARROW = /[ijl.,:;'’|!()[\]· ]/
const WIDE = /[mwMWQ@%—…&]/
const CAPITAL = /[A-Z0-9#+–]/
const FIGURE_WIDTH = 0.64
/** Scripts whose letters stand each in a square. */
const SQUARE: ReadonlySet<Script> = new Set(['korean', 'japanese', 'simplified', 'traditional'])
const SQUARE_WIDTH = 1.03

const measured = (character: string): number => {
  if (NARROW.test(character)) return 0.31
  if (WIDE.test(character)) return 0.9
  if (CAPITAL.test(character)) return 0.7
  const point = character.codePointAt(0) ?? 0
  if (point < 0x250) return 0.58
  const runs = settable(character)
  const written = runs.map(({ text }) => text).join('')
  if (written !== character) return [...written].reduce((width, each) => width + widthOfOne(each), 0)
  if (runs.some(({ face }) => SQUARE.has(face))) return SQUARE_WIDTH
  return point < 0x1100 ? 0.7 : 1.3
}

/** Widths that are known; a few hundred characters make up nearly every text. */
const known = new Map<string, number>()
const MOST_KNOWN = 2000

function widthOfOne(character: string): number {
  const before = known.get(character)
  if (before !== undefined) return before
  const width = measured(character)
  if (known.size < MOST_KNOWN) known.set(character, width)
  return width
}

/** How wide a text is set, in mm, on the safe side; `size` is the height of the type in mm. */
export function textWidth(text: string, size: number, face: Face): number {
  let width = 0
  for (const character of text) {
    const one = widthOfOne(character)
    width +=
      face === 'figures' ? Math.max(FIGURE_WIDTH, one > 1 ? one : 0) : face === 'bold' ? one * 1.07 : one
  }
  return width * size
}

/** A text cut to a width in mm with a sign that it goes on; empty where not even a letter and the sign fit. */
export function cut(text: string, width: number, size: number, face: Face): string {
  if (textWidth(text, size, face) <= width) return text
  const characters = [...text]
  let kept = ''
  for (const character of characters) {
    if (textWidth(`${kept}${character}…`, size, face) > width) break
    kept += character
  }
  return kept.trim() === '' ? '' : `${kept.trimEnd()}…`
}

/** A text broken into lines of a width in mm where a line may end; a word that is wider is broken where it must be. */
export function wrapped(text: string, width: number, size: number, face: Face): string[] {
  const lines: string[] = []
  let line = ''
  for (const { before, text: word } of piecesOf(text)) {
    const longer = line === '' ? word : `${line}${before}${word}`
    if (textWidth(longer, size, face) <= width) {
      line = longer
      continue
    }
    if (line !== '') lines.push(line)
    line = ''
    for (const character of word) {
      if (line !== '' && textWidth(line + character, size, face) > width) {
        lines.push(line)
        line = ''
      }
      line += character
    }
  }
  if (line !== '') lines.push(line)
  return lines
}

/** One thing that is written at a control, in the order of what matters. */
export interface Wanted {
  text: string
  face: Face
}

/** Lines that fit a room, and the height of their type in mm. */
export interface Fitted {
  size: number
  lines: ReadonlyArray<{ text: string; whole: string; face: Face }>
  /** Is something cut, or left out? */
  isCut: boolean
}

/** Heights of type that are tried, in mm, the largest first; the last is the least that can be read. */
export const TYPE_SIZES = [3.4, 2.9, 2.5, 2.2, 1.9, 1.6] as const
const LEAST = TYPE_SIZES[TYPE_SIZES.length - 1] ?? 1.6
export const LEADING = 1.18

const linesAt = (wanted: readonly Wanted[], width: number, size: number) =>
  wanted.flatMap(({ text, face }) =>
    wrapped(text, width, size, face).map((line) => ({ text: line, whole: text, face })),
  )

/** Would a word be broken in two? Then a smaller type is better, as long as there is one. */
const breaksWords = (wanted: readonly Wanted[], width: number, size: number): boolean =>
  wanted.some(({ text, face }) => piecesOf(text).some((piece) => textWidth(piece.text, size, face) > width))

/** Texts set into a room of `width` by `height` mm in the largest type that holds them; cut, with a sign, where none does. */
export function fitted(
  wanted: readonly Wanted[],
  width: number,
  height: number,
  sizes: readonly number[] = TYPE_SIZES,
): Fitted {
  const least = sizes.at(-1) ?? LEAST
  for (const size of sizes) {
    if (breaksWords(wanted, width, size)) continue
    const lines = linesAt(wanted, width, size)
    if (lines.length * size * LEADING <= height) return { size, lines, isCut: false }
  }
  const room = Math.floor(height / (least * LEADING))
  const all = linesAt(wanted, width, least)
  if (all.length <= room) return { size: least, lines: all, isCut: false }
  const single = wanted.slice(0, room)
  const lines = single.map(({ text, face }, index) => {
    const goesOn = index === room - 1 && wanted.length > room
    const line = cut(goesOn ? `${text} …` : text, width, least, face)
    return { text: goesOn && !line.endsWith('…') && line !== '' ? `${line}…` : line, whole: text, face }
  })
  return { size: least, lines: lines.filter(({ text }) => text !== ''), isCut: true }
}
