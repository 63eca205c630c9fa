import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { everyChoice } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { solvedHopefully } from './hopeful'
import { compareScores, forOwnTerms, NOWHERE, scoreOf, type Problem, type Shape } from './problem'

const RESOURCES = 6

/** A candidate: two or three of few things, so that halves of candidates go together where wholes do not; and what it costs. */
const anyCandidate = fc.record({
  takes: fc.uniqueArray(fc.nat({ max: RESOURCES - 1 }), { minLength: 2, maxLength: 3 }),
  stale: fc.nat({ max: 2 }),
  changed: fc.nat({ max: 2 }),
  outside: fc.nat({ max: 2 }),
  rank: fc.nat({ max: 3 }),
})

const anyShape = fc.array(anyCandidate, { minLength: 2, maxLength: 4, size: 'max' }).map((all): Shape => ({
  addresses: Int32Array.from([...all.keys(), NOWHERE]),
  takes: [...all.map(({ takes }) => Int32Array.from(takes)), new Int32Array()],
  costs: {
    ...forOwnTerms(() => new Uint16Array(all.length + 1)),
    errors: Uint16Array.from([...all.map(() => 0), 1]),
    stale: Uint16Array.from([...all.map(({ stale }) => stale), 1]),
    changed: Uint16Array.from([...all.map(({ changed }) => changed), 0]),
    outside: Uint16Array.from([...all.map(({ outside }) => outside), 1]),
    rank: Uint16Array.from([...all.map(({ rank }) => rank), 0]),
  },
  leave: all.length,
  fieldless: null,
}))

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
        const best = [...everyChoice(problem)]
          .map((choice) => scoreOf(problem, choice))
          .reduce((least, score) => (compareScores(score, least) < 0 ? score : least))
        expect(scoreOf(ended.problem, ended.choice)).toEqual(best)
      },
    ),
    { numRuns: 1500 },
  )
  expect(found).toBeGreaterThan(1000)
  expect(fractions).toBeGreaterThan(100)
})
