import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyHalvingShape, bestByTrying } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { solvedHopefully } from './hopeful'
import { scoreOf, type Problem } from './problem'

const RESOURCES = 6
const anyShape = anyHalvingShape(
  RESOURCES,
  { stale: 2, changed: 2, outside: 2, rank: 3 },
  { errors: 1, stale: 1, outside: 1 },
)

it('finds the best of all there is, or nothing, also where halves would go together', () => {
  let found = 0
  let fractions = 0
  const counted: typeof programs = (program, options) => {
    const said = programs(program, options)
    if (!options.isWhole && said.values?.some((value) => value > 0.01 && value < 0.99)) fractions++
    return said
  }
  fc.assert(
    fc.property(
      fc.array(anyShape, { minLength: 3, maxLength: 5, size: 'max' }),
      fc.boolean(),
      (items, isChained) => {
        const numbers = items.map((_, item) => item)
        const problem: Problem = {
          items,
          chains: isChained
            ? [numbers.slice(0, 2), ...numbers.slice(2).map((item) => [item])]
            : numbers.map((item) => [item]),
          resources: RESOURCES,
        }
        const left = items.map(({ leave }) => leave)
        const aids = { programs: counted, budget: { left: 1e6 }, isStopped: () => false }
        const ended = solvedHopefully(problem, left, aids)
        if (ended === null) return
        found++
        expect(scoreOf(ended.problem, ended.choice)).toEqual(scoreOf(problem, bestByTrying(problem)))
      },
    ),
    { numRuns: 1500 },
  )
  expect(found).toBeGreaterThan(1000)
  expect(fractions).toBeGreaterThan(100)
})
