import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { landedAt } from '../../addresses'
import { printTag } from '../../midi'
import { assignmentsOf, placeRef, rigIndex, shownPlace, type Rig } from '../../rig'
import {
  anyMessage,
  anyZoneRig,
  layeredTemplates,
  sending,
  sendingCc,
  testController,
  testRig,
  type Assigned,
} from '../../testing/rigs'
import { playRig, switchedOn } from '../played'
import type { Hand } from '../hands'
import type { BenchState, Passing } from '../running'
import { hearEnd, hearRig, HEARD_START, type HeardState } from './hear'
import { cases } from '../../testing/cases'

/** Everything that hands can do with one gesture. */
const handsOn = (gesture: string, key: number): Hand[] => [
  { kind: 'move', gesture, to: 0.62, overMs: 60, key },
  { kind: 'move', gesture, to: 0.3, overMs: 40, key },
  { kind: 'press', gesture, force: 0.7, key },
  { kind: 'let-go', gesture, key },
  { kind: 'click', gesture, by: 3 },
  { kind: 'click', gesture, by: -1 },
]

/** Play one controller, and hear the bytes that it sends as if real hardware had sent them, in pieces. */
function both(rig: Rig, id: string, hands: readonly Hand[], piece = Infinity) {
  let played: BenchState = switchedOn(rig)
  let heard: BenchState = switchedOn(rig)
  let hearing: HeardState = HEARD_START
  const [sent, came]: [Passing[], Passing[]] = [[], []]
  hands.forEach((hand, index) => {
    const step = playRig(rig, played, id, hand, index * 1000)
    played = step.state
    for (const passing of step.passed) {
      if (passing.controller !== id) continue
      sent.push(passing)
      for (let at = 0; at < passing.bytes.length; at += piece) {
        const next = hearRig(rig, heard, id, hearing, passing.bytes.slice(at, at + piece), passing.at)
        heard = next.state
        hearing = next.heard
        came.push(...next.passed.filter(({ controller }) => controller === id))
        expect(next.faults).toEqual([])
      }
    }
  })
  const end = hearEnd(rig, heard, id, hearing)
  came.push(...end.passed.filter(({ controller }) => controller === id))
  return { played, heard: end.state, sent, came }
}
const said = ({ message, value }: Passing): string =>
  `${message ? landedAt(message).map(printTag).join() : ''} ${value}`
const one = (message: Parameters<typeof sending>[0]): Rig =>
  testRig([testController('a', { 'k1.turn': sending(message) })])

const layered = (x: Assigned, y: Assigned, powerUp: 'x' | null = 'x'): Rig => {
  const templates = layeredTemplates(x, y, { gestures: ['k1.turn', 'k2.turn'], powerUp })
  return testRig([testController('a', {}, { templates })])
}

describe('a real controller that is heard', () => {
  it('is taken for what it sends, whatever that is, in whatever pieces the bytes come', () => {
    fc.assert(
      fc.property(anyMessage, fc.constantFrom(1, 2, 5, Infinity), (message, piece) => {
        const rig = testRig([testController('a', { 'k1.turn': sending(message) })])
        const { sent, came } = both(rig, 'a', handsOn('k1.turn', 60), piece)
        expect(came.map(said)).toEqual(sent.map(said))
        for (const passing of came) expect(passing.place?.gesture ?? `none: ${said(passing)}`).toBe('k1.turn')
      }),
      cases(79),
    )
  })

  it('knows which held key of a zone is bent or leaned into, in whatever pieces the bytes come', () => {
    fc.assert(
      fc.property(anyZoneRig, fc.constantFrom(1, 2, Infinity), (rig, piece) => {
        const [low, ...others] = ['k1.turn'].flatMap((gesture) => {
          const message = rig.controllers[0]?.templates[0]?.base[gesture]?.messages[0]
          if (message?.kind !== 'note' || message.keys.kind !== 'zone') throw new Error('no zone')
          const { low: first, high, members } = message.keys
          // Of more keys than members two share a channel, which nothing can tell apart.
          return Array.from({ length: Math.min(members, high - first + 1) }, (_, index) => first + index)
        })
        const keys = [low ?? 0, ...others]
        const hands: Hand[] = [
          ...keys.map((key): Hand => ({ kind: 'press', gesture: 'k1.turn', key, force: 0.5 })),
          ...keys.flatMap((key): Hand[] =>
            (['bend', 'pressure', 'timbre'] as const).map((what) => ({
              kind: 'express',
              gesture: 'k1.turn',
              key,
              what,
              to: 0.8,
            })),
          ),
          ...keys.map((key): Hand => ({ kind: 'let-go', gesture: 'k1.turn', key })),
        ]
        const { sent, came, heard } = both(rig, 'a', hands, piece)
        const words = (all: readonly Passing[]) => all.map((each) => `${said(each)} by ${each.key}`)
        expect(words(came)).toEqual(words(sent))
        expect(new Set(came.map(({ place }) => place?.gesture))).toEqual(new Set(['k1.turn']))
        expect(heard.controllers.a?.held).toEqual({})
      }),
    )
  })

  it.each(['as-found', 'as-performed'] as const)(
    'moves what the simulated one moves, through the whole demo %s',
    (state) => {
      const rig = nineRingsRig(state)
      let count = 0
      const mistaken = new Set<string>()
      for (const controller of rig.controllers.filter(({ inUse }) => inUse)) {
        const showing = switchedOn(rig).controllers[controller.id]?.showing
        if (!showing) throw new Error('not switched on')
        const gestures = new Set([...assignmentsOf(controller)].map(({ place }) => place.gesture))
        for (const gesture of gestures) {
          const place = shownPlace(controller, showing, gesture)
          // A switch that changes its own layer is heard with what it sent, after which it may speak in another.
          if (!place || rig.choices.some(({ by }) => by.kind === 'gesture' && by.gesture === placeRef(place)))
            continue
          const { played, heard, sent, came } = both(rig, controller.id, handsOn(gesture, 48))
          expect(came.map(said)).toEqual(sent.map(said))
          // Two that send the same in the same layer cannot be told apart.
          if (came.some((passing) => passing.place?.gesture !== gesture)) {
            mistaken.add(gesture)
            continue
          }
          expect(heard.destinations).toEqual(played.destinations)
          count += came.length
        }
      }
      expect(count).toBeGreaterThan(1000)
      expect(mistaken.size).toBeLessThan(10)
    },
  )

  it('stands where the hardware stands, and holds what it holds', () => {
    const rig = one({ kind: 'cc', number: 20 })
    const { state } = hearRig(rig, switchedOn(rig), 'a', HEARD_START, [0xb0, 20, 127], 5)
    expect(state.controllers.a?.positions['k1.turn']).toBe(1)
    const button = one({ kind: 'cc', number: 20, behaviour: { kind: 'momentary' } })
    const down = hearRig(button, switchedOn(button), 'a', HEARD_START, [0xb0, 20, 127], 5)
    expect(Object.values(down.state.controllers.a?.held ?? {}).map(({ gesture }) => gesture)).toEqual([
      'k1.turn',
    ])
    const up = hearRig(button, down.state, 'a', down.heard, [0xb0, 20, 0], 6)
    expect(up.state.controllers.a?.held).toEqual({})
  })

  it('takes pressure that several pads share for that of the pad which is held', () => {
    const pads = { 'k1.turn': 40, 'k2.turn': 41 }
    const rig = testRig([
      testController(
        'a',
        Object.fromEntries(
          Object.entries(pads).map(([gesture, number]) => [
            gesture,
            sending({ kind: 'note', keys: { kind: 'one', number } }, { kind: 'channelPressure' }),
          ]),
        ),
      ),
    ])
    const down = hearRig(rig, switchedOn(rig), 'a', HEARD_START, [0x90, 41, 90], 0)
    const leaned = hearRig(rig, down.state, 'a', down.heard, [0xd0, 70], 1)
    expect(leaned.passed.map(({ place }) => place?.gesture)).toEqual(['k2.turn'])
  })

  it('waits for the LSB of a pair, and takes the MSB alone where none comes', () => {
    const rig = one({ kind: 'cc14', number: 17 })
    const first = hearRig(rig, switchedOn(rig), 'a', HEARD_START, [0xb0, 17, 64], 0)
    expect(first.passed).toEqual([])
    const whole = hearRig(rig, first.state, 'a', first.heard, [0xb0, 49, 5], 1)
    expect(whole.passed.map(({ value, bytes }) => [value, bytes])).toEqual([
      [64 * 128 + 5, [0xb0, 17, 64, 0xb0, 49, 5]],
    ])
    const alone = hearRig(rig, first.state, 'a', first.heard, [0xb0, 17, 65], 1)
    expect(alone.passed.map(({ value }) => value)).toEqual([64 * 128])
  })

  it('names what its template does not send, which goes its way all the same', () => {
    const rig = one({ kind: 'cc', number: 20 })
    const bytes = [0xb3, 77, 9, 0x90, 60, 100, 0xf2, 1, 2]
    const { passed } = hearRig(rig, switchedOn(rig), 'a', HEARD_START, bytes, 0)
    expect(passed.map(({ place }) => place)).toEqual([null, null, null])
    expect(passed.map(said)).toEqual(['4:cc77 9', '1:note60 100', ' 0'])
  })

  it('shows the layer in which alone something can have been sent', () => {
    const rig = layered({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(21) })
    const start = switchedOn(rig)
    const { state, passed } = hearRig(rig, start, 'a', HEARD_START, [0xb0, 21, 9], 0)
    expect(passed[0]?.place?.layer).not.toBeNull()
    expect(shownPlace(rigIndex(rig).controllers.get('a')!, state.controllers.a!.showing, 'k1.turn')).toEqual(
      passed[0]?.place,
    )
    expect(state.controllers.a?.showing).not.toEqual(start.controllers.a?.showing)
  })

  it('stays in the layer that its own button has chosen, when that button is let go', () => {
    const rig = nineRingsRig('as-performed')
    const shift = (kind: 'press' | 'let-go'): Hand =>
      kind === 'press'
        ? { kind, gesture: 'side-2.press', force: 0.8, key: 0 }
        : { kind, gesture: 'side-2.press', key: 0 }
    for (const hands of [
      [shift('press')],
      [shift('press'), shift('let-go')],
      [shift('press'), shift('let-go'), shift('press'), shift('let-go')],
    ]) {
      const { played, heard } = both(rig, 'syzra', hands)
      expect(heard.controllers.syzra?.showing).toEqual(played.controllers.syzra?.showing)
    }
    expect(
      both(rig, 'syzra', [shift('press'), shift('let-go')]).heard.controllers.syzra?.showing.layers.buttons,
    ).toBe('scenes')
  })

  it('shows no other layer where several may have sent it', () => {
    const both = { 'k1.turn': sendingCc(22), 'k2.turn': sendingCc(23) }
    const none = layered(both, both, null)
    const start = switchedOn(none)
    const { state, passed } = hearRig(none, start, 'a', HEARD_START, [0xb0, 22, 9], 0)
    expect(passed[0]?.place?.gesture).toBe('k1.turn')
    expect(state.controllers.a?.showing).toEqual(start.controllers.a?.showing)
    const apart = layered({ 'k1.turn': sendingCc(22) }, { 'k2.turn': sendingCc(22) }, null)
    const heard = hearRig(apart, switchedOn(apart), 'a', HEARD_START, [0xb0, 22, 9], 0)
    expect(heard.passed.map(({ place }) => place)).toEqual([null])
  })

  it('lets clock and active sensing pass, says what is no message, and never throws', () => {
    const rig = one({ kind: 'cc', number: 20 })
    const { passed, heard, faults } = hearRig(
      rig,
      switchedOn(rig),
      'a',
      HEARD_START,
      [0xf8, 0xfe, 0x12, 0xf8, 0xf4],
      0,
    )
    expect(passed).toEqual([])
    expect(heard.ticks).toBe(3)
    expect(faults.map(({ fault }) => fault)).toEqual(['stray-data', 'undefined-status'])
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -5, max: 300 }), { maxLength: 300 }), (bytes) => {
        const step = hearRig(rig, switchedOn(rig), 'a', HEARD_START, bytes, 0)
        expect(step.heard.before.length).toBeLessThan(40)
      }),
    )
  })
})
