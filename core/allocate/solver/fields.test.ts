import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anySmall, bestByTrying, problemOf } from '../../testing/allocations'
import { assign } from './assign'
import { solveInFields, type Fields } from './fields'
import {
  comparePlaced,
  compareScores,
  NOWHERE,
  OWN_TERMS,
  scoreOf,
  TERMS,
  type Choice,
  type Problem,
  type Shape,
} from './problem'

const STRIDE = 128

/** Every way to give each of `count` one of `among`, none more often than `turns`. */
function ways(count: number, among: number, turns: number): number[][] {
  if (count === 0) return [[]]
  return ways(count - 1, among, turns).flatMap((way) =>
    Array.from({ length: among }, (_, next) => next)
      .filter((next) => way.filter((each) => each === next).length < turns)
      .map((next) => [...way, next]),
  )
}

it('assigns at the least sum, as trying every way does', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 4 }).chain((rows) =>
        fc.array(fc.array(fc.bigInt({ min: 0n, max: 20n }), { minLength: 5, maxLength: 5 }), {
          minLength: rows,
          maxLength: rows,
        }),
      ),
      (costs) => {
        const sum = (columns: readonly number[]): bigint =>
          columns.reduce((total, column, row) => total + (costs[row]?.[column] ?? 0n), 0n)
        const found = assign(costs)
        expect(new Set(found).size).toBe(costs.length)
        const least = ways(costs.length, 5, 1).map(sum)
        expect(sum(found)).toBe(least.reduce((a, b) => (a < b ? a : b)))
      },
    ),
  )
})

it('refuses more rows than columns', () => {
  expect(() => assign([[1n], [2n]])).toThrow(/more rows/)
})

/** An item that stays at an address. */
const fixedAt = (address: number): Shape => ({
  addresses: Int32Array.of(address),
  takes: [new Int32Array()],
  costs: Object.fromEntries(OWN_TERMS.map((term) => [term, new Uint16Array(1)])) as unknown as Shape['costs'],
  leave: 0,
  fieldless: null,
})

/** The best choice of all in which every group keeps to a field: to one of its own where there are enough. */
function triedThrough(problem: Problem, { groups, count, fieldOf }: Fields, fields: number): Choice {
  const all = ways(count, fields, count <= fields ? 1 : count).map((way) =>
    bestByTrying(problem, (item, address) => {
      const group = groups[item] ?? -1
      return group < 0 || address === NOWHERE || fieldOf(address) === way[group]
    }),
  )
  return all.reduce((a, b) => (comparePlaced(problem, a, b) <= 0 ? a : b))
}

it('gives each group a field of its own as well as trying every way does', () => {
  fc.assert(
    fc.property(
      anySmall.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5),
      fc.integer({ min: 1, max: 3 }),
      fc.boolean(),
      fc.option(fc.integer({ min: 0, max: 12 }), { nil: null }),
      (drawn, count, acrossChains, fixed) => {
        const plain = problemOf(drawn, 3)
        const isFixed = (item: number): boolean => fixed !== null && item === 1
        const problem: Problem = {
          ...plain,
          items: plain.items.map((shape, item) => (isFixed(item) ? fixedAt(fixed ?? 0) : shape)),
        }
        const chainOf = problem.items.map((_, item) =>
          problem.chains.findIndex((chain) => chain.includes(item)),
        )
        const raw = problem.items.map((_, item) =>
          isFixed(item) ? -1 : (acrossChains ? item : (chainOf[item] ?? 0)) % count,
        )
        const used = [...new Set(raw)].filter((group) => group >= 0)
        fc.pre(used.length > 0)
        const among: Fields = {
          groups: raw.map((group) => used.indexOf(group)),
          count: used.length,
          fieldOf: (address) => Math.floor(address / STRIDE),
          within: (address) => address % STRIDE,
        }
        const fields = drawn.channels.length
        const found = solveInFields(problem, among, fields, { steps: 1e6 })
        const best = triedThrough(problem, among, fields)
        const least = scoreOf(problem, best)
        expect(found.score).toEqual(scoreOf(problem, found.choice))
        // Where more groups than fields have to share one, only a bound is certain.
        const cannotShare = among.count <= fields
        if (cannotShare) expect(found.score).toEqual(least)
        if (cannotShare) expect(found.bound).toBeNull()
        expect(compareScores(found.score, least)).toBeGreaterThanOrEqual(0)
        for (const term of found.proven) expect(found.score[term]).toBe(least[term])
        if (found.bound) {
          const before = TERMS.slice(0, TERMS.indexOf(found.bound.term))
          if (before.every((term) => found.score[term] === least[term]))
            expect(found.bound.value).toBeLessThanOrEqual(least[found.bound.term])
        }
        if (found.isLeast) expect(found.choice).toEqual(best)
      },
    ),
    { numRuns: 200 },
  )
})
