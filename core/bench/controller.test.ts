import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { sendersOf, type Sender } from '../addresses'
import { keysFacet } from '../midi'
import { decodeWire, WIRE_START } from '../midi/bytes'
import { rigIndex, splitGestureRef, type Controller, type Rig, type Showing } from '../rig'
import {
  anyChannelRig,
  anyRig,
  anyZoneRig,
  layeredTemplates,
  sending,
  sendingCc,
  testController,
  testRig,
  type Assigned,
} from '../testing/rigs'
import { LONG_PRESS_MS, play, showOn } from './controller'
import { poweredUp, type ControllerState, type Played } from './controller-state'
import type { Hand } from './hands'
import { cases } from '../testing/cases'

/** The cells that bytes touch, read from the bytes alone: status and number, channel from 1. */
function touched(bytes: readonly number[]): string[] {
  const { events } = decodeWire(WIRE_START, bytes, 0)
  return events.flatMap((event) => {
    if (event.kind === 'fault') throw new Error(event.fault)
    const [status = 0, number = 0] = event.bytes
    const on = (status & 15) + 1
    switch (status & 0xf0) {
      case 0x80:
      case 0x90:
        return [`note ${on} ${number}`]
      case 0xa0:
        return [`polyPressure ${on} ${number}`]
      case 0xb0:
        return [`cc ${on} ${number}`]
      case 0xc0:
        return [`program ${on} ${number}`]
      case 0xd0:
        return [`channelPressure ${on} 0`]
      case 0xe0:
        return [`pitchBend ${on} 0`]
      default:
        return []
    }
  })
}
/** What emission promises, without the main cells of parameters, which no byte names. */
const promised = ({ cells }: Sender): string[] => [
  ...new Set(
    cells.flatMap(({ kind, channel, number }) =>
      kind === 'nrpn' || kind === 'rpn' ? [] : [`${kind} ${channel} ${number}`],
    ),
  ),
]

/** The showing in which a sender speaks. */
function showingOf(controller: Controller, { place }: Sender): Showing {
  const template = controller.templates.find(({ id }) => id === place.template)
  return {
    template: place.template,
    layers: Object.fromEntries(
      (template?.stacks ?? []).map((stack) => [
        stack.id,
        stack.layers.some(({ id }) => id === place.layer) ? place.layer : null,
      ]),
    ),
  }
}

/** Everything that can be done with a gesture, so that all of it is sent. */
function everything({ gesture: ref, message }: Sender): Hand[] {
  const { gesture } = splitGestureRef(ref)
  const written = 'keys' in message ? keysFacet.written(message.keys) : null
  const keys = written
    ? Array.from({ length: written.high - written.low + 1 }, (_, index) => written.low + index)
    : [0]
  const members = 'keys' in message && message.keys.kind === 'zone' ? message.keys.members : 1
  return [
    { kind: 'move', gesture, to: 1, overMs: 200 },
    { kind: 'move', gesture, to: 0, overMs: 200 },
    { kind: 'click', gesture, by: 2 },
    { kind: 'click', gesture, by: -2 },
    ...keys.flatMap((key): Hand[] => [
      { kind: 'press', gesture, force: 0.7, key },
      ...expressive(gesture, key),
      { kind: 'wait' },
      { kind: 'let-go', gesture, key },
      // So often that a zone has played the key on every member.
      ...Array.from({ length: members }).flatMap((): Hand[] => [
        { kind: 'press', gesture, key },
        ...expressive(gesture, key),
        { kind: 'let-go', gesture, key },
      ]),
    ]),
  ]
}
const expressive = (gesture: string, key: number): Hand[] =>
  (['bend', 'pressure', 'timbre'] as const).map((what) => ({ kind: 'express', gesture, key, what, to: 0.9 }))

function playAll(rig: Rig, controller: Controller, from: ControllerState, hands: readonly Hand[]): Played[] {
  let state = from
  let at = 0
  return hands.flatMap((hand) => {
    at += hand.kind === 'wait' ? LONG_PRESS_MS + 1 : 100
    const next = play(rig, controller, state, hand, at)
    state = next.state
    return next.sent
  })
}

describe('a simulated controller', () => {
  it.each<[string, fc.Arbitrary<Rig>]>([
    ['any', anyRig],
    ['parameters and programs', anyChannelRig],
    ['zones', anyZoneRig],
  ])('sends in exactly the cells that emission promises: %s', (_, rigs) => {
    fc.assert(
      fc.property(rigs, (rig) => {
        for (const sender of sendersOf(rig)) {
          const controller = rigIndex(rig).controllers.get(sender.place.controller)
          if (!controller) throw new Error('no controller')
          const state = { ...poweredUp(controller), showing: showingOf(controller, sender) }
          const sent = playAll(rig, controller, state, everything(sender))
          const own = sent.filter(
            ({ place, messageIndex }) =>
              place.gesture === sender.place.gesture && messageIndex === sender.messageIndex,
          )
          const cells = new Set(own.flatMap(({ bytes }) => touched(bytes)))
          expect([...cells].sort()).toEqual(promised(sender).sort())
        }
      }),
      cases(80),
    )
  })

  it('of the demo does so too, in both states', () => {
    for (const rig of [nineRingsRig('as-found'), nineRingsRig('as-performed')])
      for (const sender of sendersOf(rig)) {
        const controller = rigIndex(rig).controllers.get(sender.place.controller)
        if (!controller) throw new Error('no controller')
        const state = { ...poweredUp(controller), showing: showingOf(controller, sender) }
        const { gesture, layer } = sender.place
        const own = playAll(rig, controller, state, everything(sender)).filter(
          ({ place, messageIndex }) =>
            place.gesture === gesture && place.layer === layer && messageIndex === sender.messageIndex,
        )
        const cells = new Set(own.flatMap(({ bytes }) => touched(bytes)))
        expect([...cells].sort(), sender.key).toEqual(promised(sender).sort())
      }
  })

  it('sends the same for the same hands', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        const [controller] = rig.controllers
        if (!controller) throw new Error('no controller')
        const hands = sendersOf(rig).slice(0, 4).flatMap(everything)
        const once = playAll(rig, controller, poweredUp(controller), hands)
        expect(playAll(rig, controller, poweredUp(controller), hands)).toEqual(once)
      }),
      cases(14),
    )
  })
})

const rigOf = (base: Assigned, more: Parameters<typeof testController>[2] = {}, rest = {}): Rig =>
  testRig([testController('a', base, more)], undefined, rest)
function bytesOfHands(rig: Rig, ...hands: Array<Hand | [number, Hand]>): string[] {
  const [controller] = rig.controllers
  if (!controller) throw new Error('no controller')
  let state = poweredUp(controller)
  let at = 0
  return hands.flatMap((entry) => {
    const [after, hand] = Array.isArray(entry) ? entry : [1000, entry]
    at += after
    const next = play(rig, controller, state, hand, at)
    state = next.state
    return next.sent.map(({ bytes }) => bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' '))
  })
}
const move = (to: number, overMs?: number): Hand => ({
  kind: 'move',
  gesture: 'k1.turn',
  to,
  ...(overMs === undefined ? {} : { overMs }),
})
const press = (gesture = 'k6.push', more: object = {}): Hand => ({ kind: 'press', gesture, ...more })
const letGo = (gesture = 'k6.push', more: object = {}): Hand => ({ kind: 'let-go', gesture, ...more })
const pushed = (message: object): Rig =>
  rigOf({ 'k6.push': sending({ kind: 'cc', number: 20, ...message } as never) })

describe('what a hand does', () => {
  it('moves a control through its range, which may be turned round, and says no value twice', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20, { range: { low: 10, high: 0 } }) })
    expect(bytesOfHands(rig, move(1), move(1), move(0.5), move(0))).toEqual([
      'b0 14 00',
      'b0 14 05',
      'b0 14 0a',
    ])
  })

  it('that rests in its centre is moved from there', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20) })
    const [model] = rig.models
    const [first, ...others] = model?.surface.controls ?? []
    if (!model || !first) throw new Error('no control')
    const surface = { ...model.surface, controls: [{ ...first, restsInCentre: true }, ...others] }
    const centred = { ...rig, models: [{ ...model, surface }] }
    const [from] = bytesOfHands(centred, move(0.52, 4))
    expect(from).toBe('b0 14 42')
    // A reading half way down from the centre, not from the end.
    expect(bytesOfHands(centred, move(0, 8))).toEqual(['b0 14 20', 'b0 14 00'])
  })

  it('moves fast, and what lies between two readings is never sent', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20) })
    expect(bytesOfHands(rig, move(1, 40))).toHaveLength(10)
    expect(bytesOfHands(rig, move(1, 4000))).toHaveLength(127)
  })

  it('presses: held, on and off, once, through a list', () => {
    const twice = [press(), letGo(), press(), letGo()]
    const values = (behaviour: object, more: object = {}): string[] =>
      bytesOfHands(pushed({ behaviour, ...more }), ...twice).map((text) => text.slice(-2))
    expect(values({ kind: 'momentary' })).toEqual(['7f', '00', '7f', '00'])
    expect(values({ kind: 'momentary' }, { releaseValue: 5 })).toEqual(['7f', '05', '7f', '05'])
    expect(values({ kind: 'toggle' })).toEqual(['7f', '00'])
    expect(values({ kind: 'trigger' })).toEqual(['7f', '7f'])
    expect(values({ kind: 'list', values: [1, 2, 3] })).toEqual(['01', '02'])
  })

  it('at other moments sends then: long, double, when let go', () => {
    const at = (moment: string): Rig => pushed({ moment, behaviour: { kind: 'trigger' } })
    const hold: Hand = { kind: 'wait' }
    expect(bytesOfHands(at('long-press'), press(), [400, letGo()])).toEqual([])
    expect(bytesOfHands(at('long-press'), press(), [600, hold], letGo())).toHaveLength(1)
    expect(bytesOfHands(at('double-press'), press(), [50, letGo()], [100, press()])).toHaveLength(1)
    expect(bytesOfHands(at('double-press'), press(), [50, letGo()], [900, press()])).toEqual([])
    expect(bytesOfHands(at('release'), press())).toEqual([])
    expect(bytesOfHands(at('release'), press(), letGo())).toHaveLength(1)
  })

  it('clicks an encoder in its encoding, faster with acceleration', () => {
    const encoder = (acceleration: string): Rig =>
      rigOf({
        'k6.turn': sendingCc(20, {
          behaviour: { kind: 'relative', encoding: 'offset-binary', acceleration },
        }),
      })
    const click = (by: number, overMs?: number): Hand => ({
      kind: 'click',
      gesture: 'k6.turn',
      by,
      ...(overMs === undefined ? {} : { overMs }),
    })
    expect(bytesOfHands(encoder('none'), click(2, 2), click(-1))).toEqual([
      'b0 14 41',
      'b0 14 41',
      'b0 14 3f',
    ])
    expect(bytesOfHands(encoder('strong'), click(2, 2))).toEqual(['b0 14 44', 'b0 14 44'])
    expect(bytesOfHands(encoder('strong'), click(2, 2000))).toEqual(['b0 14 41', 'b0 14 41'])
  })

  it('strikes by force, and lets go as it is told', () => {
    const note = (more: object): Rig =>
      rigOf({ 'k6.push': sending({ kind: 'note', keys: { kind: 'one', number: 60 }, ...more } as never) })
    const strike = [press('k6.push', { force: 0.5 }), letGo()]
    expect(bytesOfHands(note({}), ...strike)).toEqual(['90 3c 40', '80 3c 40'])
    expect(
      bytesOfHands(
        note({ release: { kind: 'velocity-zero' }, velocity: { kind: 'fixed', value: 9 } }),
        ...strike,
      ),
    ).toEqual(['90 3c 09', '90 3c 00'])
    expect(bytesOfHands(note({ highResolutionVelocity: true }), strike[0] as Hand)).toEqual([
      'b0 58 00 90 3c 40',
    ])
  })

  it('gives each held key of a zone a member channel of its own', () => {
    const rig = rigOf({
      'k1.turn': sending({
        kind: 'note',
        keys: { kind: 'zone', low: 36, high: 84, manager: 1, members: 3 },
      } as never),
    })
    const key = (number: number): Hand => press('k1.turn', { key: number })
    expect(bytesOfHands(rig, key(60), key(64), letGo('k1.turn', { key: 60 }), key(67))).toEqual([
      'b0 65 00 b0 64 06 b0 06 03',
      '91 3c 7f',
      '92 40 7f',
      '81 3c 40',
      '93 43 7f',
    ])
  })

  it('bends, leans into and slides along each held key of a zone by itself, and no key that is not held', () => {
    const rig = rigOf({
      'k1.turn': sending({
        kind: 'note',
        keys: { kind: 'zone', low: 36, high: 84, manager: 1, members: 3 },
      } as never),
    })
    const say = (key: number, what: 'bend' | 'pressure' | 'timbre', to: number): Hand => ({
      kind: 'express',
      gesture: 'k1.turn',
      key,
      what,
      to,
    })
    const key = (number: number): Hand => press('k1.turn', { key: number })
    expect(
      bytesOfHands(
        rig,
        say(60, 'bend', 1),
        key(60),
        key(64),
        say(64, 'bend', 1),
        say(60, 'pressure', 0.5),
        say(60, 'timbre', 0),
        say(60, 'pressure', 0.5),
        letGo('k1.turn', { key: 64 }),
        say(64, 'bend', 0),
      ).slice(1),
    ).toEqual(['91 3c 7f', '92 40 7f', 'e2 7f 7f', 'd1 40', 'b1 4a 00', '82 40 40'])
  })

  it('leaves the number of a parameter out only while its channel was told no other', () => {
    const nrpn = (number: number): Assigned[string] =>
      sending({ kind: 'nrpn', number, omitNumber: true, sendsLsb: false } as never)
    const rig = rigOf({ 'k1.turn': nrpn(1), 'k2.turn': nrpn(2) })
    const other: Hand = { kind: 'move', gesture: 'k2.turn', to: 1 }
    expect(bytesOfHands(rig, move(0.5), move(1), other, move(0)).map((text) => text.length)).toEqual([
      26, 8, 26, 26,
    ])
  })

  it('sends nothing while no layer shows, and what the layer says once one does', () => {
    const chosen = {
      choices: [
        {
          id: 'c',
          by: { kind: 'gesture' as const, gesture: 'a/k6.push' },
          how: 'next' as const,
          targets: [
            { kind: 'layers' as const, controller: 'a', template: 't', stack: 's', layers: ['x', 'y'] },
          ],
        },
      ],
    }
    const templates = layeredTemplates(
      { 'k1.turn': sendingCc(20) },
      { 'k1.turn': sendingCc(21) },
      { gestures: ['k1.turn'], powerUp: null },
    )
    const rig = rigOf({}, { templates }, chosen)
    expect(bytesOfHands(rig, move(1), press(), letGo(), move(0.5), press(), letGo(), move(1))).toEqual([
      'b0 14 40',
      'b0 15 7f',
    ])
  })

  it('that holds a shift shows its layer, and what was there again when it is let go', () => {
    const shifted = {
      choices: [
        {
          id: 'c',
          by: { kind: 'gesture' as const, gesture: 'a/k6.push' },
          how: 'while-held' as const,
          targets: [{ kind: 'layers' as const, controller: 'a', template: 't', stack: 's', layers: ['y'] }],
        },
      ],
    }
    const templates = layeredTemplates(
      { 'k1.turn': sendingCc(20) },
      { 'k1.turn': sendingCc(21) },
      { gestures: ['k1.turn'], powerUp: 'x' },
    )
    const rig = rigOf({}, { templates }, shifted)
    expect(bytesOfHands(rig, move(1), press(), move(0.5), letGo(), move(0))).toEqual([
      'b0 14 7f',
      'b0 15 40',
      'b0 14 00',
    ])
  })

  it('that shows a layer sends what is sent then', () => {
    const templates = layeredTemplates(
      {},
      { 'k1.turn': sendingCc(21, { moment: 'layer-shown' }) },
      { gestures: ['k1.turn'], powerUp: 'x' },
    )
    const rig = rigOf({}, { templates })
    const [controller] = rig.controllers
    if (!controller) throw new Error('no controller')
    const state = poweredUp(controller)
    const { sent } = showOn(rig, controller, state, { template: 't', layers: { s: 'y' } }, 5)
    expect(sent.map(({ bytes, at }) => [at, ...bytes])).toEqual([[5, 0xb0, 21, 127]])
  })
})
