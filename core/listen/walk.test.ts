import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { printTag } from '../midi'
import { layOut, usualPlan, type Control, type ControlKind } from '../rig'
import { randomFrom } from '../testing/heard-player'
import {
  anyButton,
  anyEncoder,
  anyPad,
  anySlider,
  anyTrouble,
  troubled,
  type Hardware,
  type Sent,
} from '../testing/heard-streams'
import { ASKED_CLICKS, ASKED_PRESSES, finishWalk, knownIn, startWalk, walk, type Known, type Walk } from '.'
import { cases } from '../testing/cases'

const EMPTY = { width: 400, height: 300, blocks: [], controls: [] }
const steps = (kind: ControlKind, columns: number): Control[] =>
  layOut(EMPTY, { ...usualPlan(kind), columns }, { x: 10, y: 10 }).controls

const heardBy = (before: Walk, sent: readonly Sent[], isKnown = false): Walk =>
  sent.reduce((now, { at, bytes }) => walk(now, { kind: 'message', at, bytes, isKnown }), before)
const waited = (before: Walk, at: number): Walk => walk(before, { kind: 'time', at })
const all = (now: Walk): string[] =>
  now.steps.flatMap((control) =>
    knownIn(now, control).map(
      ({ gesture, guess, manner, state }) =>
        `${control.id}.${gesture} ${guess.address ? printTag(guess.address) : guess.sender} ${manner?.kind ?? 'unknown'} ${state}`,
    ),
  )

/** A movement of one CC from one end to the other and back. */
const moved = (at: number, status: number, number: number, ms = 800): Sent[] =>
  Array.from({ length: 80 }, (_, index) => ({
    at: at + (index * ms) / 80,
    bytes: [status, number, index < 40 ? index * 3 : (79 - index) * 3],
  }))
const held = (at: number, bytes: number[], ms: number): Sent[] => [
  { at, bytes: [...bytes, 127] },
  { at: at + ms, bytes: [...bytes, 0] },
]
const inOrder = (...sent: Sent[][]): Sent[] => sent.flat().sort((a, b) => a.at - b.at)

/** What a hand does along the hardware: what was asked for. */
const handled = (hardware: Hardware, random: () => number, at: number): Sent[] =>
  hardware.press?.(random, at, ASKED_PRESSES) ??
  (hardware.truth.kind === 'relative'
    ? hardware.clicks?.(random, at, ASKED_CLICKS)
    : hardware.sweep?.(random, at)) ??
  []

const KINDS = [
  { kind: 'button', hardware: anyButton },
  { kind: 'pad', hardware: anyPad },
  { kind: 'fader', hardware: anySlider },
  { kind: 'knob', hardware: anySlider },
  { kind: 'encoder', hardware: anyEncoder },
] as const

describe('going along the hardware', () => {
  it('gives every control its own sender in order, and is never sure of what is not so', () => {
    let [sure, count] = [0, 0]
    const row = fc.constantFrom(...KINDS).chain(({ kind, hardware }) =>
      fc.record({
        kind: fc.constant(kind),
        // Each on a channel of its own, so that none can be taken for another.
        row: fc.uniqueArray(hardware, {
          minLength: 1,
          maxLength: 4,
          selector: ({ tag }) => tag.split(':')[0],
        }),
        trouble: anyTrouble,
        seed: fc.integer(),
      }),
    )
    fc.assert(
      fc.property(row, ({ kind, row: hardware, trouble, seed }) => {
        const random = randomFrom(seed)
        let now = startWalk(steps(kind, hardware.length))
        hardware.forEach((each, index) => {
          const at = index * 20_000
          // What is touched by accident is told apart where a movement lies beside it.
          const touched = each.press ? 0 : trouble.touched
          now = waited(
            heardBy(now, troubled(handled(each, random, at), { ...trouble, touched }, random)),
            at + 19_000,
          )
        })
        const found = now.steps.map((control) => knownIn(now, control))
        found.forEach((known, index) => {
          const own = hardware[index]
          const [first] = known
          if (!own || !first) return
          count++
          if (first.state !== 'sure') return
          sure++
          expect({ ...first.manner, tag: tagOf(first) }).toEqual({ ...own.truth, tag: own.tag })
        })
        expect(found.filter((known) => known.length === 1).length).toBe(hardware.length)
      }),
      cases(29),
    )
    expect(sure / count).toBeGreaterThan(0.8)
  })

  it('takes a touch for a gesture of what it comes with, and never for the next control', () => {
    const fader = (at: number, index: number): Sent[] =>
      inOrder(held(at, [0xb0, 110 + index], 1100), moved(at + 150, 0xb0, 20 + index))
    const now = waited(heardBy(startWalk(steps('fader', 2)), inOrder(fader(0, 0), fader(3000, 1))), 8000)
    expect(all(now)).toEqual([
      'fader-1.slide 1:cc20 swept sure',
      'fader-1.touch 1:cc110 momentary along',
      'fader-2.slide 1:cc21 swept sure',
      'fader-2.touch 1:cc111 momentary along',
    ])
    expect([now.next, now.others]).toEqual([2, []])
  })

  it('takes a value in two halves for one control, also where it rests on the way and the LSB comes first', () => {
    const stepped = (at: number, from: number, to: number): Sent[] =>
      Array.from({ length: 160 }, (_, index) => {
        // A hand as even as this makes the LSB go in even steps, as an axis of its own would.
        const value = Math.round(from + ((to - from) * index) / 159)
        return [
          { at: at + index * 11, bytes: [0xb0, 48, value % 128] },
          { at: at + index * 11, bytes: [0xb0, 16, value >> 7] },
        ]
      }).flat()
    const rested = [...stepped(0, 99, 15_700), ...stepped(2500, 15_700, 97)]
    const once = waited(heardBy(startWalk(steps('knob', 2)), rested), 12_000)
    expect([once.next, Object.values(once.belongs).map(({ control }) => control)]).toEqual([1, ['knob-1']])
    const twice = waited(heardBy(once, moved(20_000, 0xb1, 3)), 30_000)
    expect(all(twice)[1]).toBe('knob-2.turn 2:cc3 swept sure')
  })

  it('gives no control a gesture that it does not have, where it is only learned', () => {
    const sent = inOrder(held(0, [0xb0, 110], 1100), moved(150, 0xb0, 20))
    const now = waited(heardBy(startWalk(steps('fader', 2), { adds: false }), sent), 8000)
    expect([all(now), now.others]).toEqual([['fader-1.slide 1:cc20 swept sure'], ['1:cc110']])
    const sensing = steps('fader', 1).map((each) => ({
      ...each,
      gestures: [...each.gestures, 'touch' as const],
    }))
    expect(all(waited(heardBy(startWalk(sensing, { adds: false }), sent), 8000))).toHaveLength(2)
  })

  it('takes a touch later, where the hand rested on it for long the first time', () => {
    const first = inOrder(held(0, [0xb0, 110], 9000), moved(4000, 0xb0, 20))
    const once = waited(heardBy(startWalk(steps('fader', 2)), first), 14_000)
    expect(all(once)).toEqual(['fader-1.slide 1:cc20 swept sure'])
    const again = inOrder(held(20_000, [0xb0, 110], 1100), moved(20_100, 0xb0, 20))
    const twice = waited(heardBy(once, again), 30_000)
    expect(all(twice)).toContain('fader-1.touch 1:cc110 momentary along')
    expect(twice.next).toBe(1)
  })

  it('takes a push for the encoder that was turned before it', () => {
    const clicks = (at: number, number: number): Sent[] =>
      [1, 1, 1, 1, 1, 127, 127, 127, 127, 127].map((value, index) => ({
        at: at + index * 120,
        bytes: [0xb0, number, value],
      }))
    const pushes = (at: number, number: number): Sent[] =>
      Array.from({ length: 6 }, (_, index) => held(at + index * 700, [0xb0, number], 120)).flat()
    const touched = (at: number, ms: number): Sent[] => held(at, [0xb0, 90], ms)
    const sent = inOrder(
      touched(0, 1600),
      clicks(200, 30),
      pushes(4000, 50),
      clicks(12_000, 31),
      pushes(16_000, 51),
    )
    const now = waited(heardBy(startWalk(steps('encoder', 3)), sent), 30_000)
    expect(all(now)).toEqual([
      'encoder-1.turn 1:cc30 relative sure',
      'encoder-1.touch 1:cc90 momentary along',
      'encoder-1.push 1:cc50 momentary sure',
      'encoder-2.turn 1:cc31 relative sure',
      'encoder-2.push 1:cc51 momentary sure',
    ])
    expect(now.next).toBe(2)
  })

  it('tells the axes of a surface by which is moved across first, at once or one after the other', () => {
    const both = inOrder(held(0, [0xb0, 92], 3000), moved(100, 0xb0, 12), moved(1200, 0xb0, 45))
    const once = waited(heardBy(startWalk(steps('xy', 1)), both), 9000)
    expect(all(once)).toEqual([
      'xy-1.x 1:cc12 swept sure',
      'xy-1.y 1:cc45 swept sure',
      'xy-1.touch 1:cc92 momentary along',
    ])
    const apart = inOrder(moved(0, 0xb0, 12), moved(4000, 0xb0, 13))
    expect(all(waited(heardBy(startWalk(steps('xy', 1)), apart), 9000))).toEqual([
      'xy-1.x 1:cc12 swept sure',
      'xy-1.y 1:cc13 swept sure',
    ])
  })

  it('gives a pad its pressure, also where all pads of a channel share it', () => {
    const pad = (at: number, note: number): Sent[] => [
      { at, bytes: [0x90, note, 90] },
      ...Array.from({ length: 12 }, (_, index) => ({ at: at + 60 + index * 20, bytes: [0xd0, index * 10] })),
      { at: at + 500, bytes: [0x80, note, 64] },
    ]
    const now = waited(heardBy(startWalk(steps('pad', 2)), inOrder(pad(0, 36), pad(3000, 37))), 9000)
    expect(all(now).map((line) => line.split(' ').slice(0, 2).join(' '))).toEqual([
      'pad-1.strike 1:note36',
      'pad-1.pressure 1:pressure',
      'pad-2.strike 1:note37',
      'pad-2.pressure 1:pressure',
    ])
  })

  it('takes all keys of a keyboard together, from the lowest to the highest', () => {
    const keys = [48, 84, 60, 72].flatMap((note, index) => [
      { at: index * 900, bytes: [0x90, note, 60 + index] },
      { at: index * 900 + 200, bytes: [0x80, note, 64] },
    ])
    const now = waited(heardBy(startWalk(steps('keybed', 1)), keys), 9000)
    const [known] = now.steps[0] ? knownIn(now, now.steps[0]) : []
    expect(known?.keys).toEqual({ low: 48, high: 84 })
  })

  it('takes a CC that is 32 above another for a control of its own, and for a half only with its MSB', () => {
    const two = waited(
      heardBy(startWalk(steps('fader', 2)), inOrder(moved(0, 0xb0, 16), moved(4000, 0xb0, 48))),
      9000,
    )
    expect(all(two).map((line) => line.split(' ').slice(0, 2).join(' '))).toEqual([
      'fader-1.slide 1:cc16',
      'fader-2.slide 1:cc48',
    ])
    // Which it is can be told when the first one is moved again by itself.
    const again = waited(heardBy(two, moved(12_000, 0xb0, 16)), 18_000)
    expect(all(again)).toEqual(['fader-1.slide 1:cc16 swept sure', 'fader-2.slide 1:cc48 swept sure'])
    const whole = Array.from({ length: 200 }, (_, index) => [
      { at: index * 8, bytes: [0xb0, 16, (index * 67) >> 7] },
      { at: index * 8 + 1, bytes: [0xb0, 48, (index * 67) & 127] },
    ]).flat()
    const one = waited(heardBy(startWalk(steps('fader', 2)), whole), 9000)
    expect(all(one)).toEqual(['fader-1.slide 1:cc16+48 swept sure'])
    const fine = waited(heardBy(one, [{ at: 20_000, bytes: [0xb0, 48, 5] }]), 30_000)
    expect([fine.next, fine.others]).toEqual([1, []])
    // Its first half is spared at first, so that it is not known from the first message on what it is.
    const spared = inOrder(
      whole.slice(0, 40),
      Array.from({ length: 6 }, (_, index) => ({ at: 800 + index * 60, bytes: [0xb0, 48, index * 3] })),
      whole.slice(40).map((each) => ({ ...each, at: each.at + 1500 })),
    )
    const slow = waited(heardBy(startWalk(steps('fader', 3)), spared), 9000)
    expect([all(slow), slow.next]).toEqual([['fader-1.slide 1:cc16+48 swept sure'], 1])
  })

  it('is no zone where a keyboard is split over two channels: the second one is left out', () => {
    const key = (at: number, on: number, note: number): Sent[] => [
      { at, bytes: [0x90 + on - 1, note, 80] },
      { at: at + 200, bytes: [0x80 + on - 1, note, 64] },
    ]
    const split = [...key(0, 2, 40), ...key(900, 2, 60), ...key(1800, 3, 72)]
    const now = waited(heardBy(startWalk(steps('keybed', 1)), split), 9000)
    const [known] = now.steps[0] ? knownIn(now, now.steps[0]) : []
    expect([known?.keys, known?.zone]).toEqual([{ low: 40, high: 60 }, null])
    expect(now.others).toEqual(['3:note72'])
    // Bent each by itself, they are one.
    const bent = [
      ...key(0, 2, 40),
      { at: 100, bytes: [0xe1, 0, 80] },
      ...key(900, 3, 60),
      { at: 1000, bytes: [0xe2, 0, 80] },
    ].sort((a, b) => a.at - b.at)
    const zone = waited(heardBy(startWalk(steps('keybed', 1)), bent), 9000)
    const [zoned] = zone.steps[0] ? knownIn(zone, zone.steps[0]) : []
    expect(zoned?.zone).toEqual({ manager: 1, members: 2, isTold: false })
  })

  it('leaves what the template has already, and what was drawn before, where it is', () => {
    const known = heardBy(startWalk(steps('fader', 2)), moved(0, 0xb0, 20), true)
    expect([all(waited(known, 5000)), known.next]).toEqual([[], 0])
    const drawn = waited(heardBy(startWalk(steps('fader', 2)), moved(0, 0xb0, 20)), 5000)
    const again = waited(heardBy(drawn, moved(6000, 0xb0, 20)), 12_000)
    expect([again.next, again.belongs, again.last]).toEqual([1, drawn.belongs, 'fader-1'])
  })

  it('can be moved on, and takes back what was wrong', () => {
    const now = waited(
      heardBy(walk(startWalk(steps('fader', 3)), { kind: 'go', to: 1 }), moved(0, 0xb0, 20)),
      5000,
    )
    expect([all(now), now.next]).toEqual([['fader-2.slide 1:cc20 swept sure'], 2])
    const back = walk(now, { kind: 'forget', control: 'fader-2' })
    expect([all(back), back.next]).toEqual([[], 1])
    expect(all(waited(heardBy(back, moved(9000, 0xb0, 20)), 15_000))).toEqual([
      'fader-2.slide 1:cc20 swept sure',
    ])
  })

  it('is not taken in by a neighbour that was touched, a press in place of a movement, or clocks', () => {
    const touched = inOrder(moved(0, 0xb0, 20), [{ at: 300, bytes: [0xb0, 21, 64] }])
    const one = waited(heardBy(startWalk(steps('fader', 2)), touched), 5000)
    expect([all(one), one.others]).toEqual([['fader-1.slide 1:cc20 swept sure'], ['1:cc21']])
    const press = waited(heardBy(startWalk(steps('fader', 2)), held(0, [0xb0, 60], 90)), 5000)
    expect([all(press), press.others, press.next]).toEqual([[], ['1:cc60'], 0])
    const ticks = Array.from({ length: 200 }, (_, index) => ({ at: index * 21, bytes: [0xf8] }))
    expect(all(waited(heardBy(startWalk(steps('button', 2)), ticks), 9000))).toEqual([])
  })

  it('is not sure of three presses of what is held, which are as many messages as six of what goes on and off', () => {
    const presses = (times: number, ms: number): Sent[] =>
      Array.from({ length: times }, (_, index) => held(index * 700, [0xb0, 60], ms)).flat()
    const lazy = waited(heardBy(startWalk(steps('button', 2)), presses(3, 120)), 9000)
    expect(all(lazy)[0]).toMatch(/open$/)
    const asked = waited(heardBy(startWalk(steps('button', 2)), presses(6, 120)), 9000)
    expect(all(asked)).toEqual(['button-1.press 1:cc60 momentary sure'])
  })

  it('is finished at once where the player does not wait: what was pressed is looked at', () => {
    const presses = Array.from({ length: 6 }, (_, index) => held(index * 700, [0xb0, 60], 120)).flat()
    const open = heardBy(startWalk(steps('button', 1)), presses)
    expect(all(open)[0]).toMatch(/open$/)
    expect(all(finishWalk(open))).toEqual(['button-1.press 1:cc60 momentary sure'])
    expect(finishWalk(startWalk([]))).toEqual(startWalk([]))
  })

  it('never breaks, loses its place or takes one sender twice, whatever comes', () => {
    const bytes = fc.oneof(
      fc.tuple(fc.integer({ min: 0x80, max: 0xef }), fc.nat(127), fc.nat(127)),
      fc.tuple(fc.constantFrom(0xf8, 0xfa, 0xfe)),
      fc.tuple(fc.constant(0xf0), fc.nat(127), fc.constant(0xf7)),
    )
    fc.assert(
      fc.property(
        fc.constantFrom(
          ...KINDS.map(({ kind }) => kind),
          'xy' as const,
          'keybed' as const,
          'joystick' as const,
        ),
        fc.array(fc.tuple(fc.nat(900), bytes), { maxLength: 300 }),
        (kind, stream) => {
          let at = 0
          let now = startWalk(steps(kind, 3))
          for (const [gap, message] of stream) {
            at += gap % 3 === 0 ? gap : gap % 12
            now = walk(now, { kind: 'message', at, bytes: [...message], isKnown: gap % 17 === 0 })
          }
          now = waited(now, at + 10_000)
          expect(now.act).toBeNull()
          expect(now.next).toBeGreaterThanOrEqual(0)
          expect(now.next).toBeLessThanOrEqual(now.steps.length)
          for (const { control } of Object.values(now.belongs))
            expect(now.steps.some(({ id }) => id === control)).toBe(true)
        },
      ),
    )
  })
})

const tagOf = ({ guess }: Known): string => (guess.address ? printTag(guess.address) : '')
