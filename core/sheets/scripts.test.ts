import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fitted, textWidth, wrapped } from './card/fit'
import { piecesOf } from './card/pieces'
import { faceOf, runsOf } from './scripts'

/** The characters of a standard of two bytes each, between two first bytes, as the platform reads them. */
function charactersOf(encoding: string, first: number, last: number): string[] {
  const decoder = new TextDecoder(encoding)
  const found: string[] = []
  for (let high = first; high <= last; high++)
    for (let low = 0xa1; low <= 0xfe; low++) {
      const text = decoder.decode(new Uint8Array([high, low]))
      if ([...text].length === 1 && text !== '\ufffd' && /\p{L}/u.test(text)) found.push(text)
    }
  return found
}
const setAs = (text: string): string =>
  runsOf(text)
    .map((run) => run.text)
    .join('')

describe('scripts of East Asia', () => {
  it.each([
    ['all kana and both levels of kanji of JIS X 0208', 'euc-jp', 0xa4, 0xf4, 6500, []],
    ['the first level of GB 2312, but for three', 'gb2312', 0xb0, 0xd7, 3700, ['谰', '耪', '锨']],
    ['all syllables of KS X 1001', 'euc-kr', 0xb0, 0xc8, 2300, []],
  ])('are set: %s', (_, encoding, first, last, least, butFor) => {
    const characters = charactersOf(encoding, first, last).filter((each) => !/[\u0370-\u052f]/.test(each))
    expect(characters.length).toBeGreaterThan(least)
    expect(characters.filter((each) => setAs(each) !== each)).toEqual(butFor)
  })

  it.each([
    ['鍵盤つまみ、音量', 'japanese'],
    ['音量', 'japanese'],
    ['合成器，滤波', 'simplified'],
    ['音量说', 'simplified'],
    ['건반노브', 'korean'],
  ])('are set in one face: %s', (text, face) => {
    expect(runsOf(text)).toEqual([{ face, text }])
  })

  it('are set letter by letter where no face holds all of a text', () => {
    const text = 'の说'
    expect(runsOf(text)).toEqual([
      { face: 'japanese', text: 'の' },
      { face: 'simplified', text: '说' },
    ])
  })

  it('are put together where letters and marks come apart', () => {
    expect(setAs('ピアノ'.normalize('NFD'))).toBe('ピアノ')
    expect(setAs('건반'.normalize('NFD'))).toBe('건반')
    expect(setAs('ﾋﾟｱﾉ')).toBe('ピアノ')
  })
})

describe('what no face holds', () => {
  it('is written as what it stands for, and else as its code point', () => {
    expect(setAs('① ㈱ ㎐')).toBe('1 (株) Hz')
    expect(setAs('คีย์')).toBe('[U+0E04][U+0E35][U+0E22][U+0E4C]')
    expect(setAs('a\u202eb')).toBe('a[U+202E]b')
  })
  it('is never handed on: every piece is of a face that holds it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const faces = [...setAs(text)].map((character) => faceOf(character.codePointAt(0) ?? 0))
        expect(faces).not.toContain('unknown')
      }),
    )
  })
  it('is left out only where it is not seen and joins nothing', () => {
    expect(runsOf('a\ufe0f\u200db')).toEqual([{ face: 'latin', text: 'ab' }])
    expect(runsOf('🎛\ufe0f')).toEqual([{ face: 'emoji', text: '🎛' }])
    expect(runsOf('👩\u200d🎤')).toEqual([{ face: 'emoji', text: '👩\u200d🎤' }])
    expect(runsOf('می\u200cخواهم')).toEqual([{ face: 'arabic', text: 'می\u200cخواهم' }])
  })
  it('takes the room that its code point takes, and an ideograph hardly more than its square', () => {
    expect(textWidth('日'.repeat(10), 1, 'plain')).toBeGreaterThanOrEqual(10)
    expect(textWidth('日'.repeat(10), 1, 'plain')).toBeLessThan(10.6)
    expect(textWidth('ค', 1, 'plain')).toBeCloseTo(textWidth('[U+0E04]', 1, 'plain'))
    expect(textWidth('①', 1, 'plain')).toBeCloseTo(textWidth('1', 1, 'plain'))
  })
})

describe('where a line may end', () => {
  const LETTERS = [...'つまみ、音量。（右）ーッ 건반 knob']
  const anyText = fc
    .array(fc.constantFrom(...LETTERS), { size: 'max', maxLength: 60 })
    .map((characters) => characters.join(''))

  it('loses nothing of a text', () => {
    fc.assert(
      fc.property(anyText, (text) => {
        const pieces = piecesOf(text)
        expect(pieces.map((piece, index) => (index === 0 ? '' : piece.before) + piece.text).join('')).toBe(
          text,
        )
      }),
    )
  })
  it('is between ideographs, but never before a mark that closes or after one that opens', () => {
    const text = '鍵盤（右）つまみ、音ッ量。'
    expect(piecesOf(text).map((piece) => piece.text)).toEqual([
      '鍵',
      '盤',
      '（右）',
      'つ',
      'ま',
      'み、',
      '音ッ',
      '量。',
    ])
  })
  it('is at spaces only in scripts that have them', () => {
    expect(piecesOf('filter 건반 노브').map((piece) => piece.text)).toEqual(['filter', '건반', '노브'])
  })
  it('lets a long name without spaces take several lines in large type', () => {
    const text = '鍵盤右手つまみ音量'
    const width = textWidth(text.slice(0, 5), 3.4, 'plain')
    expect(wrapped(text, width, 3.4, 'plain').length).toBe(2)
    expect(fitted([{ text, face: 'plain' }], width, 12).size).toBe(3.4)
  })
})
