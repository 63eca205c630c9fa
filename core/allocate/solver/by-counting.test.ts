import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import {
  anyCrowd,
  anyHalvingShape,
  bestByTrying,
  problemOf,
  shapeTaking,
  withStakes,
} from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { certainByCounting, leastByCounting } from './by-counting'
import type { Aids } from './exact'
import { posed, type SolveProgram } from './program'
import { FIRST_TERMS, scoreOf, TERMS, type Choice, type Problem, type Shape } from './problem'

const aids = (solve: SolveProgram = programs): Aids => ({
  programs: solve,
  budget: { left: 100_000 },
  isStopped: () => false,
})

const left = ({ items }: Problem): Choice => items.map(({ leave }) => leave)

const firstTermsOf = (problem: Problem, choice: Choice): number[] => {
  const score = scoreOf(problem, choice)
  return FIRST_TERMS.map((term) => score[term])
}

/** As little as can be of the first terms, by programs that tell every item apart. */
function leastOneByOne(problem: Problem): number[] {
  const settled: Array<{ term: (typeof FIRST_TERMS)[number]; value: number }> = []
  for (const term of FIRST_TERMS) {
    const asked = posed(problem, { term, settled }, 10_000)
    if (!asked) throw new Error('There is no program.')
    const { end, bound } = programs(asked.program, {
      isWhole: true,
      nodes: 10_000,
      isStopped: () => false,
    })
    expect(end).toBe('least')
    settled.push({ term, value: Math.round(bound) })
  }
  return settled.map(({ value }) => value)
}

/** Some kinds of items, several of each, of which the same numbers stand in another order in every other one. */
const anyAlike: fc.Arbitrary<Problem> = fc
  .array(
    fc.record({
      shape: anyHalvingShape(7, { stale: 2, warnings: 1 }, { errors: 1 }),
      count: fc.integer({ min: 1, max: 4 }),
    }),
    { minLength: 1, maxLength: 3, size: 'max' },
  )
  .map((kinds) => {
    const turned = (shape: Shape): Shape => ({ ...shape, takes: shape.takes.map((own) => own.toReversed()) })
    const items = kinds.flatMap(({ shape, count }) =>
      Array.from({ length: count }, (_, index) => (index % 2 === 0 ? shape : turned(shape))),
    )
    return { items, chains: items.map((_, item) => [item]), resources: 7 }
  })

/** Is nothing taken twice? */
function isPossible({ items }: Problem, choice: Choice): boolean {
  const all = choice.flatMap((candidate, item) => [...(items[item]?.takes[candidate] ?? [])])
  return choice.every((candidate) => candidate >= 0) && new Set(all).size === all.length
}

it('finds as little of the first terms as trying everything', () => {
  fc.assert(
    fc.property(anyCrowd, fc.integer({ min: 0, max: 3 }), (drawn, stays) => {
      const problem = withStakes(drawn, stays)
      const found = leastByCounting(problem, left(problem), aids())
      expect(found?.proven).toEqual(FIRST_TERMS)
      expect(isPossible(problem, found?.choice ?? [])).toBe(true)
      expect(firstTermsOf(problem, found?.choice ?? [])).toEqual(firstTermsOf(problem, bestByTrying(problem)))
    }),
    { numRuns: 40 },
  )
})

it('finds as little where many are alike as programs that tell every one apart', () => {
  let several = 0
  fc.assert(
    fc.property(anyAlike, (problem) => {
      const found = leastByCounting(problem, left(problem), aids())
      const least = leastOneByOne(problem)
      expect(found?.proven).toEqual(FIRST_TERMS)
      expect(isPossible(problem, found?.choice ?? [])).toBe(true)
      expect(firstTermsOf(problem, found?.choice ?? [])).toEqual(least)
      if (least.filter((value) => value > 0).length > 1) several++
    }),
    { numRuns: 200 },
  )
  expect(several).toBeGreaterThan(20)
})

it('says of a score what it could be at least, and nothing is less', () => {
  fc.assert(
    fc.property(anyAlike, fc.nat({ max: 2 }), fc.nat({ max: 2 }), (problem, errors, stale) => {
      const least = leastOneByOne(problem)
      const values = Object.fromEntries(FIRST_TERMS.map((term, at) => [term, least[at] ?? 0]))
      const score = { ...scoreOf(problem, left(problem)), ...values, breaks: 0, moved: 0 }
      const worse = { ...score, errors: score.errors + errors, stale: score.stale + stale }
      const { proven, bound } = certainByCounting(problem, worse, aids())
      const open = errors > 0 ? 'errors' : stale > 0 ? 'stale' : null
      if (open === null) {
        expect(proven).toEqual(expect.arrayContaining([...FIRST_TERMS]))
        return
      }
      expect(bound).toEqual({ term: open, value: score[open] })
      expect(proven).toEqual(TERMS.slice(0, TERMS.indexOf(open)))
    }),
    { numRuns: 100 },
  )
})

it('needs no whole numbers where several exclude each other two by two', () => {
  const everyOther = (count: number): number[][] => {
    const pairs = Array.from({ length: count }, (_, a) => Array.from({ length: a }, (_, b) => [a, b])).flat()
    return Array.from({ length: count }, (_, own) =>
      pairs.flatMap((pair, resource) => (pair.includes(own) ? [resource] : [])),
    )
  }
  for (const count of [3, 4, 7]) {
    const items = everyOther(count).map((takes) => shapeTaking([takes]))
    const problem = { items, chains: items.map((_, item) => [item]), resources: count * count }
    const asked: boolean[] = []
    const listening: SolveProgram = (program, options) => {
      asked.push(options.isWhole)
      return programs(program, options)
    }
    const found = leastByCounting(problem, left(problem), aids(listening))
    expect(scoreOf(problem, found?.choice ?? []).errors).toBe(count - 1)
    expect(found?.proven).toEqual(FIRST_TERMS)
    expect(asked).toEqual([false])
  }
})

it('keeps what is known where it is stopped, the package says nothing, or what it says does not come out', () => {
  const numbers = [20, 22, 24].map((number) => ({ number, rank: 0 }))
  const problem = problemOf({ channels: [numbers], chains: [{ length: 5, isPair: false }], outside: [] }, 3)
  const known = left(problem)
  const nothing = { choice: known, proven: [], least: 0 }
  expect(leastByCounting(problem, known, { ...aids(), isStopped: () => true })).toEqual(nothing)
  const silent: SolveProgram = () => ({ end: 'open', bound: -Infinity, values: null, duals: null })
  expect(leastByCounting(problem, known, aids(silent))).toEqual(nothing)
  const near: SolveProgram = () => ({ end: 'open', bound: 1.5, values: null, duals: null })
  expect(leastByCounting(problem, known, aids(near))).toEqual({ ...nothing, least: 2 })
  for (const bound of [Infinity, NaN]) {
    const lying: SolveProgram = () => ({ end: 'none', bound, values: null, duals: null })
    expect(leastByCounting(problem, known, aids(lying))).toEqual(nothing)
  }
  const halves: SolveProgram = ({ costs }) => ({
    end: 'least',
    bound: 0,
    values: new Float64Array(costs.length).fill(0.5),
    duals: null,
  })
  expect(leastByCounting(problem, known, aids(halves))).toEqual(nothing)
  const everything: SolveProgram = ({ costs }) => ({
    end: 'least',
    bound: 0,
    values: new Float64Array(costs.length).fill(1),
    duals: null,
  })
  expect(leastByCounting(problem, known, aids(everything))).toEqual(nothing)
  const found = leastByCounting(problem, known, aids())
  expect(found?.proven).toEqual(FIRST_TERMS)
  expect(scoreOf(problem, found?.choice ?? [])).toMatchObject({ errors: 2 })
})

it('takes no choice in which something would be taken twice', () => {
  const items = [shapeTaking([[0, 1]]), shapeTaking([[0, 2]])]
  const problem = { items, chains: [[0], [1]], resources: 3 }
  const generous: SolveProgram = (program, options) =>
    programs(
      {
        ...program,
        most: program.most.map((most) => 2 * most),
        ...(program.upTo ? { upTo: program.upTo.map((most) => 2 * most) } : {}),
      },
      options,
    )
  const known = left(problem)
  expect(leastByCounting(problem, known, aids(generous))).toMatchObject({ choice: known, proven: [] })
  expect(scoreOf(problem, leastByCounting(problem, known, aids())?.choice ?? []).errors).toBe(1)
})
