import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { crowdedRig } from '../testing/crowded-rigs'
import { joined, type MappingInput } from '../testing/mapped-rigs'
import { programs } from '../testing/plans'
import { problemFor } from '../testing/problem-for'
import { referenceOptimum } from '../testing/reference-solver'
import {
  layeredTemplates,
  sending,
  testController,
  testDestination,
  testRig,
  type Assigned,
} from '../testing/rigs'
import type { AllocateInput } from './request'
import { TERMS } from './solver/problem'
import { solve } from './solver/solve'
import { cases } from '../testing/cases'

const channel = fc.constantFrom(1, 1, 2)
/** What wants a number, or has one that many have: of every kind that has numbers. */
const message = fc.oneof(
  fc.record({
    kind: fc.constantFrom('cc' as const, 'nrpn' as const),
    channel,
    number: fc.constantFrom<Array<number | 'wanted'>>('wanted', 20, 21, 22),
  }),
  fc.record({
    kind: fc.constant('cc14' as const),
    channel,
    number: fc.constantFrom<Array<number | 'wanted'>>('wanted', 20, 21),
  }),
  fc.record({ kind: fc.constant('program' as const), channel, number: fc.constant('wanted' as const) }),
  fc.record({ channel, number: fc.constantFrom<Array<number | 'wanted'>>('wanted', 60, 61) }).map((rest) => ({
    kind: 'note' as const,
    channel: rest.channel,
    keys: { kind: 'one' as const, number: rest.number },
  })),
)
const table = fc
  .uniqueArray(fc.constantFrom('k1', 'k2', 'k3', 'k4', 'k5'), { minLength: 1, maxLength: 5 })
  .chain((ids) =>
    fc
      .tuple(...ids.map(() => message))
      .map((messages): Assigned =>
        Object.fromEntries(messages.map((each, index) => [`${ids[index]}.turn`, sending(each)])),
      ),
  )
const mapping = fc
  .record({
    gesture: fc.constantFrom('a/k1.turn', 'a/k2.turn', 'b/k1.turn'),
    parameter: fc.constantFrom('p1', 'p2'),
    learnedAt: fc.constantFrom('1:cc20', '1:cc21', '2:cc20', '1:nrpn20'),
  })
  .map(({ gesture, parameter, learnedAt }): MappingInput => joined(gesture, parameter, { learnedAt }))

/** Controllers with and without layers at two destinations, with few numbers to give: often too few. */
const anyCrowd = fc
  .record({
    x: table,
    y: table,
    base: table,
    b: table,
    mappings: fc.uniqueArray(mapping, { maxLength: 3, selector: ({ id }) => id }),
    isMerged: fc.boolean(),
    kind: fc.constantFrom('replan' as const, 'repair' as const, 'fill' as const),
    shareLayers: fc.boolean(),
    isWide: fc.boolean(),
    // Often nothing is free there.
    high: fc.constantFrom(20, 20, 20, 21, 22, 23, 24, 25, 26),
  })
  .map(({ x, y, base, b, mappings, isMerged, kind, shareLayers, isWide, high }) => {
    const stack = { mode: 'replace' as const, gestures: ['k1.turn', 'k2.turn'] }
    const within = (own: Assigned, isIn: boolean): Assigned =>
      Object.fromEntries(Object.entries(own).filter(([key]) => stack.gestures.includes(key) === isIn))
    const hears = isMerged ? { playing: { channels: { kind: 'merged' as const } } } : {}
    const rig = testRig(
      [
        testController(
          'a',
          {},
          {
            templates: layeredTemplates(within(x, true), within(y, true), stack, within(base, false)),
          },
        ),
        testController('b', b),
      ],
      [testDestination('d'), testDestination('e', { hears })],
      { mappings },
    )
    const avoid = (each: 'cc' | 'note' | 'nrpn' | 'program', low: number, top: number) => ({
      kind: 'avoid' as const,
      message: each,
      low,
      high: top,
    })
    const request: AllocateInput = {
      kind,
      shareLayers,
      policy: isWide ? { kind: 'among', channels: [1, 2] } : { kind: 'keep' },
      rules: [
        avoid('cc', 0, 19),
        avoid('cc', high, 51),
        avoid('cc', 54, 127),
        avoid('nrpn', 3, 127),
        avoid('note', 3, 59),
        avoid('note', 63, 127),
        avoid('program', 2, 127),
      ],
    }
    return { rig, request }
  })

it('is as good as integer programming, term by term, for every kind of number, in layers, and where there is too little', async () => {
  let overfull = 0
  await fc.assert(
    fc.asyncProperty(anyCrowd, async ({ rig, request }) => {
      const problem = problemFor(rig, request)
      const { score } = await referenceOptimum(problem)
      if (score.errors > 0) overfull++
      // With linear programs, and without them as where a problem is too large for these.
      for (const aids of [{ programs }, {}]) {
        const found = solve(problem, { steps: 200_000, ...aids })
        if (found.bound === null) expect(found.score).toEqual(score)
        for (const term of found.proven) expect(found.score[term]).toBe(score[term])
        const before = found.bound ? TERMS.slice(0, TERMS.indexOf(found.bound.term)) : []
        if (found.bound && before.every((term) => found.score[term] === score[term]))
          expect(found.bound.value).toBeLessThanOrEqual(score[found.bound.term])
        if ('programs' in aids) expect(found.bound).toBeNull()
      }
    }),
    cases(10),
  )
  expect(overfull).toBeGreaterThan(0)
}, 180_000)

it('is as good as that where linear programs leave broken columns', async () => {
  const { rig, request } = crowdedRig({ seed: 39659, gestures: 64, channels: 2, full: 0.7 })
  const problem = problemFor(rig, request)
  const found = solve(problem, { steps: 200_000, programs })
  expect(found.score).toEqual((await referenceOptimum(problem)).score)
  expect(found.bound).toBeNull()
}, 120_000)
