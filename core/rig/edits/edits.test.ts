import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyMessage, anyRig, fullMessage, sendingCc, testController, testRig } from '../../testing/rigs'
import { parseRig, type Rig } from '..'
import { EditError, perform, redone, undone, type RigEdit, type Step } from '.'

const place = { controller: 'a', template: 't', layer: null, gesture: 'k1.turn' }

const anyEdit: fc.Arbitrary<RigEdit> = fc.oneof(
  fc.record({ name: fc.string() }).map(({ name }): RigEdit => ({ type: 'rig-set', set: { name } })),
  fc
    .record({
      controller: fc.constantFrom('a', 'b', 'nobody'),
      layer: fc.constantFrom(null, 'la', 'gone'),
      gesture: fc.constantFrom('k1.turn', 'k5.turn', 'k9.turn'),
      index: fc.integer({ min: 0, max: 2 }),
      message: anyMessage,
    })
    .map(({ controller, layer, gesture, index, message }): RigEdit => ({
      type: 'message',
      at: { controller, template: 't', layer, gesture },
      index,
      message: fullMessage(message),
    })),
  fc
    .record({ gesture: fc.constantFrom('k1.turn', 'k2.turn'), on: fc.boolean() })
    .map(({ gesture, on }): RigEdit => ({
      type: 'assignment',
      at: { ...place, gesture },
      assignment: on ? { messages: [{ kind: 'off' }], pinned: true, light: null, memo: '' } : null,
    })),
  fc
    .record({ homeChannel: fc.integer({ min: 0, max: 17 }), inUse: fc.boolean() })
    .map((set): RigEdit => ({ type: 'controller-set', controller: 'b', set })),
  fc
    .record({
      id: fc.constantFrom('m0', 'm9'),
      parameter: fc.constantFrom('p1', 'zzz'),
      gesture: fc.constantFrom('a/k1.turn', 'a/k9.turn', null),
    })
    .map(({ id, parameter, gesture }): RigEdit => ({
      type: 'mapping-add',
      mapping: {
        id,
        gesture,
        destination: 'd',
        parameter,
        learnedAt: null,
        scope: null,
        min: null,
        max: null,
        inverted: false,
        curve: 'linear',
        takeover: 'when-met',
        expects: { kind: 'absolute' },
        feedback: false,
        memo: '',
      },
    })),
  fc.constantFrom('m0', 'm1').map((mapping): RigEdit => ({ type: 'mapping-remove', mapping })),
  fc
    .record({ mapping: fc.constantFrom('m0', 'm1'), learnedAt: fc.constantFrom('1:cc20', 'nonsense', null) })
    .map(({ mapping, learnedAt }): RigEdit => ({ type: 'mapping-set', mapping, set: { learnedAt } })),
  fc
    .record({ id: fc.constantFrom('x', 'y'), gesture: fc.constantFrom('a/k2.turn', 'a/k9.turn') })
    .map(({ id, gesture }): RigEdit => ({
      type: 'accord-add',
      accord: { id, name: 'Y', reason: '', gestures: ['a/k1.turn', gesture] },
    })),
  fc.constant<RigEdit>({ type: 'accord-remove', accord: 'x' }),
)

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
      { numRuns: 60 },
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
