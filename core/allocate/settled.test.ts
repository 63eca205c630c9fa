import { describe, expect, it } from 'vitest'
import { check, type Finding } from '../conflicts'
import { onceTaught } from '../mappings'
import type { Rig } from '../rig'
import { joined } from '../testing/mapped-rigs'
import { apply, moves, plan } from '../testing/plans'
import { layeredTemplates, sending, sendingCc, testController, testRig, type Assigned } from '../testing/rigs'
import { printTag } from '../midi'
import type { AllocateInput } from './request'
import { TERMS, type Plan } from '.'
import { failedOf, withoutHopes } from './settled'
import type { Teaching } from './teaching'

const pinned = (number: number, more: object = {}) => ({ ...sendingCc(number, more), pinned: true })

/** Only numbers from 20 up to the last that is open are free. */
const openTo = (last: number) => [
  { kind: 'avoid' as const, low: 0, high: 19 },
  { kind: 'avoid' as const, low: last + 1, high: 127 },
]

/** The errors that there are once a plan is made, and what it makes unheard is taught again. No rig here has anything that chooses a layer. */
const errorsOnceTaught = (rig: Rig, { edits }: Plan): Finding[] =>
  check(onceTaught(rig, apply(rig, edits)).rig).findings.filter(
    ({ severity, rule }) => severity === 'error' && rule !== 'silent',
  )

/** Knob 1 sets off what knob 2 was learned for, and what moves knob 1 in the other layer is learned for it. */
const setOff = (knob2: number) => ({
  controller: testController(
    'a',
    {},
    {
      templates: layeredTemplates(
        { 'k1.turn': sendingCc(21) },
        { 'k1.turn': sendingCc(20) },
        { mode: 'replace', gestures: ['k1.turn'] },
        { 'k2.turn': pinned(knob2) },
      ),
    },
  ),
  mappings: [
    joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
    joined('a/k2.turn', 'p1', { learnedAt: '1:cc21' }),
  ],
})

/** Knob 1 sets off in one layer what another controller was learned for, and in the other has to go: there is one number for both. */
const setOffForGood = (channel: number) => ({
  controllers: [
    testController(
      'c',
      {},
      {
        templates: layeredTemplates(
          { 'k1.turn': sendingCc(22, { channel }) },
          { 'k1.turn': sendingCc(21, { channel }) },
          { mode: 'replace', gestures: ['k1.turn'] },
        ),
      },
    ),
    testController('e', { 'k1.turn': pinned(22, { channel }) }),
  ],
  mappings: [
    joined('c/k1.turn', 'p2', { learnedAt: `${channel}:cc22` }),
    joined('e/k1.turn', 'p2', { learnedAt: `${channel}:cc21` }),
  ],
})

describe('an error that may end by what is taught elsewhere', () => {
  const rigWith = (knob2: number, other?: ReturnType<typeof sendingCc>): Rig => {
    const { controller, mappings } = setOff(knob2)
    const others = other ? [testController('b', { 'k1.turn': other })] : []
    return testRig([controller, ...others], undefined, { mappings })
  }
  const planned = (rig: Rig, last: number): Plan =>
    plan(rig, { kind: 'replan', policy: { kind: 'keep' }, rules: openTo(last) })

  it('ends so where that is the best, and nobody in it moves', () => {
    const rig = rigWith(20)
    const found = planned(rig, 22)
    expect(moves(found)).toEqual(['a/k1.turn: 1:cc20 → 1:cc22'])
    expect(found).toMatchObject({ score: { errors: 0, stale: 1 }, leaves: [], proven: TERMS, bound: null })
    expect(found.stale).toHaveLength(1)
    expect(errorsOnceTaught(rig, found)).toEqual([])
  })

  it('is proven to stay where nothing can be lost that would be taught elsewhere then', () => {
    expect(planned(rigWith(22), 22)).toMatchObject({ score: { errors: 1 }, proven: TERMS, bound: null })
    expect(planned(rigWith(20), 21)).toMatchObject({ score: { errors: 2 }, proven: TERMS, bound: null })
  })

  it('does not end for whom another error does not let stay', () => {
    expect(planned(rigWith(20, pinned(21)), 22)).toMatchObject({ score: { errors: 1 }, proven: TERMS })
    // Who sends the same as knob 1 has to go then, and there is no number left.
    const rig = rigWith(20, sendingCc(21))
    const found = planned(rig, 22)
    expect(found).toMatchObject({ score: { errors: 1, stale: 1 }, proven: TERMS, bound: null })
    expect(found.shortages.flatMap(({ at }) => at.map(({ controller }) => controller))).toEqual(['b'])
  })

  it('is left where it does not end once that is taught, though that could have been', () => {
    const { controllers, mappings } = setOffForGood(1)
    const rig = testRig(controllers, undefined, { mappings })
    const found = planned(rig, 22)
    expect(found).toMatchObject({ score: { errors: 1 }, proven: [], bound: { term: 'errors', value: 0 } })
    expect(errorsOnceTaught(rig, found).length).toBeGreaterThan(0)
  })

  it('ends though another does not', () => {
    const [ends, stays] = [setOff(20), setOffForGood(2)]
    const rig = testRig([ends.controller, ...stays.controllers], undefined, {
      mappings: [...ends.mappings, ...stays.mappings],
    })
    const found = planned(rig, 22)
    expect(moves(found)).toContain('a/k1.turn: 1:cc20 → 1:cc22')
    expect(found).toMatchObject({ score: { errors: 1 }, bound: { term: 'errors', value: 0 } })
    expect(
      errorsOnceTaught(rig, found).flatMap(({ at }) => at.map(({ controller }) => controller)),
    ).not.toContain('a')
  })

  it('is why another moves, who is in no error', () => {
    // A pair in the other layer sets off what knob 1 is learned for, and has no other numbers.
    const x = { 'k1.turn': sendingCc(52) }
    const y = { 'k2.turn': sending({ kind: 'cc14', number: 20 }) }
    const withTemplates = (
      inX: Assigned,
      inY: Assigned,
      ...others: Array<ReturnType<typeof testController>>
    ): Rig => {
      const templates = layeredTemplates(inX, inY, { mode: 'replace', gestures: ['k1.turn', 'k2.turn'] })
      return testRig([testController('a', {}, { templates }), ...others], undefined, {
        mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc52' })],
      })
    }
    const rules = [...openTo(54), { kind: 'avoid' as const, low: 21, high: 51 }]
    const why =
      'Knob 2 in Y (A) moves D · One at 1:cc52, which belongs to Knob 1 (A). That ends when what this one moves is taught elsewhere.'
    const reasons = (rig: Rig, more: AllocateInput['rules'] = []): string[] =>
      plan(rig, { kind: 'replan', policy: { kind: 'keep' }, rules: [...rules, ...more] }).changes.map(
        ({ at, to, reason }) => `${at.controller}/${at.layer}/${at.gesture} ${printTag(to)}: ${reason}`,
      )
    expect(reasons(withTemplates(x, y))).toEqual([`a/x/k1.turn 1:cc53: ${why}`])
    // It is another error of the pair that is named where that ends by itself.
    const b = testController('b', { 'k1.turn': sendingCc(20) })
    expect(reasons(withTemplates(x, y, b))).toEqual([
      `a/x/k1.turn 1:cc53: ${why}`,
      'b/null/k1.turn 1:cc54: Knob 2 in Y (A) and Knob 1 (B) meet at 1:cc20 at D.',
    ])
    const prefers = { kind: 'prefer' as const, low: 53, high: 54 }
    expect(reasons(withTemplates(x, { ...y, 'k1.turn': sendingCc(30) }), [prefers])).toEqual([
      `a/x/k1.turn 1:cc53: ${why}`,
      'a/y/k1.turn 1:cc54: The house rules prefer this number.',
    ])
  })
})

describe('hopes', () => {
  const failed = (barred: string[], groups: string[][], inError: string[] = []): readonly string[] =>
    failedOf(['a', 'b'], new Set(inError), { barred: new Set(barred), groups })

  it('fail who may not stay alone, or not beside others who are in no error', () => {
    expect(failed([], [])).toEqual([])
    expect(failed(['b', 'c'], [])).toEqual(['b'])
    expect(
      failed(
        [],
        [
          ['a', 'c'],
          ['c', 'd'],
        ],
      ),
    ).toEqual(['a'])
    expect(failed([], [['a', 'c']], ['c'])).toEqual([])
    expect(failed([], [['a', 'c', 'd']], ['c'])).toEqual(['a'])
  })

  it('that failed are given up, and no others', () => {
    const teaching: Teaching = new Map([
      ['a', []],
      ['b', []],
    ])
    expect([...(withoutHopes(teaching, ['a'])?.keys() ?? [])]).toEqual(['b'])
    expect(withoutHopes(teaching, ['a', 'b'])).toBeNull()
  })
})
