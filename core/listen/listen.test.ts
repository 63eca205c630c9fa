import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cases } from '../testing/cases'
import { hearAll, played, tagOf } from '../testing/heard-player'
import { anyHardware, anyTrouble } from '../testing/heard-streams'
import {
  ASKED_PRESSES,
  guessesOf,
  guessFacts,
  guessFor,
  listen,
  sendersIn,
  LISTEN_START,
  type Guess,
  type ListenState,
} from '.'

const MOST = cases(200)

describe('a listener', () => {
  it('is never sure of what is not so, whatever is played and lost on the way', () => {
    fc.assert(
      fc.property(anyHardware, anyTrouble, fc.integer(), (hardware, trouble, seed) => {
        for (const guess of played(hardware, trouble, seed).steps)
          if (guess.isConfident)
            expect({ ...guess.fitting[0], tag: tagOf(guess) }).toEqual({
              ...hardware.truth,
              tag: hardware.tag,
            })
      }),
      MOST,
    )
  })

  it('is sure of nearly everything after three gestures at most', () => {
    let [sure, all] = [0, 0]
    const open = new Map<string, number>()
    fc.assert(
      fc.property(anyHardware, anyTrouble, fc.integer(), (hardware, trouble, seed) => {
        const { guess } = played(hardware, trouble, seed)
        all++
        if (guess?.isConfident) sure++
        else {
          const key = `${hardware.truth.kind} ${hardware.tag.replace(/\d+/g, '')} ${guess?.fitting.map(({ kind }) => kind).join()} ${guess?.asks.join()}`
          open.set(key, (open.get(key) ?? 0) + 1)
        }
      }),
      MOST,
    )
    expect(sure / all, JSON.stringify([...open])).toBeGreaterThan(0.99)
  })
})

/** What is heard of messages that come `every` ms. */
const heardOf = (messages: readonly number[][], every = 300, from: ListenState = LISTEN_START): ListenState =>
  hearAll(
    from,
    messages.map((bytes, index) => ({ at: index * every, bytes })),
  )
const only = (state: ListenState): Guess => {
  const [guess, ...others] = guessesOf(state)
  if (!guess || others.length > 0) throw new Error('not one guess')
  return guess
}
const kinds = ({ fitting }: Guess): string[] =>
  fitting.map((manner) => (manner.kind === 'relative' ? manner.encoding : manner.kind)).toSorted()

describe('what several things explain', () => {
  const alternating = Array.from({ length: 20 }, (_, index) => [0xb0, 20, index % 2 === 0 ? 127 : 0])
  it('is told as all of them: held and on/off look the same until it is known how often it was pressed', () => {
    const open = only(heardOf(alternating))
    expect([open.isConfident, kinds(open)]).toEqual([false, ['momentary', 'toggle']])
    expect(open.asks[0]).toBe('press')
    const asked = listen(LISTEN_START, { kind: 'asked', ask: 'press', sender: '1:cc20' })
    const answered = (count: number): Guess =>
      only(listen(heardOf(alternating.slice(0, count), 300, asked), { kind: 'answered' }))
    expect(answered(ASKED_PRESSES).fitting[0]?.kind).toBe('toggle')
    expect(kinds(answered(2 * ASKED_PRESSES))).toEqual(['momentary'])
  })

  it('is turned both ways before an encoding is believed', () => {
    const ups = only(heardOf(Array.from({ length: 12 }, () => [0xb0, 20, 1])))
    expect(ups.isConfident).toBe(false)
    expect(kinds(ups)).toEqual(['sign-magnitude', 'trigger', 'twos-complement'])
    const both = (down: number): Guess =>
      only(
        heardOf([
          ...Array.from({ length: 6 }, () => [0xb0, 20, 1]),
          ...Array.from({ length: 6 }, () => [0xb0, 20, down]),
        ]),
      )
    expect([both(127).isConfident, kinds(both(127))]).toEqual([true, ['twos-complement']])
    expect([both(65).isConfident, kinds(both(65))]).toEqual([true, ['sign-magnitude']])
  })

  it('has as many clicks a turn as come when it is turned once round, one way', () => {
    const turned = [1, 127].flatMap((value) => Array.from({ length: 6 }, () => [0xb0, 20, value]))
    const sure = heardOf(turned)
    const round = (values: readonly number[]): number | null | undefined => {
      const asked = listen(sure, { kind: 'asked', ask: 'round', sender: '1:cc20' })
      const heard = hearAll(
        asked,
        values.map((value, index) => ({ at: 9000 + index * 90, bytes: [0xb0, 20, value] })),
      )
      return guessFor(listen(heard, { kind: 'answered' }), '1:cc20')?.clicksATurn
    }
    expect(guessFor(sure, '1:cc20')?.clicksATurn).toBeNull()
    expect(round(Array.from({ length: 24 }, () => 1))).toBe(24)
    expect(round([126, 127, 127, 126, 127])).toBe(7)
    expect(round([1, 1, 127, 1])).toBeNull()
  })

  it('is a knob or clicks while it stays around its middle', () => {
    const near = [60, 61, 62, 63, 65, 66, 67, 68, 69, 68, 67, 66, 65, 63, 62, 61].map((value) => [
      0xb0,
      20,
      value,
    ])
    const guess = only(heardOf(near, 10))
    expect([guess.isConfident, kinds(guess)]).toEqual([false, ['offset-binary', 'swept']])
    expect(guess.asks[0]).toBe('sweep')
  })

  it('is one value or two axes while two CC 32 apart go evenly together', () => {
    const even = Array.from({ length: 60 }, (_, index) => [
      [0xb0, 16, index],
      [0xb0, 48, index + 3],
    ]).flat()
    const guesses = guessesOf(heardOf(even, 4))
    expect(guesses.map(({ isConfident }) => isConfident)).toEqual([false, false])
    const straight = Array.from({ length: 30 }, (_, index) => [0xb0, 16, 90 - index])
    const later = hearAll(
      heardOf(even, 4),
      straight.map((bytes, index) => ({ at: 5000 + index * 10, bytes })),
    )
    const up = Array.from({ length: 70 }, (_, index) => [0xb0, 16, index])
    const alone = hearAll(
      later,
      up.map((bytes, index) => ({ at: 9000 + index * 10, bytes })),
    )
    expect(guessFor(alone, '1:cc16')).toMatchObject({ isConfident: true, fitting: [{ kind: 'swept' }] })
  })
})

describe('what is to be known besides', () => {
  it('how far it came, and what was skipped', () => {
    const values = [...Array(101).keys()].filter((value) => value !== 50)
    const guess = only(
      heardOf(
        values.map((value) => [0xb4, 20, value]),
        10,
      ),
    )
    expect(guess).toMatchObject({ low: 0, high: 100, skipped: 1, isConfident: true })
    expect(guessFacts(guess).join(' ')).toMatch(/0 to 100[\s\S]*calibrating/)
  })
  it('how notes are struck and end, in which order halves come, and whether numbers are left out', () => {
    const fixed = [0x92, 40, 99]
    const soft = only(heardOf([fixed, [0x82, 40, 0], fixed, [0x82, 40, 0], fixed, [0x82, 40, 0]]))
    expect(soft).toMatchObject({ isFixedVelocity: true, ends: 'note-off', high: 99 })
    const sensed = only(
      heardOf([
        [0x92, 40, 9],
        [0x92, 40, 0],
        [0x92, 40, 80],
        [0x92, 40, 0],
        [0x92, 40, 44],
      ]),
    )
    expect(sensed).toMatchObject({ isFixedVelocity: false, ends: 'velocity-zero', low: 9, high: 80 })
    const parameter = (value: number): number[][] => [[0xb0, 6, value]]
    const select = [
      [0xb0, 99, 1],
      [0xb0, 98, 5],
    ]
    const spared = heardOf([...select, ...parameter(1), ...parameter(2), ...parameter(3), ...parameter(4)])
    expect(guessFor(spared, '1:nrpn133')?.omitsNumber).toBe(true)
    const always = heardOf([1, 2, 3, 4].flatMap((value) => [...select, ...parameter(value)]))
    expect(guessFor(always, '1:nrpn133')?.omitsNumber).toBe(false)
  })
  it('increments are steps, and signals have no value', () => {
    const steps = heardOf([
      [0xb0, 101, 0],
      [0xb0, 100, 1],
      [0xb0, 96, 0],
      [0xb0, 97, 0],
    ])
    expect(only(steps)).toMatchObject({ isConfident: true, fitting: [{ kind: 'steps' }] })
    expect(only(heardOf([[0xfa]]))).toMatchObject({ isConfident: true, fitting: [{ kind: 'signal' }] })
  })
})

describe('anything at all', () => {
  it('is heard without an exception, and clock and active sensing are nobody', () => {
    expect(guessesOf(heardOf([[0xf8], [0xfe], [0xf8]]))).toEqual([])
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: 4 }), {
          maxLength: 200,
        }),
        (messages) => {
          for (const guess of guessesOf(heardOf(messages, 3))) expect(guess.points.length).toBeGreaterThan(0)
        },
      ),
    )
  })
  it('is kept within bounds, and a state before goes on seeing what it saw', () => {
    let state = LISTEN_START
    for (let index = 0; index < 5000; index++)
      state = listen(state, { kind: 'message', at: index, bytes: [0xb0, 20, index % 128] })
    const before = only(state).points
    const branch = listen(state, { kind: 'message', at: 5000, bytes: [0xb0, 20, 1] })
    const other = listen(state, { kind: 'message', at: 5000, bytes: [0xb0, 20, 2] })
    expect(before.length).toBeLessThanOrEqual(1024)
    expect(only(state).points).toEqual(before)
    expect([only(branch).points.at(-1)?.value, only(other).points.at(-1)?.value]).toEqual([1, 2])
    let many = LISTEN_START
    for (let channel = 0; channel < 16; channel++)
      for (let note = 0; note < 128; note++)
        for (const status of [0x90, 0xa0])
          many = listen(many, { kind: 'message', at: 0, bytes: [status + channel, note, 5] })
    expect(sendersIn(many)).toHaveLength(2048)
    expect(many.overflow).toBe(2048)
  })
})
