import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { assignmentsOfGesture, controlsOf, modelOf, perform, type Controller, type Rig } from '../../rig'
import { joined, learned20, merged, only, rewrite, rigOf, ruled, sends20 } from '../../testing/mapped-rigs'
import {
  anyRig,
  layeredTemplates,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
} from '../../testing/rigs'
import { playRig, switchedOn } from '../played'
import { LONG_PRESS_MS } from '../controller'
import type { Hand } from '../hands'
import { traceGesture, traceParameter, type Trace } from '.'
import { cases } from '../../testing/cases'

/** What listens by its chart does so for whoever comes: no mapping is named. */
function named(rig: Rig, destination: string, parameter: string, mapping: string | null): string {
  const owner = rig.destinations.find(({ id }) => id === destination)
  const isCharted = owner?.parameters.find(({ id }) => id === parameter)?.fixed !== null
  return `${destination} ${parameter} ${isCharted ? '' : (mapping ?? '')}`
}

/** What of a rig moves when everything is done with a gesture that can be: destination, parameter and mapping. */
function movedBy(rig: Rig, controller: string, gesture: string): Set<string> {
  const keys = [0, 58, 59, 60, 61, 62, 63, 64]
  const hands: Hand[] = [
    { kind: 'move', gesture, to: 1, overMs: 400 },
    { kind: 'move', gesture, to: 0, overMs: 400 },
    { kind: 'click', gesture, by: 1 },
    { kind: 'click', gesture, by: -1 },
    ...keys.flatMap((key): Hand[] => [
      { kind: 'press', gesture, key },
      { kind: 'let-go', gesture, key },
    ]),
  ]
  let state = switchedOn(rig)
  const moved = new Set<string>()
  hands.forEach((hand, index) => {
    const next = playRig(rig, state, controller, hand, index * 2 * LONG_PRESS_MS)
    state = next.state
    for (const { place, arrived } of next.passed)
      if (place?.gesture === gesture)
        for (const { destination, effects } of arrived)
          for (const effect of effects)
            if (effect.kind === 'moves' || effect.kind === 'acts')
              moved.add(named(rig, destination, effect.through ?? effect.parameter, effect.mapping))
  })
  return moved
}
const saysOnlyZero = (controller: Controller, gesture: string): boolean =>
  [...assignmentsOfGesture(controller, gesture)].some(({ messages }) =>
    messages.some(
      (message) =>
        message.kind === 'cc' &&
        ['trigger', 'momentary'].includes(message.behaviour.kind) &&
        message.range.high === 0,
    ),
  )
const arrivesAt = (rig: Rig, traces: readonly Trace[]): Set<string> =>
  new Set(
    traces.flatMap(({ destination, parameter, mapping, broken }) =>
      broken || destination === null || parameter === null
        ? []
        : [named(rig, destination, parameter, mapping)],
    ),
  )
const sorted = (set: ReadonlySet<string>): string[] => [...set].sort()

describe('following a message', () => {
  it('ends where the simulation delivers, for any rig', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        for (const controller of rig.controllers)
          for (const { id, gestures } of controlsOf(modelOf(rig, controller)).values())
            for (const kind of gestures) {
              const gesture = `${id}.${kind}`
              // What only ever says 0 arrives, and sets off no action.
              if (saysOnlyZero(controller, gesture)) continue
              const traces = traceGesture(rig, `${controller.id}/${gesture}`)
              expect(sorted(arrivesAt(rig, traces))).toEqual(sorted(movedBy(rig, controller.id, gesture)))
              for (const { stations, broken } of traces) {
                expect(stations.length).toBeGreaterThan(0)
                if (broken) expect([broken.why, broken.cure].every((text) => text.endsWith('.'))).toBe(true)
              }
            }
      }),
      cases(10),
    )
  })

  it('of the demo arrives everywhere as performed, but for what is chosen or switched first', () => {
    const rig = nineRingsRig('as-performed')
    const broken = rig.mappings.flatMap(({ gesture, id }) =>
      gesture === null
        ? []
        : traceGesture(rig, gesture).filter((trace) => trace.mapping === id && trace.broken),
    )
    for (const trace of broken)
      expect(trace.broken?.why).toMatch(/shows no layer|counts only in|is put away|is moved from the layer/)
  })

  it('says which switch has to be pressed before a foot board sends anything', () => {
    const demo = nineRingsRig('as-performed')
    const rig = perform(demo, 'x', [
      {
        type: 'stack-set',
        controller: 'umbrek',
        template: 'nine-rings',
        stack: 'rows',
        set: { powerUp: null },
      },
    ]).rig
    for (const { broken } of traceGesture(rig, 'umbrek/foot-2.press')) {
      expect(broken?.why).toMatch(/^Rows of Umbrek 6 shows no layer, so .* sends nothing\.$/)
      expect(broken?.cure).toMatch(/^First: Umbrek 6 · .* goes on to the next of all layers/)
    }
  })

  const whys = (rig: Rig, gesture = 'a/k1.turn'): string[] =>
    traceGesture(rig, gesture).map(({ broken }) => broken?.why ?? 'arrives')
  it.each<[string, () => Rig, string]>([
    ['nothing', () => rigOf(sends20, [learned20]), 'arrives'],
    ['no message', () => rigOf({}, [learned20]), 'Knob 1 sends nothing.'],
    [
      'no number',
      () => rigOf({ 'k1.turn': sending({ kind: 'cc', number: 'wanted' } as never) }, [learned20]),
      'Knob 1 has no number yet.',
    ],
    ['no cable', () => rigOf(sends20, [learned20], {}, { cables: [] }), 'No cable leads from A to D.'],
    [
      'a rule',
      () => rigOf(sends20, [learned20], {}, ruled([], 'stop')),
      'The cable A · Out → D · In stops it.',
    ],
    ['another channel', () => rigOf(sends20, [learned20], only(5)), 'D does not hear channel 1.'],
    [
      'a crossed rule',
      () => rigOf(sends20, [learned20], {}, ruled([rewrite({}, { number: 30 })])),
      '1:cc30 arrives, and D · One listens at 1:cc20.'.replace('D · ', ''),
    ],
    ['no lesson', () => rigOf(sends20, [joined('a/k1.turn', 'p1')]), 'D has not been taught what moves One.'],
    [
      'an old lesson',
      () => rigOf({ 'k1.turn': sendingCc(21) }, [learned20]),
      '1:cc21 arrives, and One listens at 1:cc20.',
    ],
    [
      'a scope',
      () => rigOf(sends20, [{ ...learned20, scope: 's' }], { scopes: [{ id: 's', name: 'Song' }] }),
      'D is in no scope, and this counts only in Song.',
    ],
    [
      'a claim',
      () =>
        rigOf(sends20, [learned20], {
          claims: [{ id: 'c', function: 'its clock', kind: 'cc', low: 20, high: 20 }],
        }),
      'D keeps it for its clock.',
    ],
    [
      'merged channels',
      () => rigOf({ 'k1.turn': sendingCc(20, { channel: 7 }) }, [learned20], merged),
      'arrives',
    ],
  ])('names what is in the way: %s', (_, rig, expected) => {
    expect(whys(rig())[0]).toBe(expected)
  })

  it('says that what arrives is listened to by nobody, and that a layer has to be chosen', () => {
    expect(whys(rigOf(sends20, []))).toEqual(['It arrives, and no parameter listens at it.'])
    const layered = testRig(
      [
        testController(
          'a',
          {},
          {
            templates: layeredTemplates(sends20, {}, { gestures: ['k1.turn'], powerUp: null }),
          },
        ),
      ],
      [testDestination('d')],
      { mappings: [learned20] },
    )
    expect(whys(layered)).toEqual(['S of A shows no layer, so Knob 1 sends nothing.'])
    const showing = { a: { template: 't', layers: { s: 'x' } } }
    expect(traceGesture(layered, 'a/k1.turn', { showing }).map(({ broken }) => broken)).toEqual([null])
  })

  it('backwards says why a parameter does not move', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(21) }, [learned20])
    expect(traceParameter(rig, 'd', 'p1').map(({ broken }) => broken?.why)).toEqual([
      '1:cc21 arrives, and One listens at 1:cc20.',
    ])
    expect(traceParameter(rig, 'd', 'p2').map(({ broken }) => broken?.why)).toEqual([
      'No control is joined to it.',
    ])
  })
})
