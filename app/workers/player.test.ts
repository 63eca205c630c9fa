import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { playRig, switchedOn, type Hand, type Passing } from '../../core/bench'
import { perform } from '../../core/rig'
import { anyRig } from '../../core/testing/rigs'
import { createPlayer, type Order } from './player'
import { createHearer, NOTHING_SEEN, viewAfter, type BenchView, type News, type Outs } from './player-news'

/** A player with a page that takes what crosses as a worker hands it over: as copies. */
function page() {
  let [time, view]: [number, BenchView] = [0, NOTHING_SEEN]
  let waiting: Array<{ at: number; does: () => void }> = []
  const [passed, news, outs]: [Passing[], News[], Array<Outs[number]>] = [[], [], []]
  const hearer = createHearer()
  const play = createPlayer({
    tell: (told) => {
      const copy = structuredClone(told)
      news.push(copy)
      passed.push(...hearer(copy))
      view = viewAfter(view, copy.change)
    },
    send: (sent) => outs.push(...structuredClone(sent)),
    after: (ms, does) => waiting.push({ at: time + ms, does }),
    now: () => time,
  })
  return {
    order: (order: Order) => play(structuredClone(order)),
    wait: (ms: number) => {
      time += ms
      const due = waiting.filter(({ at }) => at <= time)
      waiting = waiting.filter(({ at }) => at > time)
      for (const { does } of due) does()
    },
    view: () => view,
    passed,
    news,
    outs,
  }
}
const gestures = ['k1.turn', 'k2.turn', 'k5.turn', 'k6.push']
const anyHand: fc.Arbitrary<Hand> = fc.oneof(
  fc.record({
    kind: fc.constant('move' as const),
    gesture: fc.constantFrom(...gestures),
    to: fc.double({ min: 0, max: 1, noNaN: true }),
    overMs: fc.constantFrom(0, 20),
  }),
  fc.record({
    kind: fc.constantFrom('press' as const, 'let-go' as const),
    gesture: fc.constantFrom(...gestures),
  }),
  fc.record({
    kind: fc.constant('nudge' as const),
    gesture: fc.constantFrom(...gestures),
    by: fc.constantFrom(-0.1, 0.2),
  }),
)

describe('what is played away from the page', () => {
  it('is what is played here, however often the page is told', () => {
    fc.assert(
      fc.property(
        anyRig,
        fc.array(fc.tuple(anyHand, fc.constantFrom(0, 3, 40)), { maxLength: 12 }),
        (rig, hands) => {
          const there = page()
          there.order({ kind: 'load', rig, epoch: 1, keeps: false })
          let state = switchedOn(rig)
          const passed: Passing[] = []
          let at = 0
          for (const [hand, wait] of hands) {
            const step = playRig(rig, state, 'a', hand, at)
            state = step.state
            passed.push(...step.passed)
            there.order({ kind: 'hand', controller: 'a', hand, at })
            there.wait(wait)
            at += wait
          }
          there.wait(100)
          expect(there.passed).toEqual(passed)
          expect(there.view()).toEqual({
            controllers: state.controllers,
            destinations: state.destinations,
            misbehaving: state.misbehaving,
          })
        },
      ),
    )
  })

  it('tells at once, and of much only once a picture; the same message is the same object', () => {
    const rig = nineRingsRig('as-performed')
    const there = page()
    there.order({ kind: 'load', rig, epoch: 1, keeps: false })
    there.wait(50)
    const before = there.news.length
    const move = (to: number): Order => ({
      kind: 'hand',
      controller: 'syzra',
      hand: { kind: 'move', gesture: 'fader-1.slide', to },
      at: 0,
    })
    for (let index = 1; index <= 100; index++) there.order(move(index / 100))
    expect(there.news.length).toBe(before + 1)
    there.wait(20)
    expect(there.news.length).toBe(before + 2)
    expect(there.passed.length).toBeGreaterThanOrEqual(100)
    expect(new Set(there.passed.map(({ message }) => message)).size).toBe(1)
    expect(there.news.flatMap(({ messages }) => messages)).toHaveLength(1)
  })

  it('sends of what stands only what has changed', () => {
    const rig = nineRingsRig('as-performed')
    const there = page()
    there.order({ kind: 'load', rig, epoch: 1, keeps: false })
    there.wait(50)
    const view = there.view()
    there.order({
      kind: 'hand',
      controller: 'syzra',
      hand: { kind: 'move', gesture: 'fader-1.slide', to: 1 },
      at: 0,
    })
    there.wait(50)
    expect(Object.keys(there.news.at(-1)?.change.controllers ?? {})).toEqual(['syzra'])
    expect(there.view().controllers.syzra?.showing).toBe(view.controllers.syzra?.showing)
    expect(there.view().controllers.merrod).toBe(view.controllers.merrod)
  })

  it('follows edits of the rig, and keeps what was played', () => {
    const rig = nineRingsRig('as-performed')
    const there = page()
    there.order({ kind: 'load', rig, epoch: 1, keeps: false })
    const up: Hand = { kind: 'move', gesture: 'fader-1.slide', to: 1 }
    there.order({ kind: 'hand', controller: 'syzra', hand: up, at: 0 })
    const { step } = perform(rig, 'x', [
      { type: 'controller-set', controller: 'syzra', set: { homeChannel: 9 } },
    ] as never)
    there.order({ kind: 'patch', patches: JSON.stringify(step.patches) })
    there.order({ kind: 'hand', controller: 'syzra', hand: { ...up, to: 0 }, at: 5 })
    there.wait(50)
    expect(there.view().controllers.syzra?.positions['fader-1.slide']).toBe(0)
    const channels = there.passed.map(({ bytes }) => ((bytes[0] ?? 0) & 15) + 1)
    expect(channels.at(-1)).toBe(9)
    expect(channels[0]).not.toBe(9)
  })

  it('begins anew under a new number, and lets an MSB count alone when its LSB does not come', () => {
    const rig = nineRingsRig('as-performed')
    const fader = rig.controllers.find(({ id }) => id === 'syzra')?.templates[0]?.base['fader-1.slide']
      ?.messages[0]
    if (fader?.kind !== 'cc14' || typeof fader.number !== 'number') throw new Error('fader 1 is no 14-bit CC')
    const there = page()
    there.order({ kind: 'load', rig, epoch: 1, keeps: false })
    there.order({ kind: 'hear', controller: 'syzra', stream: 's', bytes: [0xb0, fader.number, 64], at: 0 })
    expect(there.passed).toEqual([])
    there.wait(31)
    there.wait(31)
    expect(there.passed.map(({ value }) => value)).toEqual([64 * 128])
    expect(there.news.at(-1)?.heard).toEqual(['syzra/fader-1.slide'])
    there.order({ kind: 'restart', epoch: 2 })
    there.wait(50)
    expect(there.news.at(-1)?.epoch).toBe(2)
    expect(there.view().controllers.syzra?.positions).toEqual({})
  })

  it('sends by real ports what arrives there, and lights only when they change', () => {
    const rig = nineRingsRig('as-performed')
    const there = page()
    there.order({ kind: 'connect', outlets: ['pelluna/usb-in', 'ondrel-vi/in'], real: [] })
    there.order({ kind: 'load', rig, epoch: 1, keeps: false })
    there.wait(50)
    const first = [...there.outs]
    expect(first.length).toBeGreaterThan(30)
    expect(first.every(([port]) => port === 'pelluna/usb-in')).toBe(true)
    there.order({
      kind: 'hand',
      controller: 'merrod',
      hand: { kind: 'press', gesture: 'keys.strike', key: 60 },
      at: 0,
    })
    there.wait(50)
    const then = there.outs.slice(first.length)
    expect(then.some(([port, [status = 0]]) => port === 'ondrel-vi/in' && (status & 0xf0) === 0x90)).toBe(
      true,
    )
    expect(then.filter(([port]) => port === 'pelluna/usb-in')).toEqual([])
  })
})
