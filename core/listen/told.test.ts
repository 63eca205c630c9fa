import { describe, expect, it } from 'vitest'
import { guessFacts, guessFor, listen, LISTEN_START, sendersIn, type ListenState } from '.'

const told = (state: ListenState, at: number, bytes: number[]): ListenState =>
  listen(state, { kind: 'told', at, bytes })
const heard = (state: ListenState, at: number, bytes: number[]): ListenState =>
  listen(state, { kind: 'message', at, bytes })
const moved = (state: ListenState, at: number): ListenState =>
  Array.from({ length: 60 }, (_, index) => index).reduce(
    (now, index) => heard(now, at + index * 10, [0xb0, 20, index * 2]),
    state,
  )

describe('hardware that says again what it is told', () => {
  it('moves nothing by that, and is known to do so', () => {
    const echoed = [10, 90, 30].reduce(
      (state, value, index) =>
        heard(told(state, index * 500, [0xb0, 20, value]), index * 500 + 4, [0xb0, 20, value]),
      LISTEN_START,
    )
    expect(sendersIn(echoed)).toEqual([])
    const guess = guessFor(moved(echoed, 5000), '1:cc20')
    expect(guess).toMatchObject({ isConfident: true, echoes: 3, low: 0 })
    expect(guess && guessFacts(guess).join(' ')).toMatch(/says again what it is told: 3 times/)
  })

  it('is moved where it says something else, the same again later, or the same twice', () => {
    const once = told(LISTEN_START, 0, [0xb0, 20, 64])
    const count = (state: ListenState): number => sendersIn(state)[0]?.trail.heard ?? 0
    expect(count(heard(once, 5, [0xb0, 20, 65]))).toBe(1)
    expect(count(heard(once, 400, [0xb0, 20, 64]))).toBe(1)
    expect(count(heard(heard(once, 5, [0xb0, 20, 64]), 9, [0xb0, 20, 64]))).toBe(1)
  })

  it('passes through what lies on the way of its motor, and is not moved by that', () => {
    const byHand = moved(LISTEN_START, 0)
    const before = sendersIn(byHand)[0]?.trail.heard ?? 0
    const driven = (state: ListenState, at: number, way: readonly number[], to: number): ListenState =>
      way.reduce(
        (now, value, index) => heard(now, at + 10 + index * 20, [0xb0, 20, value]),
        told(state, at, [0xb0, 20, to]),
      )
    // It stood at 118.
    const down = driven(byHand, 5000, [110, 90, 64, 31, 12], 12)
    const up = driven(down, 9000, [20, 57, 99], 99)
    expect(sendersIn(up)[0]?.trail.heard).toBe(before)
    expect(guessFor(up, '1:cc20')?.echoes).toBe(2)
    // A hand that holds it against its motor is heard.
    const held = driven(up, 12_000, [90, 95, 101], 10)
    expect(sendersIn(held)[0]?.trail.heard).toBe(before + 2)
    // Where a hand has left it, it is known to stand.
    const byHandAgain = told(heard(up, 15_000, [0xb0, 20, 20]), 15_010, [0xb0, 20, 20])
    const onward = [30, 40, 50].reduce(
      (now, value, index) => heard(now, 15_020 + index, [0xb0, 20, value]),
      byHandAgain,
    )
    expect(sendersIn(onward)[0]?.trail.heard).toBe(before + 4)
    // So is what comes after the motor has come to rest.
    expect(sendersIn(heard(up, 20_000, [0xb0, 20, 98]))[0]?.trail.heard).toBe(before + 1)
  })

  it('passes with both halves of a pair', () => {
    const pair = (state: ListenState, at: number, value: number): ListenState =>
      heard(heard(state, at, [0xb0, 20, value >> 7]), at + 1, [0xb0, 52, value & 127])
    const byHand = Array.from({ length: 60 }, (_, index) => index).reduce(
      (now, index) => pair(now, index * 10, index * 200),
      LISTEN_START,
    )
    const before = sendersIn(byHand).map(({ trail }) => trail.heard)
    const sent = told(told(byHand, 5000, [0xb0, 20, 10]), 5000, [0xb0, 52, 3])
    const driven = [10_000, 7000, 4000, 2000, 1283].reduce(
      (now, value, index) => pair(now, 5010 + index * 15, value),
      sent,
    )
    expect(sendersIn(driven).map(({ trail }) => trail.heard)).toEqual(before)
  })

  it('is heard in full where each value is told back while a hand moves it', () => {
    const values = Array.from({ length: 80 }, (_, index) => Math.round(60 + 60 * Math.sin(index / 8)))
    for (const late of [0, 1, 3]) {
      const state = values.reduce((now, value, index) => {
        const at = index * 12
        const answer = values[index - late]
        const next = heard(now, at, [0xb0, 20, value])
        return answer === undefined ? next : told(next, at + 5, [0xb0, 20, answer])
      }, LISTEN_START)
      const guess = guessFor(state, '1:cc20')
      expect(guess).toMatchObject({ isConfident: true, high: 120, low: 0 })
      // At most what is told late on a way back is taken for its motor.
      expect(sendersIn(state)[0]?.trail.heard).toBeGreaterThan(values.length * (late === 0 ? 0.9 : 0.6))
    }
  })

  it('keeps little of what it was told, however much that is', () => {
    const flooded = Array.from({ length: 5000 }, (_, index) => index).reduce(
      (state, index) => told(state, index / 100, [0xb0, index % 128, index % 97]),
      LISTEN_START,
    )
    expect(Object.keys(flooded.told).length).toBeLessThanOrEqual(65)
    expect(Object.keys(flooded.motors).length).toBeLessThanOrEqual(64)
  })
})
