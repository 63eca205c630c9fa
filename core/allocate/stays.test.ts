import fc from 'fast-check'
import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { joined } from '../testing/mapped-rigs'
import { layeredTemplates, sending, sendingCc, testController, testRig } from '../testing/rigs'
import { problemBuilder } from './build-problem'
import { askedSenders, troublesOf } from './free'
import { AllocateRequest } from './request'
import { teachingOf } from './teaching'

const number = fc.constantFrom(20, 20, 21, 22)
const message = fc.oneof(
  { arbitrary: number.map((own) => sendingCc(own)), weight: 3 },
  { arbitrary: number.map((own) => sending({ kind: 'cc14', number: own })), weight: 1 },
)
const some = fc.dictionary(fc.constantFrom('k1.turn', 'k2.turn', 'k3.turn'), message, { maxKeys: 3 })
const gesture = fc.constantFrom('a/k1.turn', 'a/k2.turn', 'a/k3.turn', 'b/k1.turn')
const mapping = fc.record({ gesture, parameter: fc.constantFrom('p1', 'p2'), number })

it('lets everything be left where it is, whatever is in error, shared and held apart', () => {
  const given = fc.record({
    x: some,
    y: some,
    b: some,
    mappings: fc.uniqueArray(mapping, {
      maxLength: 4,
      selector: ({ gesture: from, parameter }) => `${from} ${parameter}`,
    }),
    shareLayers: fc.boolean(),
    isRepair: fc.boolean(),
  })
  let apart = 0
  fc.assert(
    fc.property(given, ({ x, y, b, mappings, shareLayers, isRepair }) => {
      const templates = layeredTemplates(x, y, {
        mode: 'replace',
        gestures: ['k1.turn', 'k2.turn', 'k3.turn'],
      })
      const rig = testRig([testController('a', {}, { templates }), testController('b', b)], undefined, {
        mappings: mappings.map((own) =>
          joined(own.gesture, own.parameter, { learnedAt: `1:cc${own.number}` }),
        ),
      })
      const checked = check(rig)
      const kind = isRepair ? 'repair' : 'replan'
      const request = AllocateRequest.parse({ kind, policy: { kind: 'keep' }, shareLayers })
      const troubles = troublesOf(checked)
      const { free } = askedSenders(checked, request, troubles)
      const problemsFor = problemBuilder(checked.context, request, free)
      const teaching = teachingOf(checked.context, free, troubles) ?? new Map()
      for (const holdsApart of [false, true]) {
        const problems = problemsFor(troubles, { holdsApart, teaching })
        if (problems.isApart) apart++
        const { problem, senders, isLeft } = problems.build(new Set(), new Set())
        const taken = problem.items.flatMap((shape, item) => {
          // A mapping that several serve is lost by its last candidate.
          if (item >= senders.length) return [...(shape.takes.at(-1) ?? [])]
          const left = [...shape.addresses.keys()].find((candidate) => isLeft(item, candidate))
          return [...(shape.takes[left ?? shape.leave] ?? [])]
        })
        expect(new Set(taken).size).toBe(taken.length)
      }
    }),
    { numRuns: 150 },
  )
  expect(apart).toBeGreaterThan(0)
})
