import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, bestByTrying, problemOf } from '../../testing/allocations'
import { leastBreaks } from './least-breaks'
import { scoreOf } from './problem'

it('says no more breaks than there have to be, and mostly as many', () => {
  let exact = 0
  let broken = 0
  fc.assert(
    fc.property(anyCrowd, (drawn) => {
      const problem = problemOf(drawn, 3)
      const best = scoreOf(problem, bestByTrying(problem))
      const least = leastBreaks(problem, best)
      expect(least).toBeLessThanOrEqual(best.breaks)
      if (best.breaks === 0) return
      broken++
      if (least === best.breaks) exact++
    }),
    { numRuns: 300 },
  )
  expect(broken).toBeGreaterThan(20)
  expect(exact / broken).toBeGreaterThan(0.5)
})
