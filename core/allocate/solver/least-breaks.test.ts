import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, bestByTrying, problemOf } from '../../testing/allocations'
import { leastBreaks } from './least-breaks'
import { scoreOf } from './problem'

const NUMBERS = [20, 22, 24, 26].map((number) => ({ number, rank: 0 }))

it('ends when it is stopped, with what is known by then', () => {
  const problem = problemOf({ channels: [NUMBERS], chains: [{ length: 3, isPair: false }], outside: [] }, 3)
  const best = scoreOf(problem, bestByTrying(problem))
  let asked = 0
  const isStopped = () => ++asked > 2
  expect(leastBreaks(problem, { ...best, breaks: 9 }, isStopped)).toBeLessThanOrEqual(best.breaks)
  expect(asked).toBe(3)
})

it('says no more breaks than there have to be, and mostly as many', () => {
  let exact = 0
  let broken = 0
  fc.assert(
    fc.property(anyCrowd, (drawn) => {
      const problem = problemOf(drawn, 3)
      const best = scoreOf(problem, bestByTrying(problem))
      const least = leastBreaks(problem, best, () => false)
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
