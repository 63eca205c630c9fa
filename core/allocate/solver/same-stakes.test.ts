import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, bestByTrying, everyChoice, withStakes } from '../../testing/allocations'
import {
  addressOf,
  compareScores,
  FARTHEST_ON_ONE,
  FIRST_TERMS,
  NOWHERE,
  scoreOf,
  type Problem,
} from './problem'
import { laidAtSameStakes } from './same-stakes'

/** The same problem with its addresses as far from each other as channels are. */
const onChannels = (problem: Problem): Problem => ({
  ...problem,
  items: problem.items.map((shape) => ({
    ...shape,
    addresses: shape.addresses.map((address) =>
      address === NOWHERE ? NOWHERE : Math.floor(address / 128) * 2 * FARTHEST_ON_ONE + (address % 128),
    ),
  })),
})

it('lets everyone cost as much as before of what matters most, on the same channel, and is best beside that', () => {
  let better = 0
  fc.assert(
    fc.property(anyCrowd, fc.integer({ min: 0, max: 3 }), fc.nat(), (drawn, stays, nth) => {
      const problem = onChannels(withStakes(drawn, stays))
      const all = [...everyChoice(problem)]
      const start = all[nth % all.length] ?? []
      expect(laidAtSameStakes(problem, start, (_, own) => own)).toEqual(start)
      const found = laidAtSameStakes(problem, start, (part) => bestByTrying(part))
      const channelOf = (address: number): number => Math.floor(address / (2 * FARTHEST_ON_ONE))
      problem.items.forEach(({ costs }, item) => {
        const [now, then] = [start[item] ?? 0, found[item] ?? 0]
        for (const term of FIRST_TERMS) expect(costs[term][then]).toBe(costs[term][now])
        expect(channelOf(addressOf(problem, item, found))).toBe(channelOf(addressOf(problem, item, start)))
      })
      const taken = found.flatMap((candidate, item) => [...(problem.items[item]?.takes[candidate] ?? [])])
      expect(new Set(taken).size).toBe(taken.length)
      const difference = compareScores(scoreOf(problem, found), scoreOf(problem, start))
      expect(difference).toBeLessThanOrEqual(0)
      if (difference < 0) better++
    }),
    { numRuns: 150 },
  )
  // About 35 are.
  expect(better).toBeGreaterThan(10)
})
