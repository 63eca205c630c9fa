import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyEdit } from '../../testing/edits'
import { anyRig, sendingCc, testController, testRig } from '../../testing/rigs'
import { parseRig, type Rig } from '..'
import { EditError, perform, redone, undone, type RigEdit, type Step } from '.'
import { cases } from '../../testing/cases'

/** Make edits one by one, leaving out those that are refused. */
function performAll(rig: Rig, edits: readonly RigEdit[]): { rig: Rig; steps: Step[] } {
  const steps: Step[] = []
  for (const edit of edits) {
    try {
      const done = perform(rig, 'edit', [edit])
      rig = done.rig
      steps.push(done.step)
    } catch (error) {
      expect(error).toBeInstanceOf(EditError)
    }
  }
  return { rig, steps }
}

type HouseRule = Rig['houseRules'][number]
const houseRules = (...given: Array<Partial<HouseRule>>): RigEdit => ({
  type: 'rig-set',
  set: {
    houseRules: given.map((each) => ({
      id: 'h',
      kind: 'avoid',
      message: 'cc',
      channel: null,
      low: 0,
      high: 13,
      controller: null,
      block: null,
      memo: '',
      ...each,
    })),
  },
})

describe('edits', () => {
  it('leave a valid rig, and any sequence of them undone gives the rig before, redone the rig after', () => {
    fc.assert(
      fc.property(anyRig, fc.array(anyEdit, { maxLength: 12 }), (before, edits) => {
        const { rig: after, steps } = performAll(before, edits)
        expect(parseRig(after)).toEqual({ ok: true, rig: after })
        const back = steps.toReversed().reduce(undone, after)
        expect(back).toEqual(before)
        expect(steps.reduce(redone, back)).toEqual(after)
      }),
      cases(60),
    )
  })

  it('are all made, or none', () => {
    const rig = testRig([testController('a', { 'k1.turn': sendingCc(20) })])
    const edits: RigEdit[] = [
      { type: 'rig-set', set: { name: 'Changed' } },
      { type: 'mapping-remove', mapping: 'nobody' },
    ]
    expect(() => perform(rig, 'both', edits)).toThrow(EditError)
    expect(rig.name).toBe('Test')
  })

  it.each<[string, RigEdit, RegExp]>([
    [
      'a number out of range',
      { type: 'controller-set', controller: 'a', set: { homeChannel: 17 } },
      /homeChannel is out of range/,
    ],
    ['an empty name', { type: 'rig-set', set: { name: ' ' } }, /name must not be empty/],
    [
      'a controller that is gone',
      { type: 'controller-set', controller: 'z', set: { inUse: false } },
      /no longer there/,
    ],
    ['a house rule that runs down', houseRules({ low: 20, high: 10 }), /lower number to the higher/],
    ['a house rule of a controller that is gone', houseRules({ controller: 'z' }), /no longer there/],
    ['a house rule for a block of nobody', houseRules({ block: 'b' }), /needs the controller/],
    ['a house rule for a block that is gone', houseRules({ controller: 'a', block: 'b' }), /no longer there/],
    ['house rules of one id', houseRules({}, {}), /one id/],
    [
      'an accord of one',
      { type: 'accord-add', accord: { id: 'n', name: 'N', reason: '', gestures: ['a/k1.turn'] } },
      /at least 2/,
    ],
  ])('refuse %s in words', (_, edit, reason) => {
    const rig = testRig([testController('a', {})])
    expect(() => perform(rig, 'x', [edit])).toThrow(reason)
  })
})
