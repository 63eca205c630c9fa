import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anySmall, bestByTrying, problemOf, withMapping } from '../../testing/allocations'
import { scoreAlone } from './alone'
import { assign } from './assign'
import { solveInFields, STAYING, type Fields } from './fields'
import {
  comparePlaced,
  compareScores,
  forOwnTerms,
  NOWHERE,
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
  costs: forOwnTerms(() => new Uint16Array(1)),
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

it('says the least that chains could score by themselves: never more than the best, with mappings that several serve', () => {
  fc.assert(
    fc.property(
      anySmall.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 4),
      fc.integer({ min: 1, max: 3 }),
      fc.integer({ min: 0, max: 10 }),
      (drawn, leaders, from) => {
        const plain = problemOf(drawn, 3)
        const problem = withMapping(plain, Math.min(leaders, plain.items.length), from)
        const best = scoreOf(problem, bestByTrying(problem))
        expect(compareScores(scoreAlone(problem), best)).toBeLessThanOrEqual(0)
      },
    ),
    { numRuns: 300 },
  )
})

it('gives each group a field of its own as well as trying every way does', () => {
  fc.assert(
    fc.property(
      anySmall.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5),
      fc.integer({ min: 1, max: 3 }),
      fc.boolean(),
      fc.option(fc.integer({ min: 0, max: 12 }), { nil: null }),
      fc.option(
        fc.record({ leaders: fc.integer({ min: 1, max: 2 }), from: fc.integer({ min: 0, max: 10 }) }),
        {
          nil: null,
        },
      ),
      (drawn, count, acrossChains, fixed, mapping) => {
        const plain = problemOf(drawn, 3)
        const isFixed = (item: number): boolean => fixed !== null && item === 1
        const bare: Problem = {
          ...plain,
          items: plain.items.map((shape, item) => (isFixed(item) ? fixedAt(fixed ?? 0) : shape)),
        }
        const leaders = Math.min(mapping?.leaders ?? 0, bare.items.length)
        const problem = mapping === null ? bare : withMapping(bare, leaders, mapping.from)
        const chainOf = bare.items.map((_, item) => bare.chains.findIndex((chain) => chain.includes(item)))
        const raw = bare.items.map((_, item) =>
          isFixed(item) ? -1 : (acrossChains ? item : (chainOf[item] ?? 0)) % count,
        )
        const used = [...new Set(raw)].filter((group) => group >= 0)
        fc.pre(used.length > 0)
        const groups = raw.map((group) => used.indexOf(group))
        const own = new Set(groups.slice(0, leaders))
        const among: Fields = {
          groups: mapping === null ? groups : [...groups, own.size === 1 ? (groups[0] ?? STAYING) : STAYING],
          count: used.length,
          fieldOf: (address) => Math.floor(address / STRIDE),
          within: (address) => address % STRIDE,
        }
        const fields = drawn.channels.length
        const found = solveInFields(problem, among, fields, { steps: 1e6 })
        const best = triedThrough(problem, among, fields)
        const least = scoreOf(problem, best)
        expect(found.score).toEqual(scoreOf(problem, found.choice))
        // Where more groups than fields have to share one, or serve one mapping, only a bound is certain.
        const isExact = among.count <= fields && (mapping === null || (own.size === 1 && !own.has(STAYING)))
        if (isExact) expect(found.score).toEqual(least)
        if (isExact) expect(found.bound).toBeNull()
        expect(compareScores(found.score, least)).toBeGreaterThanOrEqual(0)
        for (const term of found.proven) expect(found.score[term]).toBe(least[term])
        if (found.bound) {
          const before = TERMS.slice(0, TERMS.indexOf(found.bound.term))
          if (before.every((term) => found.score[term] === least[term]))
            expect(found.bound.value).toBeLessThanOrEqual(least[found.bound.term])
        }
        if (found.isLeast) expect(comparePlaced(problem, found.choice, best)).toBe(0)
      },
    ),
    { numRuns: 400 },
  )
})
