import * as fc from 'fast-check'

interface Damage {
  kind: string
  /** Where, from 0 to 1 of the text. */
  at: number
  /** Of how many UTF-16 units. */
  length: number
  /** What is put there. */
  put: string
}

/** Damage as files suffer it: cut off, a piece gone, twice or elsewhere, other characters. */
export const anyDamage: fc.Arbitrary<readonly Damage[]> = fc.array(
  fc.record({
    kind: fc.constantFrom('cut', 'drop', 'repeat', 'move', 'put'),
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    length: fc.nat({ max: 60 }),
    put: fc.oneof(
      fc.string({ unit: 'binary', maxLength: 4 }),
      fc.constantFrom(
        '"',
        '{',
        '}',
        '[',
        ',',
        '<',
        '>',
        '&',
        '\n',
        '\0',
        '-1',
        '1e999',
        'null',
        '__proto__',
        '\ud800',
      ),
    ),
  }),
  { minLength: 1, maxLength: 4 },
)
/** A text with damage done to it, one after another. */
export function damaged(text: string, all: readonly Damage[]): string {
  return all.reduce((now, { kind, at, length, put }) => {
    const from = Math.floor(at * now.length)
    const [before, piece, after] = [
      now.slice(0, from),
      now.slice(from, from + length),
      now.slice(from + length),
    ]
    switch (kind) {
      case 'cut':
        return before
      case 'drop':
        return before + after
      case 'repeat':
        return before + piece + piece + after
      case 'move':
        return piece + before + after
      default:
        return before + put + after
    }
  }, text)
}
