import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { anyCrowd, problemOf } from '../../testing/allocations'
import { programs } from '../../testing/plans'
import { posedFor, type Program } from './program'
import { within } from './within'

const solved = (program: Program) => programs(program, { isWhole: true, nodes: 1000, isStopped: () => false })

it('leaves what costs as much as it may, and nothing that costs less or more', () => {
  let tried = 0
  fc.assert(
    fc.property(anyCrowd, (drawn) => {
      const { program } =
        posedFor(problemOf(drawn, 3), [], { errors: 900, breaks: 30, rank: 1 }, 10_000) ?? {}
      if (!program) throw new Error('There is no program.')
      const costOf = (of: Program): number => {
        const { values } = solved(of)
        return values === null
          ? Infinity
          : of.costs.reduce((sum, cost, column) => sum + cost * Math.round(values[column] ?? 0), 0)
      }
      const least = costOf(program)
      if (least === 0 || least === Infinity) return
      tried++
      expect(costOf(within(program, -Infinity, least))).toBe(least)
      expect(solved(within(program, -Infinity, least - 1)).end).toBe('none')
      expect(costOf(within(program, least + 1, Infinity))).toBeGreaterThan(least)
    }),
    { numRuns: 200 },
  )
  expect(tried).toBeGreaterThan(100)
})
