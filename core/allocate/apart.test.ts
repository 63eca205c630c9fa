import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import { joined, type MappingInput } from '../testing/mapped-rigs'
import { apply, moves, plan } from '../testing/plans'
import { layeredTemplates, sending, sendingCc, testController, testRig, type Assigned } from '../testing/rigs'
import { onceTaught } from '../mappings'
import type { Rig } from '../rig'
import type { Plan } from '.'
import { problemBuilder } from './build-problem'
import { askedSenders, troublesOf } from './free'
import { AllocateRequest, type AllocateInput } from './request'
import { solve } from './solver/solve'

const pinned = (number: number) => ({ ...sendingCc(number), pinned: true })

/** Two layers that may share: `k1` of the first is learned at 20, where it clashes; the others are free to go to 21 and 22. */
const layered = (inSecond: Assigned, inFirst: Assigned = {}, more: readonly MappingInput[] = []): Rig =>
  testRig(
    [
      testController(
        'a',
        {},
        {
          templates: layeredTemplates({ 'k1.turn': sendingCc(20), ...inFirst }, inSecond, {
            mode: 'replace',
            gestures: ['k1.turn', 'k2.turn', 'k3.turn'],
          }),
        },
      ),
      testController('b', { 'k1.turn': pinned(20) }),
    ],
    undefined,
    { mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }), ...more] },
  )

/** Layers share; these numbers may be given out, and for pairs only 21. */
const asked = (numbers: readonly number[]): AllocateInput => ({
  kind: 'replan',
  policy: { kind: 'keep' },
  shareLayers: true,
  rules: [
    { kind: 'avoid', message: 'cc14', low: 22, high: 22 },
    ...Array.from({ length: 128 }, (_, number) => number)
      .filter((number) => !numbers.includes(number))
      .map((number) => ({ kind: 'avoid' as const, low: number, high: number })),
  ],
})

const planned = (rig: Rig): Plan => plan(rig, asked([21, 22]))

/** Who moves what is not its own, once a plan is made and what it made unheard is taught again. */
const ghostsOnceTaught = (rig: Rig, { edits }: Plan): string[] =>
  check(onceTaught(rig, apply(rig, edits)).rig).findings.flatMap(({ rule, message }) =>
    rule === 'ghost' ? [message] : [],
  )

const wantedPair = sending({ kind: 'cc14', number: 'wanted' })

describe('where layers share, a parameter that is taught again', () => {
  it('goes where no control of another layer moves it, and leaves that one the only number it can have', () => {
    const rig = layered({ 'k2.turn': wantedPair })
    const found = planned(rig)
    expect(moves(found)).toEqual(['a/k1.turn: 1:cc20 → 1:cc22', 'a/k2.turn: null → 1:cc21+53'])
    expect(found.score.errors).toBe(0)
    expect(ghostsOnceTaught(rig, found)).toEqual([])
  })

  it('does not go where one sends that stays', () => {
    const rig = layered({ 'k2.turn': pinned(21) })
    const found = planned(rig)
    expect(moves(found)).toEqual(['a/k1.turn: 1:cc20 → 1:cc22'])
    expect(ghostsOnceTaught(rig, found)).toEqual([])
  })

  it('may share with its own gesture', () => {
    const rig = layered({ 'k1.turn': sendingCc(20), 'k2.turn': wantedPair })
    const found = planned(rig)
    expect(moves(found)).toEqual([
      'a/k1.turn: 1:cc20 → 1:cc22',
      'a/k1.turn: 1:cc20 → 1:cc22',
      'a/k2.turn: null → 1:cc21+53',
    ])
    expect(ghostsOnceTaught(rig, found)).toEqual([])
  })

  it.each([
    [
      'is taught by the first layer of its gesture: others may share with the second',
      layered({ 'k1.turn': wantedPair }, { 'k2.turn': wantedPair }),
      [21, 22],
      0,
    ],
    [
      'is moved by nobody who goes to the number of its first layer, though that one stays',
      layered({ 'k1.turn': sendingCc(20), 'k2.turn': wantedPair }, { 'k1.turn': pinned(21) }),
      [21, 22],
      1,
    ],
    [
      'goes nowhere if there is only the number of one who stays',
      layered({ 'k2.turn': pinned(21) }),
      [21],
      1,
    ],
    [
      'shares with who moves a parameter of its own there',
      layered({ 'k2.turn': sendingCc(20) }, {}, [joined('a/k2.turn', 'p2', { learnedAt: '1:cc20' })]),
      [21],
      0,
    ],
    [
      'does not share with who moves one of its own elsewhere, by another layer',
      layered({ 'k2.turn': sendingCc(20) }, { 'k2.turn': pinned(22) }, [
        joined('a/k2.turn', 'p2', { learnedAt: '1:cc22' }),
      ]),
      [21],
      1,
    ],
    [
      'stays together with who is there now, where none of them can go',
      layered({ 'k2.turn': sendingCc(20) }),
      [],
      2,
    ],
    [
      'is moved by nobody who comes to where its first layer stays, though it may move',
      testRig(
        [
          testController(
            'a',
            {},
            {
              templates: layeredTemplates(
                { 'k1.turn': sendingCc(21) },
                { 'k1.turn': sendingCc(20), 'k2.turn': sending({ kind: 'cc', number: 'wanted' }) },
                { mode: 'replace', gestures: ['k1.turn', 'k2.turn'] },
              ),
            },
          ),
        ],
        undefined,
        { mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })] },
      ),
      [21],
      1,
    ],
    [
      'keeps no two others apart who are together now elsewhere',
      layered({ 'k2.turn': sendingCc(21), 'k3.turn': sendingCc(21) }),
      [],
      2,
    ],
  ])('%s', (_, rig, numbers, errors) => {
    const checked = check(rig)
    const request = AllocateRequest.parse(asked(numbers))
    const troubles = troublesOf(checked)
    const { free } = askedSenders(checked, request, troubles)
    const problems = problemBuilder(checked.context, request, free)(troubles, { holdsApart: true })
    const { problem } = problems.build(new Set(), new Set())
    const { choice, score } = solve(problem, { steps: 1000 })
    expect(score.errors).toBe(errors)
    const taken = choice.flatMap((candidate, item) => [...(problem.items[item]?.takes[candidate] ?? [])])
    expect(new Set(taken).size).toBe(taken.length)
  })
})
