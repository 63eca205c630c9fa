import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  canBePairFirst,
  controllerClass,
  controllerName,
  noteName,
  parseNoteName,
  percussionName,
  type MiddleC,
} from '.'

const countOf = (wanted: string): number =>
  Array.from({ length: 128 }, (_, number) => number).filter((number) => controllerClass(number) === wanted)
    .length

describe('controller numbers', () => {
  it.each([
    [0, 'bank-select'],
    [1, 'standard'],
    [3, 'undefined'],
    [6, 'carrier'],
    [16, 'general-purpose'],
    [31, 'undefined'],
    [32, 'bank-select'],
    [33, 'second-of-pair'],
    [38, 'carrier'],
    [63, 'second-of-pair'],
    [64, 'standard'],
    [84, 'standard'],
    [88, 'standard'],
    [90, 'undefined'],
    [96, 'carrier'],
    [102, 'undefined'],
    [120, 'mode'],
  ])('%i is %s', (number, expected) => {
    expect(controllerClass(number)).toBe(expected)
  })

  it('fall into the classes in the published amounts', () => {
    expect(countOf('second-of-pair')).toBe(30)
    expect(countOf('mode')).toBe(8)
    expect(countOf('carrier')).toBe(8)
    expect(countOf('undefined')).toBe(39)
  })

  it('are named, and seconds after their firsts', () => {
    expect(controllerName(74)).toBe('Brightness')
    expect(controllerName(33)).toBe('Modulation wheel, second half')
    expect(controllerName(52)).toBe('Second half of 20')
    expect(controllerName(20)).toBeNull()
  })

  it('outside 0–127 are refused', () => {
    expect(() => controllerClass(128)).toThrow(RangeError)
  })

  it('pairs start at 1–31 but not at 6', () => {
    expect([0, 1, 6, 31, 32].map(canBePairFirst)).toEqual([false, true, false, true, false])
  })
})

describe('notes', () => {
  it.each([
    [3, 'C3'],
    [4, 'C4'],
    [5, 'C5'],
  ] as const)('middle C can be called with octave %i', (middleC, name) => {
    expect(noteName(60, middleC)).toBe(name)
  })

  it('names read back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 127 }), fc.constantFrom<MiddleC[]>(3, 4, 5), (note, middleC) => {
        expect(parseNoteName(noteName(note, middleC), middleC)).toBe(note)
      }),
    )
  })

  it('flats are read, nonsense and what lies outside are not', () => {
    expect(parseNoteName('Bb2', 3)).toBe(58)
    expect(parseNoteName('H2', 3)).toBeNull()
    expect(parseNoteName('C12', 3)).toBeNull()
  })

  it('percussion is named where the standard names it', () => {
    expect([34, 35, 38, 81, 82].map(percussionName)).toEqual([
      null,
      'Acoustic bass drum',
      'Acoustic snare',
      'Open triangle',
      null,
    ])
  })
})
