import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fullMessage, type MessageInput } from '../testing/rigs'
import type { Parameter } from '../rig'
import { Parameter as ParameterSchema } from '../rig/schema'
import {
  clickSize,
  clicksForSweep,
  mappedRange,
  programShown,
  realSteps,
  shownProgram,
  travelOf,
  turnsForSweep,
  wholeSteps,
  type Travel,
} from '.'

const parameter = (more: object): Parameter => ParameterSchema.parse({ id: 'p', name: 'P', ...more })
const plain = { min: null, max: null, inverted: false, curve: 'linear' as const }
const travel = (message: MessageInput, detentsPerTurn: number | null = null): Travel =>
  travelOf(fullMessage(message), { detentsPerTurn })
const swept = (message: MessageInput): Extract<Travel, { kind: 'sweep' }> => {
  const found = travel(message)
  if (found.kind !== 'sweep') throw new Error(found.kind)
  return found
}

describe('clicks of an encoder', () => {
  const tempo = parameter({ range: { min: 40, max: 200, unit: 'bpm' }, steps: 161, nativeStep: 0.5 })
  it.each([
    [{ kind: 'fraction' as const, of: 1 / 128 }, 1.25],
    [{ kind: 'native' as const }, 1],
    [{ kind: 'per-parameter' as const }, 0.5],
  ])('move by the rule %j', (rule, size) => {
    expect(clickSize(rule, mappedRange(plain, tempo), tempo)).toBeCloseTo(size, 9)
  })

  it('give the turns of a full sweep', () => {
    const range = mappedRange(plain, tempo)
    const clicks = travel(
      { kind: 'cc', number: 1, behaviour: { kind: 'relative', encoding: 'twos-complement' } },
      20,
    )
    expect(clicksForSweep(range, 1)).toBe(160)
    expect(turnsForSweep(clicks, range, 1, 20)).toBe(8)
    expect(turnsForSweep(swept({ kind: 'cc', number: 1 }), range, null, 20)).toBeCloseTo(6.35, 9)
    expect(
      turnsForSweep(
        swept({ kind: 'cc', number: 1, behaviour: { kind: 'absolute', turns: 2 } }),
        range,
        null,
        20,
      ),
    ).toBe(2)
    expect(turnsForSweep(clicks, range, null, 20)).toBeNull()
  })
})

describe('whole steps', () => {
  it('finds 1 unit a click over 72 to 180 for clicks of a 128th', () => {
    const found = wholeSteps({ share: 1 / 128, units: 1, low: 72, high: 180, min: 40, max: 200 })
    expect(found).toEqual({
      kind: 'found',
      width: 128,
      lowest: { min: 52, max: 180 },
      highest: { min: 72, max: 200 },
      middle: { min: 62, max: 190 },
      count: 21,
    })
  })

  it.each([
    [
      { share: 1 / 127, units: 1, low: 0, high: 300, min: 0, max: 400 },
      { kind: 'too-narrow', width: 127, try: 3 },
    ],
    [
      { share: 1 / 127, units: 1, low: 0, high: 50, min: 0, max: 100 },
      { kind: 'too-wide', width: 127, room: 100 },
    ],
    [
      { share: 1 / 10, units: 4, low: 2, high: 40, min: 1, max: 41.5 },
      { kind: 'no-place', width: 40 },
    ],
  ])('says why not for %j', (wanted, why) => {
    expect(wholeSteps(wanted)).toEqual(why)
  })

  it('gives ranges that cover, stay inside and step exactly, and every one of them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 200 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 400 }),
        (steps, units, below, cover, low, above) => {
          const wanted = {
            share: 1 / steps,
            units,
            low,
            high: low + cover,
            min: low - below,
            max: low + cover + above,
          }
          const starts: number[] = []
          for (let start = low; start >= wanted.min; start -= units) {
            if (start + units * steps >= wanted.high && start + units * steps <= wanted.max)
              starts.push(start)
          }
          const found = wholeSteps(wanted)
          expect(found.kind === 'found' ? found.count : 0).toBe(starts.length)
          if (found.kind !== 'found') return
          expect(found.lowest.min).toBe(Math.min(...starts))
          expect(found.highest.min).toBe(Math.max(...starts))
          expect(starts).toContain(found.middle.min)
          expect(realSteps(found.middle, wanted.share, units)).toMatchObject({ still: 0, skipped: 0 })
        },
      ),
    )
  })

  it('refuses ends the wrong way round', () => {
    expect(() => wholeSteps({ share: 0.1, units: 1, low: 5, high: 5, min: 0, max: 9 })).toThrow(RangeError)
  })

  it.each([
    [{ min: 72, max: 180 }, 1 / 128, { each: 0.84375, still: 20, skipped: 0 }],
    [{ min: 0, max: 254 }, 1 / 127, { each: 2, still: 0, skipped: 127 }],
    [{ min: 0, max: 127 }, 1 / 127, { each: 1, still: 0, skipped: 0 }],
  ])('tells what %j really steps by', (range, of, like) => {
    expect(realSteps(range, of, 1)).toMatchObject(like)
  })
})

describe('programs', () => {
  it('count from 0 or 1 and back', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 127 }),
        fc.constantFrom(0 as const, 1 as const),
        (number, from) => {
          expect(programShown(shownProgram(number, from), from)).toBe(number)
        },
      ),
    )
    expect([programShown(0, 1), programShown(129, 1), programShown(1.5, 0)]).toEqual([null, null, null])
  })
})
