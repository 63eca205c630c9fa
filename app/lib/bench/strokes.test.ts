import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { barsOf, reachOf, traceStroke } from './strokes'
import type { LanePoint } from './tape'

const point = (at: number, level: number, isBlow = false): LanePoint => ({
  at,
  level,
  value: Math.round(level * 127),
  isBlow,
})
/** What a pen is told, with x and y as they are. */
function drawn(points: readonly LanePoint[], pxPerMs = 0.1): Array<[string, number, number]> {
  const told: Array<[string, number, number]> = []
  traceStroke(
    points,
    (at) => at * pxPerMs,
    (level) => level,
    {
      moveTo: (x, y) => told.push(['move', x, y]),
      lineTo: (x, y) => told.push(['line', x, y]),
    },
  )
  return told
}

it('a stroke shows the highest and the lowest of every px, however many points fall on it', () => {
  const points = fc
    .array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.double({ min: 0, max: 1, noNaN: true })), {
      minLength: 1,
      maxLength: 300,
    })
    .map((steps) => {
      let at = 0
      return steps.map(([after, level]) => point((at += after), level))
    })
  fc.assert(
    fc.property(points, (all) => {
      const told = drawn(all)
      const columns = new Map<number, number[]>()
      for (const { at, level } of all) {
        const column = Math.round(at * 0.1)
        columns.set(column, [...(columns.get(column) ?? []), level])
      }
      for (const [column, levels] of columns) {
        const at = told.filter(([, x]) => Math.round(x) === column).map(([, , y]) => y)
        expect(Math.max(...at)).toBe(Math.max(...levels))
        expect(Math.min(...at)).toBe(Math.min(...levels))
      }
      expect(told.length).toBeLessThanOrEqual(4 * columns.size)
    }),
  )
})

it('a pause lifts the pen, and a blow stands by itself', () => {
  const lifts = (points: readonly LanePoint[]) => drawn(points).filter(([kind]) => kind === 'move').length
  expect(lifts([point(0, 0), point(100, 1)])).toBe(1)
  expect(lifts([point(0, 0), point(400, 1)])).toBe(2)
  expect(lifts([point(0, 0), point(50, 1, true), point(100, 0.5)])).toBe(3)
  expect(drawn([point(0, 0, true)])).toEqual([])
})

it('held notes are bars, and a movement has a reach', () => {
  expect(barsOf([point(5, 1, true), point(30, 0, true), point(40, 1, true)])).toEqual([{ from: 5, to: 30 }])
  expect(reachOf([point(0, 0.5), point(1, 1), point(2, 0)])).toEqual({ low: 0, high: 127 })
  expect(reachOf([point(0, 0.5)])).toBeNull()
  expect(reachOf([point(0, 1, true), point(1, 0.5)])).toBeNull()
})
