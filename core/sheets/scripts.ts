/** A typeface that documents are set in, by the part of Unicode that its file holds. */
export type Face = 'latin' | 'latin-ext' | 'greek' | 'cyrillic' | 'hebrew' | 'arabic' | 'emoji' | 'unknown'

type Span = readonly [low: number, high: number]

/** What the files of the faces hold, the first that holds a character sets it. A test compares this with the files. */
const HELD: ReadonlyArray<readonly [Face, readonly Span[]]> = [
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
      [0xfe0f, 0xfe0f],
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
]

/** Does a character go with what stands before it, whatever that is set in? Spaces and marks that only join. */
const joins = (point: number): boolean =>
  point === 0x20 || point === 0xa0 || point === 0x200d || point === 0xfe0f

/** The face that holds a character, by its code point. */
export function faceOf(point: number): Face {
  for (const [face, spans] of HELD) {
    for (const [low, high] of spans) if (point >= low && point <= high) return face
  }
  return 'unknown'
}

/** A piece of a text that is set in one face. */
export interface Run {
  face: Face
  text: string
}

/** A character that no face holds, in writing, so that nothing is lost silently. */
export const spelledOut = (point: number): string =>
  `[U+${point.toString(16).toUpperCase().padStart(4, '0')}]`

/**
 * A text cut into pieces of one face each. A space between two pieces of one face stays with them, so that words which
 * run from right to left keep their order. What no face holds is spelled out as its code point (Unicode, appendix A).
 */
export function runsOf(text: string): Run[] {
  const runs: Run[] = []
  for (const character of text) {
    const point = character.codePointAt(0) ?? 0
    const own = faceOf(point)
    const last = runs.at(-1)
    const face = own === 'unknown' ? 'latin' : joins(point) && last ? last.face : own
    const written = own === 'unknown' ? spelledOut(point) : character
    if (last?.face === face) last.text += written
    else runs.push({ face, text: written })
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
