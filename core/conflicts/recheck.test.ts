import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { assignmentsOf, EditError, perform, type Cable, type Message, type Rig, type RigEdit } from '../rig'
import { anyEdit } from '../testing/edits'
import {
  anyMessage,
  anyRig,
  fullMessage,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type MessageInput,
} from '../testing/rigs'
import { check, recheck, type Check } from '.'
import { addressAt } from '../testing/addresses'
import { cases } from '../testing/cases'

const channel = fc.constantFrom<(number | 'home')[]>(1, 2, 'home')
const parameterMessage: fc.Arbitrary<MessageInput> = fc.oneof(
  fc.record({
    kind: fc.constantFrom('nrpn' as const, 'rpn' as const),
    channel,
    number: fc.constantFrom(0, 1, 1024),
    omitNumber: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('program' as const),
    channel,
    number: fc.constantFrom(0, 1),
    bank: fc.constantFrom(null, { msb: 1, lsb: 0 }),
  }),
  fc.record({ kind: fc.constant('cc' as const), channel, number: fc.constantFrom(6, 97, 98, 100) }),
  fc.record({ kind: fc.constant('cc' as const), channel, number: fc.constant('wanted' as const) }),
  fc.record({
    kind: fc.constant('note' as const),
    channel,
    keys: fc.constant({ kind: 'span' as const, low: 0, high: 127 }),
  }),
)

/** Mostly edits of assignments, which is what a recheck is quick at. */
const anyChange: fc.Arbitrary<RigEdit> = fc.oneof(
  { weight: 2, arbitrary: anyEdit },
  {
    weight: 2,
    arbitrary: fc
      .record({
        mapping: fc.constantFrom('m0', 'm1', 'm2', 'm3'),
        learnedAt: fc.constantFrom(
          ...['1:cc16+48', '1:cc20', '2:cc20', '1:cc52', '1:nrpn1', '1:note62'].map(addressAt),
          null,
        ),
        gesture: fc.constantFrom('a/k1.turn', 'b/k5.turn', 'c/k2.turn', null),
      })
      .map(({ mapping, ...set }): RigEdit => ({ type: 'mapping-set', mapping, set })),
  },
  {
    weight: 6,
    arbitrary: fc
      .record({
        controller: fc.constantFrom('a', 'b', 'c'),
        layer: fc.constantFrom(null, 'la', 'lb'),
        gesture: fc.constantFrom('k1.turn', 'k2.turn', 'k5.turn', 'k6.push'),
        message: fc.oneof(anyMessage, parameterMessage),
      })
      .map(({ controller, layer, gesture, message }): RigEdit => ({
        type: 'message',
        at: { controller, template: 't', layer, gesture },
        index: 0,
        message: fullMessage(message),
      })),
  },
)

const rewriting: Cable['rules'] = [
  {
    kind: 'rewrite',
    match: { kinds: ['cc'], channels: [2], low: 20, high: 20 },
    to: { kind: 'cc', channel: 1, number: 74, range: { low: 0, high: 127 } },
  },
]

const told = ({ findings, asides }: Check) => ({ findings, asides })

/** Make edits step by step; after each, what is rechecked must be what a whole check says. */
function follow(rig: Rig, steps: ReadonlyArray<readonly RigEdit[]>): void {
  let last = check(rig)
  for (const edits of steps) {
    try {
      rig = perform(rig, 'edit', edits).rig
    } catch (error) {
      expect(error).toBeInstanceOf(EditError)
      continue
    }
    last = recheck(last, rig)
    expect(told(last)).toEqual(told(check(rig)))
  }
}

it('finds the same whatever is pinned: planning counts on it', () => {
  const found = (rig: Rig) =>
    check(rig).findings.map(({ rule, severity, message }) => ({ rule, severity, message }))
  fc.assert(
    fc.property(
      fc.oneof(anyRig, fc.constant(nineRingsRig('as-found'))),
      fc.infiniteStream(fc.boolean()),
      (rig, pins) => {
        const edits = rig.controllers.flatMap((controller) =>
          [...assignmentsOf(controller)].map(({ place, assignment }): RigEdit => ({
            type: 'assignment',
            at: place,
            assignment: { ...assignment, pinned: pins.next().value === true },
          })),
        )
        expect(found(perform(rig, 'pins', edits).rig)).toEqual(found(rig))
      },
    ),
    cases(4),
  )
})

describe('recheck', () => {
  it('says the same as check, after any edits of any rig', () => {
    fc.assert(
      fc.property(
        anyRig,
        fc.boolean(),
        fc.array(fc.array(anyChange, { minLength: 1, maxLength: 2 }), { minLength: 1, maxLength: 8 }),
        (rig, isRewritten, edits) => {
          const cables = rig.cables.map((cable, index) =>
            isRewritten && index % 2 === 0 ? { ...cable, rules: rewriting } : cable,
          )
          follow({ ...rig, cables }, edits)
        },
      ),
      cases(17),
    )
  })

  it('says the same as check when messages of a whole show are put elsewhere', () => {
    const rig = nineRingsRig('as-found')
    const places = rig.controllers.flatMap((controller) => [...assignmentsOf(controller)])
    const messages = places.flatMap(({ assignment }) => assignment.messages)
    const anyPlace = fc.nat({ max: places.length - 1 })
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: anyPlace, message: fc.nat({ max: messages.length - 1 }) }), {
          minLength: 1,
          maxLength: 6,
        }),
        (moves) => {
          const edits = moves.flatMap(({ at, message }): RigEdit[] => {
            const place = places[at]?.place
            const given: Message | undefined = messages[message]
            return place && given ? [{ type: 'message', at: place, index: 0, message: given }] : []
          })
          follow(
            rig,
            edits.map((edit) => [edit]),
          )
        },
      ),
      cases(4),
    )
  })

  const sends = (at: { controller: string; layer: string | null; gesture: string }, message: MessageInput) =>
    ({ type: 'message', at: { template: 't', ...at }, index: 0, message: fullMessage(message) }) as const
  const span = (low: number, high: number) => sending({ kind: 'note', keys: { kind: 'span', low, high } })

  it('sees all keys of spans that meet where a single note is moved', () => {
    const rig = testRig([
      testController('a', { 'k1.turn': span(58, 63) }),
      testController('b', { 'k1.turn': span(61, 72) }),
      testController('c', { 'k1.turn': sending({ kind: 'note', keys: { kind: 'one', number: 62 } }) }),
    ])
    const at = { controller: 'c', layer: null, gesture: 'k1.turn' }
    const note = (number: number): MessageInput => ({ kind: 'note', keys: { kind: 'one', number } })
    follow(rig, [[sends(at, note(63))], [sends(at, note(70))], [sends(at, note(10))]])
  })

  it('sees all mappings that listen at one address where some of their controls change elsewhere', () => {
    const layers = ['la', 'lb', 'lc'].map((id, index) => ({
      id,
      name: id,
      assignments: {
        [`k${index + 1}.turn`]: sendingCc(20),
        [`k${((index + 1) % 3) + 1}.turn`]: sendingCc(30 + index),
      },
    }))
    const gestures = ['k1.turn', 'k2.turn', 'k3.turn']
    const rig = testRig(
      [
        testController(
          'a',
          {},
          {
            templates: [{ id: 't', name: 'T', stacks: [{ id: 's', name: 'S', gestures, layers }] }],
          },
        ),
      ],
      [testDestination('d', { parameters: gestures.map((name, index) => ({ id: `p${index}`, name })) })],
      {
        mappings: gestures.map((gesture, index) => ({
          id: `m${index}`,
          gesture: `a/${gesture}`,
          destination: 'd',
          parameter: `p${index}`,
          learnedAt: '1:cc20',
        })),
      },
    )
    expect(check(rig).findings.map(({ rule }) => rule)).toContain('layer-share')
    follow(rig, [
      [
        sends({ controller: 'a', layer: 'la', gesture: 'k2.turn' }, { kind: 'cc', number: 50 }),
        sends({ controller: 'a', layer: 'lb', gesture: 'k3.turn' }, { kind: 'cc', number: 51 }),
      ],
    ])
  })

  it('sees what is shared on purpose with a control that is put away', () => {
    const rig = testRig(
      [
        testController('a', { 'k1.turn': sendingCc(20) }),
        testController('b', { 'k1.turn': sendingCc(20) }, { inUse: false }),
      ],
      [testDestination('d', { parameters: [{ id: 'p', name: 'P' }] })],
      {
        mappings: [{ id: 'm', gesture: 'b/k1.turn', destination: 'd', parameter: 'p', learnedAt: '1:cc20' }],
        accords: [{ id: 'x', name: 'X', reason: '', gestures: ['a/k1.turn', 'b/k1.turn'] }],
      },
    )
    const gone: RigEdit = { type: 'mapping-set', mapping: 'm', set: { gesture: null } }
    expect(check(rig).findings.map(({ rule }) => rule)).not.toContain('idle-accord')
    expect(check(perform(rig, 'x', [gone]).rig).findings.map(({ rule }) => rule)).toContain('idle-accord')
    follow(rig, [[gone]])
  })

  it('sees that what shared on purpose no longer meets once one of them sends nothing, and meets again', () => {
    const rig = testRig(
      [testController('a', { 'k1.turn': sendingCc(20) }), testController('b', { 'k1.turn': sendingCc(20) })],
      undefined,
      { accords: [{ id: 'x', name: 'X', reason: '', gestures: ['a/k1.turn', 'b/k1.turn'] }] },
    )
    const at = { controller: 'a', layer: null, gesture: 'k1.turn' }
    follow(rig, [[sends(at, { kind: 'off' })], [sends(at, { kind: 'cc', number: 20 })]])
  })

  it('looks at nothing again where nothing has changed', () => {
    const rig = nineRingsRig('as-found')
    const first = check(rig)
    const again = recheck(first, { ...rig })
    expect(again.reports).toEqual(first.reports)
    expect(again.findings.every((finding, index) => finding === first.findings[index])).toBe(true)
  })
})
