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

  it('keeps little of what it was told, however much that is', () => {
    const flooded = Array.from({ length: 5000 }, (_, index) => index).reduce(
      (state, index) => told(state, index / 100, [0xb0, index % 128, index % 97]),
      LISTEN_START,
    )
    expect(Object.keys(flooded.told).length).toBeLessThanOrEqual(65)
  })
})
