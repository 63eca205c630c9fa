import { HELD_HAN } from './held-han'

/** A typeface that ideographs are set in: those of Japan, and the simplified and the traditional ones of Chinese. */
export type HanFace = keyof typeof HELD_HAN

/** A typeface that documents are set in, by the part of Unicode that its file holds. */
export type Face =
  | 'latin'
  | 'latin-ext'
  | 'greek'
  | 'cyrillic'
  | 'hebrew'
  | 'arabic'
  | 'emoji'
  | 'korean'
  | HanFace
  | 'unknown'

type Span = readonly [low: number, high: number]

/** What the files of the faces hold, the first that holds a character sets it. A test compares this with the files. */
const HELD: ReadonlyArray<readonly [Exclude<Face, 'unknown'>, readonly Span[]]> = [
  [
    'latin',
    [
      [0x20, 0x7e],
      [0xa0, 0xac],
      [0xae, 0xb4],
      [0xb6, 0xff],
      [0x131, 0x131],
      [0x152, 0x153],
      [0x2c6, 0x2c6],
      [0x2da, 0x2da],
      [0x2dc, 0x2dc],
      [0x2013, 0x2014],
      [0x2018, 0x201a],
      [0x201c, 0x201e],
      [0x2022, 0x2022],
      [0x2026, 0x2026],
      [0x2039, 0x203a],
      [0x2044, 0x2044],
      [0x20ac, 0x20ac],
      [0x2122, 0x2122],
      [0x2212, 0x2212],
    ],
  ],
  [
    'latin-ext',
    [
      [0x100, 0x107],
      [0x10a, 0x113],
      [0x116, 0x11b],
      [0x11e, 0x123],
      [0x126, 0x127],
      [0x12a, 0x12b],
      [0x12e, 0x130],
      [0x136, 0x137],
      [0x139, 0x13e],
      [0x141, 0x148],
      [0x150, 0x151],
      [0x154, 0x155],
      [0x158, 0x15b],
      [0x15e, 0x165],
      [0x16a, 0x16b],
      [0x16e, 0x17e],
      [0x218, 0x21b],
      [0x1e80, 0x1e85],
      [0x1e9e, 0x1e9e],
      [0x1ef2, 0x1ef3],
    ],
  ],
  [
    'greek',
    [
      [0x386, 0x386],
      [0x388, 0x38a],
      [0x38c, 0x38c],
      [0x38e, 0x3a1],
      [0x3a3, 0x3ce],
    ],
  ],
  ['cyrillic', [[0x400, 0x45f]]],
  [
    'hebrew',
    [
      [0x591, 0x5c7],
      [0x5d0, 0x5ea],
      [0x5f0, 0x5f4],
      [0xfb1d, 0xfb36],
    ],
  ],
  [
    'arabic',
    [
      [0x600, 0x6ff],
      [0x750, 0x77f],
      [0xfb50, 0xfbc1],
      [0xfdf0, 0xfdfc],
      [0xfe70, 0xfe74],
      [0xfe76, 0xfefc],
    ],
  ],
  [
    'emoji',
    [
      [0x200d, 0x200d],
      [0x203c, 0x203c],
      [0x20e3, 0x20e3],
      [0x2194, 0x2199],
      [0x231a, 0x231b],
      [0x23e9, 0x23f3],
      [0x2600, 0x2604],
      [0x2648, 0x2653],
      [0x26a0, 0x26a1],
      [0x2705, 0x2705],
      [0x270a, 0x270d],
      [0x2728, 0x2728],
      [0x274c, 0x274c],
      [0x2753, 0x2755],
      [0x2764, 0x2764],
      [0x2b50, 0x2b50],
      [0x1f300, 0x1f321],
      [0x1f32d, 0x1f393],
      [0x1f399, 0x1f39b],
      [0x1f3a0, 0x1f3f0],
      [0x1f3fb, 0x1f4fd],
      [0x1f4ff, 0x1f53d],
      [0x1f5fb, 0x1f64f],
      [0x1f680, 0x1f6c5],
      [0x1f90c, 0x1f93a],
      [0x1f940, 0x1f945],
      [0x1f947, 0x1f9ff],
    ],
  ],
  [
    'korean',
    [
      [0x3131, 0x318e],
      [0x3200, 0x321c],
      [0x3260, 0x327b],
      [0xac00, 0xd7a3],
    ],
  ],
  [
    'japanese',
    [
      [0x3000, 0x3003],
      [0x3005, 0x301c],
      [0x3041, 0x3096],
      [0x3099, 0x30ff],
      [0xff01, 0xff5d],
      [0xffe3, 0xffe3],
      [0xffe5, 0xffe5],
    ],
  ],
  [
    'simplified',
    [
      [0x3000, 0x3003],
      [0x3005, 0x301b],
      [0x301d, 0x301e],
      [0x3105, 0x312f],
      [0xff01, 0xff49],
      [0xff4b, 0xff59],
      [0xff5b, 0xff5e],
      [0xffe0, 0xffe1],
    ],
  ],
  [
    'traditional',
    [
      [0x3000, 0x3003],
      [0x3008, 0x301b],
      [0x301d, 0x301e],
      [0x3105, 0x312f],
    ],
  ],
]

const FIRST_HAN = 0x4e00
const LAST_HAN = 0x9fff
const isHan = (point: number): boolean => point >= FIRST_HAN && point <= LAST_HAN
/** The faces of ideographs, in the order in which they are tried. */
const HAN_FACES: readonly HanFace[] = ['japanese', 'simplified', 'traditional']

/** Does a face hold an ideograph? */
function holdsHan(face: HanFace, point: number): boolean {
  const at = point - FIRST_HAN
  return ((Number.parseInt(HELD_HAN[face].charAt(at >> 2), 16) >> (at & 3)) & 1) === 1
}

const SPANS = new Map<Face, readonly Span[]>(HELD)
const isWithin = (point: number, spans: readonly Span[]): boolean =>
  spans.some(([low, high]) => point >= low && point <= high)

const holds = (face: HanFace, point: number): boolean =>
  isHan(point) ? holdsHan(face, point) : isWithin(point, SPANS.get(face) ?? [])

const SPACE = 0x20
const NO_BREAK_SPACE = 0xa0
/**
 * Marks that are not seen: they join or part letters, or choose the form of an emoji. By code point, the faces that make
 * something of them; the face of emoji has one form only.
 */
const UNSEEN: ReadonlyMap<number, readonly Face[]> = new Map([
  [0x200c, ['arabic', 'hebrew']],
  [0x200d, ['arabic', 'hebrew', 'emoji']],
  [0xfe0f, []],
])

/** Does a character go with what stands before it? Every face has a space. */
const joins = (point: number, face: Face): boolean =>
  point === SPACE || (point === NO_BREAK_SPACE && face !== 'emoji')

/** The face that holds a character, by its code point. */
export function faceOf(point: number): Face {
  if (isHan(point)) return HAN_FACES.find((face) => holdsHan(face, point)) ?? 'unknown'
  return HELD.find(([, spans]) => isWithin(point, spans))?.[0] ?? 'unknown'
}

const HAN_OR_KANA = /[\u3041-\u30ff\u4e00-\u9fff]/g

/** The face that holds all ideographs and kana of a text, so that none of its words is set in two; null where none does. */
function hanFaceOf(text: string): HanFace | null {
  const points = (text.match(HAN_OR_KANA) ?? []).map((character) => character.charCodeAt(0))
  if (points.length === 0) return null
  return HAN_FACES.find((face) => points.every((point) => holds(face, point))) ?? null
}

/** A piece of a text that is set in one face. */
export interface Run {
  face: Face
  text: string
}

/** A character that no face holds, in writing, so that nothing is lost silently. */
const spelledOut = (point: number): string => `[U+${point.toString(16).toUpperCase().padStart(4, '0')}]`

/** Letters of half the width, which stand beside the marks that belong to them. */
const HALF_WIDE = /[\uff61-\uffdc]+/g

/** A text with letters and their marks in one, as the faces hold them (Unicode Standard Annex 15, NFC). */
export const composed = (text: string): string =>
  text.normalize('NFC').replace(HALF_WIDE, (letters) => letters.normalize('NFKC'))

const pointOf = (character: string): number => character.codePointAt(0) ?? 0

function add(runs: Run[], { face, text }: Run): void {
  const last = runs.at(-1)
  if (last?.face === face) last.text += text
  else runs.push({ face, text })
}

/**
 * A character in the face that holds it. What no face holds is written as what it stands for (Unicode Standard Annex 15,
 * NFKC) where that is held, and else as its code point (Unicode, appendix A).
 */
export function settable(character: string): Run[] {
  const face = faceOf(pointOf(character))
  if (face !== 'unknown') return [{ face, text: character }]
  const meant: Run[] = []
  for (const each of character.normalize('NFKC')) add(meant, { face: faceOf(pointOf(each)), text: each })
  const isHeld = meant.every(({ face: own }) => own !== 'unknown')
  return isHeld ? meant : [{ face: 'latin', text: spelledOut(pointOf(character)) }]
}

/** Put a mark that is not seen to what stands before it, if that makes something of it. Gives whether it is such a mark. */
export function attachUnseen(to: Run | undefined, character: string): boolean {
  const holders = UNSEEN.get(pointOf(character))
  if (to && holders?.includes(to.face)) to.text += character
  return holders !== undefined
}

/**
 * A text cut into pieces of one face each. A space between two pieces of one face stays with them, so that words which
 * run from right to left keep their order. Marks that are not seen are left out where they have nothing to join.
 */
export function runsOf(text: string): Run[] {
  const runs: Run[] = []
  const whole = composed(text)
  const hanFace = hanFaceOf(whole)
  for (const character of whole) {
    const point = pointOf(character)
    const last = runs.at(-1)
    if (attachUnseen(last, character)) continue
    if (last && joins(point, last.face)) last.text += character
    else if (hanFace !== null && holds(hanFace, point)) add(runs, { face: hanFace, text: character })
    else for (const run of settable(character)) add(runs, run)
  }
  return runs
}

/** Is a text all of the face that everything is set in anyway? */
export const isLatin = (text: string): boolean =>
  /^[\x20-\x7e\u00a0-\u00ac\u00ae-\u00b4\u00b6-\u00ff\u2013\u2014\u2018-\u201a\u201c-\u201e\u2022\u2026]*$/.test(
    text,
  )

/** The faces other than the first that some texts need. */
export function facesIn(texts: Iterable<string>): Set<Face> {
  const faces = new Set<Face>()
  for (const text of texts) {
    if (isLatin(text)) continue
    for (const { face } of runsOf(text)) faces.add(face)
  }
  faces.delete('latin')
  return faces
}
