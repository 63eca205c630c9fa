import { describe, expect, it } from 'vitest'
import type { Sent } from '../testing/heard-streams'
import { doneBy, movedBy, MOVEMENT_START, type Meant } from '.'

type Told = Sent & { gesture: string }
const told = (gesture: string, sent: readonly Sent[]): Told[] => sent.map((each) => ({ ...each, gesture }))
const swept = (number: number, at: number, count = 40): Sent[] =>
  Array.from({ length: count }, (_, index) => ({ at: at + index * 12, bytes: [0xb0, number, index * 3] }))
const pressed = (number: number, at: number, ms: number): Sent[] => [
  { at, bytes: [0xb0, number, 127] },
  { at: at + ms, bytes: [0xb0, number, 0] },
]
function meantBy(...all: Told[][]): Meant | null {
  const sorted = all.flat().sort((a, b) => a.at - b.at)
  const movement = sorted.reduce((now, event) => movedBy(now, event), MOVEMENT_START)
  return doneBy(movement, (sorted.at(-1)?.at ?? 0) + 1000).meant
}

describe('what a player meant to move', () => {
  it('is the movement, and not the touch that comes before it', () => {
    expect(
      meantBy(told('a/fader-1.touch', pressed(90, 0, 800)), told('a/fader-1.slide', swept(20, 100))),
    ).toEqual({ gesture: 'a/fader-1.slide', others: ['a/fader-1.touch'] })
    expect(meantBy(told('a/fader-1.touch', pressed(90, 0, 800)))).toBeNull()
  })

  it('is the axis that moved most, whichever came first, and the other one is offered', () => {
    const across = told('a/xy.x', swept(12, 0, 6))
    const up = told('a/xy.y', swept(13, 5, 40))
    expect(meantBy(across, up)).toEqual({ gesture: 'a/xy.y', others: ['a/xy.x'] })
  })

  it('is the blow, and not the pressure after it or what was slid along meanwhile', () => {
    const blow: Sent[] = [
      { at: 0, bytes: [0x90, 40, 90] },
      { at: 700, bytes: [0x80, 40, 64] },
    ]
    const leaned = Array.from({ length: 20 }, (_, index) => ({
      at: 40 + index * 20,
      bytes: [0xd0, index * 5],
    }))
    expect(
      meantBy(
        told('a/pad-1.strike', blow),
        told('a/pad-1.pressure', leaned),
        told('a/pad-1.y', swept(30, 60)),
      ),
    ).toMatchObject({ gesture: 'a/pad-1.strike' })
  })

  it('is nothing where something that is moved was only touched, and a press where a button was pressed', () => {
    expect(meantBy(told('a/knob-1.turn', swept(20, 0, 2)))).toBeNull()
    expect(meantBy(told('a/button-1.press', pressed(60, 0, 80)))).toEqual({
      gesture: 'a/button-1.press',
      others: [],
    })
    expect(meantBy(told('a/knob-1.turn', swept(20, 0, 2)), told('a/fader-1.slide', swept(21, 30)))).toEqual({
      gesture: 'a/fader-1.slide',
      others: ['a/knob-1.turn'],
    })
  })

  it('is not told before the hand is done, and once only', () => {
    const going = told('a/fader-1.slide', swept(20, 0)).reduce(
      (now, event) => movedBy(now, event),
      MOVEMENT_START,
    )
    expect(doneBy(going, 500).meant).toBeNull()
    const done = doneBy(going, 2000)
    expect(done.meant?.gesture).toBe('a/fader-1.slide')
    expect(doneBy(done.movement, 3000).meant).toBeNull()
  })
})
