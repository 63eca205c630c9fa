import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Passing } from '#core/bench'
import { appendTo, EMPTY_TAPE, holesOf, MOST_KEPT, type LanePoint } from './tape'
import { cases } from '../../../core/testing/cases'

const message = (at: number): Passing => ({
  at,
  place: { controller: 'a', template: 't', layer: null, gesture: 'k.turn' },
  messageIndex: 0,
  message: { kind: 'pitchBend', moment: 'move', channel: 1, range: { low: 0, high: 16383 } },
  amount: { kind: 'share', of: 0 },
  value: 0,
  key: 0,
  bytes: [0xe0, 0, 0],
  controller: 'a',
  arrived: [],
})

describe('the tape', () => {
  it('keeps everything in order, and never more than it says, whatever comes at once', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 40_000 }), { maxLength: 12 }), (sizes) => {
        let tape = EMPTY_TAPE
        let at = 0
        for (const size of sizes) {
          const before = tape.count
          const old = tape
          tape = appendTo(
            tape,
            Array.from({ length: size }, () => message(at++)),
          )
          expect(old.count).toBe(before)
          expect(tape.count + tape.dropped).toBe(at)
          expect(tape.count).toBeLessThanOrEqual(MOST_KEPT + 10_000)
          if (tape.count > 0) {
            expect(tape.messages[tape.count - 1]?.at).toBe(at - 1)
            expect(tape.messages[0]?.at).toBe(tape.dropped)
          }
        }
      }),
      cases(9),
    )
  })
})

describe('a stroke', () => {
  const stroke = (values: readonly number[], everyMs = 10): LanePoint[] =>
    values.map((value, index) => ({ at: index * everyMs, level: value / 127, value, isBlow: false }))
  const sweep = Array.from({ length: 128 }, (_, value) => value)

  it('that is whole has no hole, slow or fast', () => {
    expect(holesOf(stroke(sweep))).toEqual([])
    expect(holesOf(stroke(sweep.filter((value) => value % 9 === 0)))).toEqual([])
  })

  it('with values left out shows where, and a pause is none', () => {
    const broken = sweep.filter((value) => value < 32 || value > 47)
    expect(holesOf(stroke(broken)).map(({ from, to }) => [from.value, to.value])).toEqual([[31, 48]])
    const paused = stroke(broken).map((point) =>
      point.value > 47 ? { ...point, at: point.at + 900 } : point,
    )
    expect(holesOf(paused)).toEqual([])
  })
})
