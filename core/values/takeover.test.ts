import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { followed, MOST_GAIN, upThenDown, type Takeover } from '.'

const share = fc.double({ min: 0, max: 1, noNaN: true })
/** Where a control or parameter can stand in a thousand places. */
const stand = fc.integer({ min: 0, max: 1000 }).map((thousandth) => thousandth / 1000)
const takeover = fc.constantFrom<Takeover[]>('at-once', 'when-met', 'gradual')

describe('takeover', () => {
  it('meets by the end of a whole sweep, and stays met', () => {
    fc.assert(
      fc.property(
        takeover,
        stand,
        stand,
        fc.integer({ min: 8, max: 200 }),
        (kind, control, parameterAt, steps) => {
          const points = followed(kind, { control, parameter: parameterAt }, upThenDown(control, steps))
          const last = points.at(-1)
          expect(last?.parameter).toBeCloseTo(last?.control ?? NaN, 6)
          const met = points.findIndex((point) => Math.abs(point.control - point.parameter) < 1e-12)
          if (met < 0) return
          for (const point of points.slice(met)) expect(point.parameter).toBeCloseTo(point.control, 6)
        },
      ),
    )
  })

  it('never jumps unless it is at once', () => {
    fc.assert(
      fc.property(
        takeover,
        share,
        share,
        fc.array(share, { maxLength: 30 }),
        (kind, control, parameterAt, way) => {
          const points = followed(kind, { control, parameter: parameterAt }, way)
          points.slice(1).forEach((point, index) => {
            const before = points[index] ?? point
            const most = (kind === 'gradual' ? MOST_GAIN : 1) * Math.abs(point.control - before.control)
            if (kind !== 'at-once')
              expect(Math.abs(point.parameter - before.parameter)).toBeLessThanOrEqual(most + 1e-9)
            expect(point.parameter).toBeGreaterThanOrEqual(0)
            expect(point.parameter).toBeLessThanOrEqual(1)
          })
        },
      ),
    )
  })

  it('only ever brings control and parameter nearer when gradual', () => {
    fc.assert(
      fc.property(share, share, fc.array(share, { maxLength: 30 }), (control, parameterAt, way) => {
        const points = followed('gradual', { control, parameter: parameterAt }, way)
        const apart = points.map((point) => Math.abs(point.control - point.parameter))
        apart.slice(1).forEach((gap, index) => expect(gap).toBeLessThanOrEqual((apart[index] ?? 0) + 1e-9))
      }),
    )
  })

  it.each<[Takeover, number[]]>([
    ['at-once', [0.3, 0.4, 0.6, 0.8]],
    ['when-met', [0.7, 0.7, 0.7, 0.8]],
    ['gradual', [0.7, 0.7429, 0.8286, 0.9143]],
  ])('%s from 0.3 under 0.7', (kind, parameters) => {
    const points = followed(
      kind,
      { control: 0.3, parameter: 0.7 },
      kind === 'at-once' ? [0.3, 0.4, 0.6, 0.8] : [0.4, 0.6, 0.8],
    )
    const found = points.slice(kind === 'at-once' ? 1 : 0).map((point) => point.parameter)
    found.forEach((value, index) => expect(value).toBeCloseTo(parameters[index] ?? NaN, 4))
  })
})
