import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, everyChoice, problemOf, shapeTaking } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { scoreOf, TERMS, type Problem } from './problem'
import { choiceOf, leastBy, posed, type Program } from './program'

const anyProgram = fc
  .record({ columns: fc.integer({ min: 1, max: 6 }), rows: fc.integer({ min: 1, max: 5 }) })
  .chain(({ columns, rows }) =>
    fc.record({
      costs: fc.array(fc.integer({ min: -2, max: 9 }), { minLength: columns, maxLength: columns }),
      upTo: fc.option(fc.array(fc.nat(2), { minLength: columns, maxLength: columns })),
      matrix: fc.array(fc.array(fc.constantFrom(0, 0, 1, 1, 3), { minLength: rows, maxLength: rows }), {
        minLength: columns,
        maxLength: columns,
      }),
      bounds: fc.array(fc.record({ most: fc.integer({ min: 1, max: 4 }), isEqual: fc.boolean() }), {
        minLength: rows,
        maxLength: rows,
      }),
      duals: fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: rows, maxLength: rows }),
    }),
  )

/** What whole columns cost at least, by trying all; Infinity where none keep to the rows. */
function leastByTrying(
  costs: readonly number[],
  matrix: ReadonlyArray<readonly number[]>,
  bounds: ReadonlyArray<{ most: number; isEqual: boolean }>,
  upTo: readonly number[],
): number {
  const counts = upTo.reduce<number[][]>(
    (all, most) => all.flatMap((own) => Array.from({ length: most + 1 }, (_, count) => [...own, count])),
    [[]],
  )
  const sums = counts.map((own) => {
    const isKept = bounds.every(({ most, isEqual }, row) => {
      const sum = matrix.reduce((all, values, column) => all + (own[column] ?? 0) * (values[row] ?? 0), 0)
      return isEqual ? sum === most : sum <= most
    })
    return isKept ? costs.reduce((all, cost, column) => all + (own[column] ?? 0) * cost, 0) : Infinity
  })
  return Math.min(...sums)
}

/** Pairs of numbers side by side: one that runs on from another takes what that takes too. */
const pair = shapeTaking([
  [0, 1],
  [1, 2],
  [2, 3],
  [3, 4],
])
const overlapping: Problem = { items: [pair, pair, pair], chains: [[0, 1], [2]], resources: 5 }

const anyCrowded = anyCrowd.map((drawn) => problemOf(drawn, 3))

it('names each row of a column once, and allows whatever can be chosen', () => {
  fc.assert(
    fc.property(anyCrowded, fc.constantFrom(...TERMS), (problem, term) => {
      const { program } = posed(problem, { term, settled: [] }, 10_000) ?? {}
      if (!program) throw new Error('There is no program.')
      for (let column = 0; column < program.costs.length; column++) {
        const own = [...program.rows.slice(program.starts[column], program.starts[column + 1])]
        expect(new Set(own).size).toBe(own.length)
      }
      const { bound } = programs(program, { isWhole: true, nodes: 1000, isStopped: () => false })
      const least = Math.min(...[...everyChoice(problem)].map((choice) => scoreOf(problem, choice)[term]))
      expect(bound).toBeLessThanOrEqual(least + 1e-6)
      if (term !== 'breaks') expect(bound).toBeCloseTo(least, 5)
    }),
    { numRuns: 300, examples: [[overlapping, 'breaks']] },
  )
})

it('is never said to cost more than it can, whatever prices its rows are given, and no less than its own say', () => {
  fc.assert(
    fc.property(anyProgram, ({ costs, matrix, bounds, duals, upTo }) => {
      const starts = [0]
      const rows: number[] = []
      const values: number[] = []
      for (const own of matrix) {
        own.forEach((value, row) => {
          if (value === 0) return
          rows.push(row)
          values.push(value)
        })
        starts.push(rows.length)
      }
      const program: Program = {
        costs: Float64Array.from(costs),
        starts: Int32Array.from(starts),
        rows: Int32Array.from(rows),
        values: Float64Array.from(values),
        most: Float64Array.from(bounds, ({ most }) => most),
        least: Float64Array.from(bounds, ({ most, isEqual }) => (isEqual ? most : -Infinity)),
        ...(upTo ? { upTo: Float64Array.from(upTo) } : {}),
      }
      expect(leastBy(program, Float64Array.from(duals))).toBeLessThanOrEqual(
        leastByTrying(costs, matrix, bounds, upTo ?? costs.map(() => 1)) + 1e-6,
      )
      const ended = programs(program, { isWhole: false, nodes: 0, isStopped: () => false })
      if (ended.duals) expect(leastBy(program, ended.duals)).toBeCloseTo(ended.bound, 5)
    }),
    { numRuns: 300 },
  )
})

it('says no choice that takes something twice, or has more of a term than is settled, whatever its columns', () => {
  const one = shapeTaking([[0], []], [0, 1])
  const problem: Problem = { items: [one, one], chains: [[0], [1]], resources: 1 }
  const asked = posed(problem, { term: 'outside', settled: [{ term: 'stale', value: 1 }] }, 100)
  if (!asked) throw new Error('There is no program.')
  /** The columns in which two items have these candidates. */
  const columns = (...own: readonly number[]): Float64Array =>
    Float64Array.from(asked.runs, ({ items: [item = 0], candidates: [candidate] }) =>
      own[item] === candidate ? 1 : 0,
    )
  expect(choiceOf(problem, asked, columns(0, 1))).toEqual([0, 1])
  expect(choiceOf(problem, asked, columns(1, 0))).toEqual([1, 0])
  expect(choiceOf(problem, asked, columns(0, 0))).toBeNull()
  expect(choiceOf(problem, asked, columns(1, 1))).toBeNull()
})
