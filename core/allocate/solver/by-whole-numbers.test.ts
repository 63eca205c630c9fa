import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { everyChoice } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { solvedByWholeNumbers } from './by-whole-numbers'
import { descentFrom } from './descent'
import { compareScores, forOwnTerms, NOWHERE, scoreOf, type Problem, type Shape } from './problem'

const RESOURCES = 6

/** A candidate: two or three of few things, so that halves of candidates go together where wholes do not; and what it costs. */
const anyCandidate = fc.record({
  takes: fc.uniqueArray(fc.nat({ max: RESOURCES - 1 }), { minLength: 2, maxLength: 3 }),
  stale: fc.nat({ max: 1 }),
  outside: fc.nat({ max: 3 }),
  rank: fc.nat({ max: 9 }),
})

const anyShape = fc.array(anyCandidate, { minLength: 3, maxLength: 5, size: 'max' }).map((all): Shape => ({
  addresses: Int32Array.from([...all.keys(), NOWHERE]),
  takes: [...all.map(({ takes }) => Int32Array.from(takes)), new Int32Array()],
  costs: {
    ...forOwnTerms(() => new Uint16Array(all.length + 1)),
    stale: Uint16Array.from([...all.map(({ stale }) => stale), 1]),
    outside: Uint16Array.from([...all.map(({ outside }) => outside), 4]),
    rank: Uint16Array.from([...all.map(({ rank }) => rank), 0]),
  },
  leave: all.length,
  fieldless: null,
}))

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
      const best = [...everyChoice(problem)]
        .map((choice) => scoreOf(problem, choice))
        .reduce((least, score) => (compareScores(score, least) < 0 ? score : least))
      expect(ended && scoreOf(ended.problem, ended.choice)).toEqual(best)
    }),
    { numRuns: 800 },
  )
  expect(asked).toBeGreaterThan(100)
})
