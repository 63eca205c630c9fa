import { describe, expect, it } from 'vitest'
import type { LatticeRow, Owner } from '#core/addresses'
import { cellNotes, cellPaths, selectedCells, selectedPairs } from './draw'
import { latticeGeometry } from './geometry'
import { headings, headingsThatFit } from './ground'

const owner = (controller: string, more: Partial<Owner> = {}): Owner => ({
  controller,
  gesture: `${controller}/k.turn`,
  place: { controller, template: 't', layer: null, gesture: 'k.turn' },
  message: 0,
  role: 'main',
  live: true,
  part: 'whole',
  ...more,
})
const row = (cells: LatticeRow['cells']): LatticeRow => ({
  channel: 3,
  cells,
  strip: { pitchBend: [], channelPressure: [], program: [] },
  kept: [],
  controllers: ['a', 'b'],
  fullness: 0.1,
})
const geometry = latticeGeometry(1280, 1)
const pieces = (d: string): number => d.split('M').length - 1

describe('the lattice', () => {
  const full = row(Array.from({ length: 128 }, (_, number) => ({ number, owners: [owner('a')] })))

  it('draws a full row as one path with a piece a cell', () => {
    const paths = cellPaths(full, geometry, true)
    expect(paths).toHaveLength(1)
    expect(pieces(paths[0]?.d ?? '')).toBe(128)
  })

  it('draws two senders of a cell in halves, and other layers only on request', () => {
    const shared = row([
      { number: 7, owners: [owner('a'), owner('b'), owner('b', { live: false })] },
      { number: 9, owners: [owner('b', { live: false })] },
    ])
    expect(cellPaths(shared, geometry, false).map(({ key }) => key)).toEqual(['a 1', 'b 1'])
    expect(cellPaths(shared, geometry, true).map(({ key }) => key)).toEqual(['a 1', 'b 1', 'b 0.28'])
  })

  it('notes sharing on purpose, and nothing where there is nothing to say', () => {
    const cells = row([{ number: 7, owners: [owner('a'), owner('b')] }])
    const both = new Set(['a/k.turn', 'b/k.turn'])
    expect(cellNotes(cells, 'cc', new Map(), both, true)).toMatchObject([{ number: 7, isShared: true }])
    expect(cellNotes(cells, 'cc', new Map(), new Set(['a/k.turn']), true)).toEqual([])
  })

  it('joins the halves of a pair that the selection sends both', () => {
    const half = (number: number, part: Owner['part']) => ({ number, owners: [owner('a', { part })] })
    const pairs = row([half(16, 'msb'), half(17, 'msb'), half(48, 'lsb')])
    expect(selectedPairs(pairs, new Set(['a/k.turn']))).toEqual([16])
    expect(selectedPairs(pairs, new Set(['b/k.turn']))).toEqual([])
  })

  it('finds what the selection sends, now or elsewhere', () => {
    const cells = row([
      { number: 7, owners: [owner('a')] },
      { number: 8, owners: [owner('a', { live: false })] },
      { number: 9, owners: [owner('b')] },
    ])
    const selected = new Set(['a/k.turn'])
    expect(selectedCells(cells, selected, true)).toEqual([
      { number: 7, isLive: true },
      { number: 8, isLive: false },
    ])
    expect(selectedCells(cells, selected, false)).toEqual([{ number: 7, isLive: true }])
  })
})

describe('headings', () => {
  it('never run into each other, however narrow the lattice', () => {
    for (const width of [2, 4, 5, 6.5, 8, 12]) {
      const shown = headingsThatFit(headings('cc', 4, 1), width)
      shown.forEach(({ at, text }, index) => {
        const next = shown[index + 1]
        if (next) expect(at * width + text.length * 6.7 + 6).toBeLessThanOrEqual(next.at * width + 0.01)
      })
      expect(shown.length).toBeGreaterThan(3)
    }
  })
})
