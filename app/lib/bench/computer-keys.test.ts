import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { firstC, octaveBy, playedBy } from './computer-keys'

const anyKeys = fc
  .tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 127 }))
  .map(([a, b]) => ({ low: Math.min(a, b), high: Math.max(a, b) }))
const CODES = ['KeyA', 'KeyW', 'KeyS', 'KeyK', 'Semicolon', 'KeyQ', 'Digit1']

describe('a keyboard played by the keys of a computer', () => {
  it('begins at middle C where it has one, and goes an octave down and up', () => {
    const keys = { low: 36, high: 84 }
    expect(firstC(keys)).toBe(60)
    expect(CODES.map((code) => playedBy(code, 60, keys))).toEqual([60, 61, 62, 72, 76, null, null])
    expect(octaveBy('KeyZ', 60, keys)).toBe(48)
    expect(octaveBy('KeyX', 84, keys)).toBe(84)
    expect(octaveBy('KeyA', 60, keys)).toBeNull()
  })

  it('plays keys that it has, and no others, wherever it is put', () => {
    fc.assert(
      fc.property(anyKeys, fc.array(fc.constantFrom('KeyZ', 'KeyX')), (keys, octaves) => {
        const from = octaves.reduce((at, code) => octaveBy(code, at, keys) ?? at, firstC(keys))
        const played = CODES.flatMap((code) => playedBy(code, from, keys) ?? [])
        for (const note of played) {
          expect(note).toBeGreaterThanOrEqual(keys.low)
          expect(note).toBeLessThanOrEqual(keys.high)
        }
      }),
    )
  })
})
