import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { laidAnew } from './anew'
import {
  anyCrowd,
  anyHalvingShape,
  anySmall,
  bestByTrying,
  problemOf,
  shapeTaking,
  withStakes,
  type Drawn,
} from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { referenceOptimum } from '../../testing/reference-solver'
import { compareScores, scoreOf, type Problem } from './problem'
import type { SolveProgram } from './program'
import { solve } from './solve'
import { cases } from '../../testing/cases'

const RANKS = [0, 0, 0, 1, 2, 2, 4]

it('scores as integer programming does, term by term', async () => {
  for (const [gestures, channels, step] of [
    [10, 1, 5],
    [12, 1, 4],
    [14, 2, 2],
    [16, 2, 3],
    [28, 2, 3],
  ] as const) {
    const drawn = {
      channels: Array.from({ length: channels }, (_, channel) =>
        Array.from({ length: 60 }, (__, number) => ({
          number,
          rank: RANKS[(number * 5 + channel) % 7] ?? 0,
        })).filter(({ number }) => (number * number + channel) % (step + 1) !== 0),
      ),
      chains: Array.from({ length: Math.ceil(gestures / 4) }, (_, index) => ({
        length: Math.min(4, gestures - index * 4),
        isPair: index === 1,
      })),
      outside: [3, 4, 5, 20, 21],
    }
    const problem = problemOf(drawn)
    const found = solve(problem, { steps: 400_000 })
    expect(found.bound).toBeNull()
    expect(found.score).toEqual((await referenceOptimum(problem)).score)
  }
}, 120_000)

it('lays a few chains anew, never worse and nothing taken twice, and better where there is room for it', () => {
  const channels = [Array.from({ length: 60 }, (_, number) => ({ number, rank: number % 9 === 0 ? 4 : 0 }))]
  const chains = Array.from({ length: 8 }, (_, index) => ({ length: 3 + (index % 3), isPair: index === 2 }))
  const problem = problemOf({ channels, chains, outside: [4, 5] })
  // Every control two numbers from the last, or nowhere: as broken as can be.
  let next = 0
  const start = problem.items.map(({ addresses, takes }) => {
    if ((takes[0]?.length ?? 0) > 1) return addresses.length - 1
    const at = addresses.indexOf(next)
    next += 2
    return at < 0 ? addresses.length - 1 : at
  })
  const found = laidAnew(problem, start, {
    times: 12,
    seed: 7,
    solveFew: (few) => solve(few, { steps: 1000 }).choice,
  })
  const taken = found.flatMap((candidate, item) => [...(problem.items[item]?.takes[candidate] ?? [])])
  expect(new Set(taken).size).toBe(taken.length)
  expect(compareScores(scoreOf(problem, found), scoreOf(problem, start))).toBeLessThan(0)
  const once = laidAnew(problem, found, { times: 4, seed: 3, solveFew: (_, was) => was })
  expect(once).toEqual(found)
})

/** One channel with these numbers and ranks, and chains of these lengths. */
const drawnOf = (
  numbers: ReadonlyArray<[number: number, rank: number]>,
  lengths: ReadonlyArray<[length: number, isPair: boolean]>,
  outside: number[] = [],
): Drawn => ({
  channels: [numbers.map(([number, rank]) => ({ number, rank }))],
  chains: lengths.map(([length, isPair]) => ({ length, isPair })),
  outside,
})

/** Problems of which the best is not found at once: one more is lost of what was learned, or left. */
const FOUND_WORSE: Array<[Drawn, number]> = [
  [
    drawnOf(
      [
        [0, 2],
        [1, 0],
        [2, 4],
        [4, 0],
        [6, 4],
      ],
      [
        [1, false],
        [2, true],
        [1, false],
      ],
    ),
    3,
  ],
  [
    drawnOf(
      [
        [2, 2],
        [5, 1],
        [9, 4],
      ],
      [
        [1, true],
        [3, true],
        [3, false],
      ],
      [0],
    ),
    0,
  ],
]

it('gives a whole choice and its bound where it has no steps', () => {
  fc.assert(
    fc.property(anySmall, fc.integer({ min: 0, max: 3 }), (drawn, stays) => {
      const problem = withStakes(drawn, stays)
      const quick = solve(problem, { steps: 0 })
      const best = solve(problem, { steps: 1e6 })
      expect(compareScores(best.score, quick.score)).toBeLessThanOrEqual(0)
      if (quick.bound) expect(quick.bound.value).toBeLessThanOrEqual(best.score[quick.bound.term])
      for (const term of quick.proven) expect(quick.score[term]).toBe(best.score[term])
      const taken = quick.choice.flatMap((candidate, item) => [
        ...(problem.items[item]?.takes[candidate] ?? []),
      ])
      expect(new Set(taken).size).toBe(taken.length)
    }),
    { examples: FOUND_WORSE },
  )
})

const anyFew = anySmall.filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5)

/** A few items of which each takes two or three of few things, with what every candidate costs. */
const anyHalving = fc
  .array(anyHalvingShape(5, { stale: 2, warnings: 2, rank: 3 }, { errors: 1 }), {
    minLength: 2,
    maxLength: 4,
  })
  .map((items): Problem => ({ items, chains: items.map((_, item) => [item]), resources: 5 }))

/** Problems of every shape that are small enough to be tried through. */
const anyProblem = fc.oneof(
  anyFew.map((drawn) => problemOf(drawn, 3)),
  anyCrowd.map((drawn) => problemOf(drawn)),
  fc.tuple(anyFew, fc.nat({ max: 3 })).map(([drawn, stays]) => withStakes(drawn, stays)),
  anyHalving,
)

describe.each([
  ['by prices alone', {}],
  ['by linear programs', { programs }],
] as const)('%s', (_, aids) => {
  it('finds what trying everything finds, to the last address', () => {
    fc.assert(
      fc.property(anyProblem, (problem) => {
        const found = solve(problem, { steps: 1e6, ...aids })
        const best = bestByTrying(problem)
        expect(found.score).toEqual(scoreOf(problem, best))
        expect(found.bound).toBeNull()
        if (found.isLeast) expect(found.choice).toEqual(best)
      }),
      cases(150),
    )
  })
})

it('claims nothing that is not so, whatever prices and choices it is given', () => {
  fc.assert(
    fc.property(anyFew, fc.infiniteStream(fc.double({ min: -3, max: 3, noNaN: true })), (drawn, said) => {
      const next = (): number => Number(said.next().value ?? 0)
      const lying: SolveProgram = ({ costs, most }, { isWhole }) => ({
        end: isWhole ? 'open' : 'least',
        bound: -Infinity,
        values: costs.map(() => (next() > 0 ? 1 : 0)),
        duals: isWhole ? null : most.map(next),
      })
      const problem = problemOf(drawn, 3)
      const found = solve(problem, { steps: 1000, programs: lying })
      const taken = found.choice.flatMap((candidate, item) => [
        ...(problem.items[item]?.takes[candidate] ?? []),
      ])
      expect(new Set(taken).size).toBe(taken.length)
      expect(found.score).toEqual(scoreOf(problem, found.choice))
      const least = scoreOf(problem, bestByTrying(problem))
      for (const term of found.proven) expect(found.score[term]).toBe(least[term])
      if (found.bound) expect(found.bound.value).toBeLessThanOrEqual(found.score[found.bound.term])
      if (found.isLeast) expect(found.choice).toEqual(bestByTrying(problem))
    }),
    cases(53),
  )
})

it('gives a choice with what is known of it where it is stopped amid a program', () => {
  const channels = [Array.from({ length: 30 }, (_, number) => ({ number, rank: (number * 7) % 5 }))]
  const problem = problemOf({
    channels,
    chains: [8, 6, 9, 5].map((length) => ({ length, isPair: false })),
    outside: [3],
  })
  const whole = solve(problem, { steps: 1e5, programs })
  const stopped = solve(problem, {
    steps: 1e5,
    programs: (program, options) => programs(program, { ...options, isStopped: () => true }),
    onProgress: () => true,
  })
  expect(stopped.choice).toHaveLength(problem.items.length)
  expect(compareScores(whole.score, stopped.score)).toBeLessThanOrEqual(0)
  if (stopped.bound) expect(stopped.bound.value).toBeLessThanOrEqual(whole.score[stopped.bound.term])
})

it('loses at once nothing that was learned in a large problem, where another can give way', () => {
  const groups = Array.from({ length: 220 }, (_, group) => group)
  // In each, whoever comes first would take what only the other has learned.
  const items = groups.flatMap((group) => [
    shapeTaking([[2 * group], [2 * group + 1]]),
    shapeTaking([[2 * group], [2 * group + 1]], [0, 1]),
  ])
  const all = shapeTaking(groups.map((group) => [2 * group]))
  const problem = {
    items: [...items, all],
    chains: [...items, all].map((_, item) => [item]),
    resources: 2 * groups.length,
  }
  expect(solve(problem, { steps: 0 }).score).toMatchObject({ errors: 1, stale: 0 })
})
