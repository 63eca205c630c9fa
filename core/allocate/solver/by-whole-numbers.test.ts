import * as fc from 'fast-check'
import { cases } from '../../testing/cases'
import { expect, it } from 'vitest'
import { anyHalvingShape, bestByTrying } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { solvedByWholeNumbers } from './by-whole-numbers'
import { descentFrom } from './descent'
import { scoreOf, type Problem } from './problem'

const RESOURCES = 6
const anyShape = anyHalvingShape(RESOURCES, { stale: 1, outside: 3, rank: 9 }, { stale: 1, outside: 4 })

it('finds the best of all there is, whatever is known', () => {
  let asked = 0
  const counted: typeof programs = (program, options) => {
    if (options.isWhole) asked++
    return programs(program, options)
  }
  fc.assert(
    fc.property(fc.array(anyShape, { minLength: 4, maxLength: 5, size: 'max' }), (items) => {
      const problem: Problem = { items, chains: items.map((_, item) => [item]), resources: RESOURCES }
      const left = items.map(({ leave }) => leave)
      const aids = { programs: counted, budget: { left: 1e6 }, isStopped: () => false }
      const ended = solvedByWholeNumbers(descentFrom(problem, left), aids)
      const best = scoreOf(problem, bestByTrying(problem))
      expect(ended && scoreOf(ended.problem, ended.choice)).toEqual(best)
    }),
    cases(100),
  )
  expect(asked).toBeGreaterThan(10)
})
