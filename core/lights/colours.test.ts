import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { LightRole, PaletteEntry } from '../rig'
import {
  alikes,
  apart,
  chooseColours,
  darkOf,
  entriesFor,
  lightness,
  nearestEntry,
  resolve,
  STARTER_PALETTES,
  VISIONS,
} from '.'
import { cases } from '../testing/cases'

const hex = fc
  .tuple(fc.nat(255), fc.nat(255), fc.nat(255))
  .map((parts) => `#${parts.map((part) => part.toString(16).padStart(2, '0')).join('')}`)
const palette = (most: number): fc.Arbitrary<PaletteEntry[]> =>
  fc
    .array(hex, { minLength: 1, maxLength: most })
    .map((colours) => colours.map((colour, index) => ({ index, colour, name: `${index}` })))

const role = (id: string, letter: string, off: string, on: string): LightRole => ({
  id,
  name: id,
  letter,
  states: [
    { name: 'off', colour: off, from: null },
    { name: 'on', colour: on, from: null },
  ],
})
describe('colours', () => {
  it('are as far apart one way as the other, and not at all from themselves', () => {
    fc.assert(
      fc.property(hex, hex, fc.constantFrom(...VISIONS), (a, b, vision) => {
        expect(apart(a, b, vision)).toBeCloseTo(apart(b, a, vision), 9)
        expect(apart(a, a, vision)).toBeCloseTo(0, 9)
      }),
    )
    expect(apart('#000000', '#ffffff')).toBeCloseTo(1, 6)
  })

  it('that differ in red and green only come near each other in two forms of colour blindness', () => {
    const [red, green] = ['#b05030', '#6f7a2a']
    expect(apart(red, green, 'protanope')).toBeLessThan(apart(red, green))
    expect(apart(red, green, 'deuteranope')).toBeLessThan(apart(red, green))
  })

  it('are seen in three ways that differ: a protanope sees red dark, a tritanope takes yellow for white', () => {
    const red = (vision: Parameters<typeof apart>[2]) => apart('#ff0000', '#000000', vision)
    expect(red('protanope')).toBeLessThan(red('deuteranope') * 0.9)
    const yellow = (vision: Parameters<typeof apart>[2]) => apart('#ffff66', '#ffffff', vision)
    expect(yellow('tritanope')).toBeLessThan(yellow('common') * 0.6)
    expect(yellow('deuteranope')).toBeGreaterThan(yellow('common') * 0.6)
  })
})

describe('the nearest colour of a palette', () => {
  it('is the first of equally near ones', () => {
    const entries = ['#102030', '#ffffff', '#ffffff'].map((colour, index) => ({ index, colour, name: '' }))
    expect(nearestEntry('#fefefe', entries)?.entry.index).toBe(1)
  })
  it('is the one that looking at each of them finds', () => {
    fc.assert(
      fc.property(hex, palette(20), (colour, entries) => {
        const found = nearestEntry(colour, entries)
        const distances = entries.map((entry) => apart(colour, entry.colour))
        expect(found?.off).toBe(Math.min(...distances))
        expect(found?.entry).toBe(entries[distances.indexOf(Math.min(...distances))])
      }),
    )
    expect(nearestEntry('#ffffff', [])).toBeNull()
  })

  it('is dark, dim or bright on a light that knows no colours', () => {
    const lights = {
      levels: { button: 'dim-bright' as const },
      setBy: { kind: 'note-velocity' as const },
      palette: [],
    }
    const shown = resolve([role('a', 'A', '#301505', '#ff8a1e')], entriesFor(lights, 'button'))
    expect(shown.map(({ entry }) => entry.name)).toEqual(['dim', 'bright'])
    const onOff = { ...lights, levels: { button: 'on-off' as const } }
    const plain = resolve([role('a', 'A', '#f0f0f0', '#101010')], entriesFor(onOff, 'button'))
    expect(plain.map(({ entry }) => entry.name)).toEqual(['dark', 'lit'])
    expect(alikes(shown)).toEqual([])
    expect(entriesFor(lights, 'pad')).toEqual([])
  })

  it.each(STARTER_PALETTES.map(({ name, entries }) => [name, entries] as const))(
    'in the starter “%s” every index is there once, in its place, and one is dark',
    (_, entries) => {
      expect(entries.map(({ index }) => index)).toEqual(entries.map((__, index) => index))
      expect(entries.length).toBeLessThanOrEqual(128)
      expect(darkOf(entries)?.colour).toBe('#000000')
    },
  )
})

describe('roles that come out alike', () => {
  const two = [
    { index: 0, colour: '#000000', name: 'dark' },
    { index: 1, colour: '#ff0000', name: 'red' },
  ]
  it('are two states of one, and the same state of two', () => {
    const found = alikes(
      resolve([role('a', 'A', '#ff4000', '#ff0000'), role('b', 'B', '#000000', '#ff2010')], two),
    )
    expect(
      found.map(({ a, b, vision }) => [a.role.id, a.state, b.role.id, b.state, vision].join(' ')),
    ).toEqual(['a off a on common', 'a on b on common'])
  })

  it('may be so for the colour-blind only', () => {
    const entries = ['#000000', '#a86b00', '#7f7f00'].map((colour, index) => ({
      index,
      colour,
      name: colour,
    }))
    const found = alikes(
      resolve([role('a', 'A', '#000000', '#a86b00'), role('b', 'B', '#000000', '#7f7f00')], entries),
    )
    expect(found.filter(({ a }) => a.state === 'on').every(({ vision }) => vision !== 'common')).toBe(true)
    expect(found.some(({ a, b }) => a.state === 'on' && b.state === 'on')).toBe(true)
  })
})

describe('colours chosen for a set of roles', () => {
  const subsets = (count: number, from: readonly string[]): string[][] =>
    count === 0
      ? [[]]
      : from.flatMap((first, index) =>
          subsets(count - 1, from.slice(index + 1)).map((rest) => [first, ...rest]),
        )

  it('are the best that looking at every choice finds', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(hex, { minLength: 5, maxLength: 9 }),
        fc.integer({ min: 0, max: 2 }),
        fc.integer({ min: 1, max: 3 }),
        fc.array(palette(8), { maxLength: 2 }),
        (colours, darkCount, brightCount, palettes) => {
          const sorted = [...colours].sort((a, b) => lightness(a) - lightness(b))
          const [dark, bright] = [sorted.slice(0, 2), sorted.slice(2)]
          const between = (a: string, b: string): number =>
            palettes.length === 0
              ? apart(a, b)
              : Math.min(
                  ...palettes.map((entries) =>
                    apart(
                      nearestEntry(a, entries)?.entry.colour ?? '',
                      nearestEntry(b, entries)?.entry.colour ?? '',
                    ),
                  ),
                )
          const smallestOf = (all: readonly string[]): number =>
            Math.min(Infinity, ...all.flatMap((a, index) => all.slice(index + 1).map((b) => between(a, b))))
          const best = Math.max(
            ...subsets(darkCount, dark).flatMap((some) =>
              subsets(brightCount, bright).map((others) => smallestOf([...some, ...others])),
            ),
          )
          const chosen = chooseColours({ dark, bright, darkCount, brightCount, palettes })
          expect(chosen.smallest).toBe(best)
          expect(chosen.bound).toBe(chosen.smallest)
          expect([chosen.dark.length, chosen.bright.length]).toEqual([darkCount, brightCount])
          expect(smallestOf([...chosen.dark, ...chosen.bright])).toBe(best)
        },
      ),
      cases(200),
    )
  })

  it('say how good they may be where the search is cut short', () => {
    const entries = STARTER_PALETTES[0]?.entries ?? []
    const bright = entries.map(({ colour }) => colour)
    const { smallest, bound } = chooseColours({
      dark: [],
      bright,
      darkCount: 0,
      brightCount: 12,
      palettes: [entries],
      steps: 3,
    })
    expect(bound).toBeGreaterThanOrEqual(smallest)
  })

  it('are refused where there are too few', () => {
    expect(() =>
      chooseColours({ dark: [], bright: ['#ffffff'], darkCount: 1, brightCount: 1, palettes: [] }),
    ).toThrow(RangeError)
  })
})
