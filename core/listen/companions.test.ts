import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hearAll } from '../testing/heard-player'
import type { Sent } from '../testing/heard-streams'
import { companionsOf } from './companions'
import { LISTEN_START } from './listen'

/** A movement of one CC or more at the same times. */
const moved = (numbers: readonly number[], at: number, count = 20): Sent[] =>
  Array.from({ length: count }, (_, index) =>
    numbers.map((number, axis) => ({
      at: at + index * 10 + axis,
      bytes: [0xb0, number, (index * (axis + 1)) % 128],
    })),
  ).flat()
const kindsIn = (sent: readonly Sent[], key: string): string[] =>
  companionsOf(hearAll(LISTEN_START, sent), key).map(({ sender, kind }) => `${sender} ${kind}`)

describe('what goes with a sender', () => {
  const touched = (at: number, number = 20): Sent[] => [
    { at, bytes: [0xb0, 90, 127] },
    ...moved([number], at + 80),
    { at: at + 500, bytes: [0xb0, 90, 0] },
  ]
  it('is its touch, where that comes before every movement and goes after it', () => {
    expect(kindsIn([...touched(0), ...touched(2000)], '1:cc20')).toEqual(['1:cc90 touch'])
    expect(kindsIn(touched(0), '1:cc20')).toEqual([])
    expect(kindsIn([...touched(0), ...touched(2000), ...moved([20], 4000)], '1:cc20')).toEqual([])
    expect(kindsIn([...touched(0), ...touched(2000), ...touched(4000, 21)], '1:cc20')).toEqual([])
  })

  it('is the other axis of a surface, and nothing that moves at another time', () => {
    expect(kindsIn(moved([20, 21], 0), '1:cc20')).toEqual(['1:cc21 axis'])
    expect(kindsIn([...moved([20], 0), ...moved([21], 1000)], '1:cc20')).toEqual([])
  })

  it('is the other axis also where both are moved so slowly that one of them is not said at every reading', () => {
    const slow = Array.from({ length: 120 }, (_, reading): Sent[] => {
      const [across, up] = [Math.floor(reading * 0.64), Math.floor(reading * 0.46)]
      const changed = (rate: number, now: number): boolean => now !== Math.floor((reading - 1) * rate)
      return [
        ...(changed(0.64, across) ? [{ at: reading * 10, bytes: [0xb0, 74, across] }] : []),
        ...(changed(0.46, up) ? [{ at: reading * 10 + 1, bytes: [0xb0, 71, up] }] : []),
      ]
    }).flat()
    expect(kindsIn(slow, '1:cc74')).toEqual(['1:cc71 axis'])
    expect(kindsIn(slow, '1:cc71')).toEqual(['1:cc74 axis'])
  })

  it('is the pressure of a note while it sounds', () => {
    const pad = (at: number): Sent[] => [
      { at, bytes: [0x90, 40, 90] },
      ...Array.from({ length: 8 }, (_, index) => ({ at: at + 30 + index * 10, bytes: [0xd0, index * 9] })),
      { at: at + 400, bytes: [0x80, 40, 0] },
    ]
    expect(kindsIn([...pad(0), ...pad(900)], '1:note40')).toEqual(['1:pressure pressure'])
  })

  it('is nothing of its own, and nothing at all for what was never heard', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 16, max: 56 }), fc.integer({ min: 0, max: 127 }))),
        (all) => {
          const state = hearAll(
            LISTEN_START,
            all.map(([number, value], index) => ({ at: index * 3, bytes: [0xb0, number, value] })),
          )
          expect(companionsOf(state, '9:cc9')).toEqual([])
          for (const [number] of all)
            for (const { sender } of companionsOf(state, `1:cc${number}`))
              expect(sender).not.toBe(`1:cc${number}`)
        },
      ),
    )
  })
})
