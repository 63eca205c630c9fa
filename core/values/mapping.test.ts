import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fullMessage, type MessageInput } from '../testing/rigs'
import { mappingProblem, type Parameter } from '../rig'
import { Mapping as MappingSchema, Parameter as ParameterSchema } from '../rig/schema'
import {
  coverageOf,
  curveOf,
  endProblem,
  endsOf,
  mappedRange,
  positionOf,
  settled,
  spanOf,
  travelOf,
  valueAt,
  valueFrom,
  valuesOf,
  valueText,
  type MappedRange,
  type Travel,
} from '.'

const curve = fc.constantFrom('linear' as const, 'exponential' as const, 'logarithmic' as const, 's' as const)
const share = fc.double({ min: 0, max: 1, noNaN: true })
const parameter = (more: object): Parameter => ParameterSchema.parse({ id: 'p', name: 'P', ...more })
const plain = { min: null, max: null, inverted: false, curve: 'linear' as const }
const travel = (message: MessageInput, detentsPerTurn: number | null = null): Travel =>
  travelOf(fullMessage(message), { detentsPerTurn })
const swept = (message: MessageInput): Extract<Travel, { kind: 'sweep' }> => {
  const found = travel(message)
  if (found.kind !== 'sweep') throw new Error(found.kind)
  return found
}

const anyRange: fc.Arbitrary<MappedRange> = fc
  .record({
    ends: fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: 1, max: 900 })),
    count: fc.option(fc.integer({ min: 2, max: 300 })),
    inverted: fc.boolean(),
    curve,
  })
  .map(({ ends: [min, width], count, inverted, curve: kind }) => ({
    span: { min, max: min + width, unit: '', count },
    min,
    max: min + width,
    inverted,
    curve: kind,
    rawTop: null,
  }))

describe('curves', () => {
  it('rise throughout, reach both ends, and go back where they came from', () => {
    fc.assert(
      fc.property(curve, share, share, (kind, a, b) => {
        const { at, back } = curveOf(kind)
        expect(at(0)).toBeCloseTo(0, 12)
        expect(at(1)).toBeCloseTo(1, 12)
        expect(back(at(a))).toBeCloseTo(a, 6)
        if (a < b) expect(at(a)).toBeLessThanOrEqual(at(b))
      }),
    )
  })

  it.each([
    ['linear', 0.5],
    ['exponential', 0.2],
    ['logarithmic', 0.7719],
    ['s', 0.5],
  ] as const)('%s gives %d in the middle', (kind, middle) => {
    expect(curveOf(kind).at(0.5)).toBeCloseTo(middle, 4)
  })
})

describe('a mapping', () => {
  it('goes one way only, and an inverted one the other', () => {
    fc.assert(
      fc.property(anyRange, share, share, (range, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)]
        const change = settled(range.span, valueAt(range, high)) - settled(range.span, valueAt(range, low))
        expect(change * (range.inverted ? -1 : 1)).toBeGreaterThanOrEqual(-1e-9)
      }),
    )
  })

  it('reaches both its ends, and leads back from a value to its position', () => {
    fc.assert(
      fc.property(anyRange, share, (range, position) => {
        const ends = [valueFrom(range, 0, 127), valueFrom(range, 127, 127)].sort((a, b) => a - b)
        expect(ends[0]).toBeCloseTo(range.min, 6)
        expect(ends[1]).toBeCloseTo(range.max, 6)
        expect(positionOf(range, valueAt(range, position))).toBeCloseTo(position, 5)
      }),
    )
  })

  it('takes the values of a chart as they are', () => {
    const halo = parameter({ range: { min: -50, max: 950, unit: '' }, fixed: { kind: 'nrpn', number: 640 } })
    const range = mappedRange(plain, halo)
    expect([0, 1, 500, 1000, 16383].map((sent) => valueFrom(range, sent, 16383))).toEqual([
      -50, -49, 450, 950, 950,
    ])
  })

  it('settles on a value that the parameter has, and on that one again', () => {
    fc.assert(
      fc.property(anyRange, fc.double({ min: -2000, max: 2000, noNaN: true }), ({ span }, value) => {
        const to = settled(span, value)
        expect(settled(span, to)).toBeCloseTo(to, 9)
        expect(to).toBeGreaterThanOrEqual(span.min)
        expect(to).toBeLessThanOrEqual(span.max + 1e-9)
      }),
    )
  })

  it.each([
    [{ kind: 'switch' }, { min: 0, max: 1, unit: '', count: 2 }],
    [
      { kind: 'choice', choices: ['a', 'b', 'c'] },
      { min: 0, max: 2, unit: '', count: 3 },
    ],
    [{}, { min: 0, max: 100, unit: '%', count: null }],
    [
      { range: { min: -60, max: 6, unit: 'dB' }, steps: 67 },
      { min: -60, max: 6, unit: 'dB', count: 67 },
    ],
  ])('knows the values of %j', (more, span) => {
    expect(spanOf(parameter(more))).toEqual(span)
  })

  it.each([
    [{ kind: 'switch' }, 1, 'on'],
    [{ kind: 'choice', choices: ['low', 'mid', 'high'] }, 1, 'mid'],
    [{ range: { min: -60, max: 6, unit: 'dB' } }, -12.345, '-12.35 dB'],
    [{ range: { min: 0, max: 127, unit: '' } }, 64, '64'],
  ])('writes a value of %j', (more, value, text) => {
    expect(valueText(parameter(more), value)).toBe(text)
  })
})

describe('what a control sends', () => {
  it.each<[string, MessageInput, number, number[], number]>([
    ['a plain number', { kind: 'cc', number: 1 }, 128, [0, 127], 127],
    ['an inverted range', { kind: 'cc', number: 1, range: { low: 100, high: 20 } }, 81, [100, 20], 127],
    ['five steps', { kind: 'cc', number: 1, resolution: { kind: 'steps', count: 5 } }, 5, [0, 127], 127],
    ['both halves', { kind: 'cc14', number: 1 }, 16384, [0, 16383], 16383],
    ['the first half', { kind: 'cc14', number: 1, halves: 'msb-only' }, 128, [0, 16256], 16256],
    ['a parameter in one byte', { kind: 'nrpn', number: 9, sendsLsb: false }, 128, [0, 16256], 16256],
    ['bend', { kind: 'pitchBend' }, 16384, [0, 16383], 16383],
  ])('sweeps with %s', (_, message, count, ends, top) => {
    const found = swept(message)
    expect([found.count, found.top]).toEqual([count, top])
    expect([found.at(0), found.at(found.count - 1)]).toEqual(ends)
  })

  it.each<[string, MessageInput, object]>([
    [
      'momentary',
      { kind: 'cc', number: 1, behaviour: { kind: 'momentary' } },
      { values: [0, 127], isKept: false },
    ],
    [
      'momentary with a release value',
      { kind: 'cc', number: 1, behaviour: { kind: 'momentary' }, releaseValue: 9 },
      { values: [9, 127] },
    ],
    ['toggle', { kind: 'cc', number: 1, behaviour: { kind: 'toggle' } }, { values: [0, 127], isKept: true }],
    ['trigger', { kind: 'cc', number: 1, behaviour: { kind: 'trigger' } }, { values: [127] }],
    ['one value', { kind: 'cc', number: 1, range: { low: 40, high: 40 } }, { kind: 'points', values: [40] }],
    ['a list', { kind: 'cc', number: 1, behaviour: { kind: 'list', values: [1, 5] } }, { values: [1, 5] }],
    [
      'clicks',
      { kind: 'cc', number: 1, behaviour: { kind: 'relative', encoding: 'offset-binary' } },
      { kind: 'clicks', encoding: 'offset-binary', clicksPerTurn: 24 },
    ],
    [
      'increments',
      { kind: 'nrpn', number: 1, steps: 'increments' },
      { kind: 'clicks', encoding: 'increments' },
    ],
    [
      'a struck note',
      { kind: 'note', keys: { kind: 'one', number: 60 } },
      { kind: 'strike', low: 1, high: 127 },
    ],
    [
      'a note kept on',
      { kind: 'note', keys: { kind: 'one', number: 60 }, behaviour: { kind: 'toggle' } },
      { kind: 'points', values: [0, 127], isKept: true },
    ],
    ['a program', { kind: 'program', number: 3 }, { kind: 'signal' }],
    ['nothing', { kind: 'off' }, { kind: 'nothing' }],
  ])('%s', (_, message, like) => {
    expect(travel(message, 24)).toMatchObject(like)
  })

  it('never leaves what its message can carry, nor turns back on its way', () => {
    const end = fc.integer({ min: 0, max: 127 })
    fc.assert(
      fc.property(end, end, fc.option(fc.integer({ min: 2, max: 128 })), (low, high, count) => {
        fc.pre(low !== high)
        const resolution = count === null ? { kind: 'full' as const } : { kind: 'steps' as const, count }
        const values = valuesOf(swept({ kind: 'cc', number: 1, range: { low, high }, resolution }))
        expect(values[0]).toBe(low)
        expect(values.at(-1)).toBe(high)
        values.forEach((value, index) => {
          expect((value - (values[index - 1] ?? value)) * Math.sign(high - low)).toBeGreaterThanOrEqual(0)
        })
      }),
    )
  })
})

describe('what is reached', () => {
  const volume = parameter({ range: { min: -60, max: 6, unit: 'dB' }, steps: 1024 })

  it('is told of a fader in 7 and in 14 bits', () => {
    const seven = coverageOf(swept({ kind: 'cc', number: 7 }), mappedRange(plain, volume))
    expect(seven).toMatchObject({ lowest: -60, highest: 6, reachesLow: true, reachesHigh: true })
    expect(seven.missed).toMatchObject({ count: 1024 - 128, of: 1024 })
    const fourteen = coverageOf(swept({ kind: 'cc14', number: 7 }), mappedRange(plain, volume))
    expect(fourteen.missed?.count).toBe(0)
    expect(fourteen.smallestStep).toBeCloseTo(66 / 1023, 9)
  })

  it('is the end where no step of the parameter lies between, and not one step before', () => {
    const five = mappedRange(plain, parameter({ range: { min: 0, max: 4, unit: '' }, steps: 5 }))
    const to = (high: number) => coverageOf(swept({ kind: 'cc', number: 7, range: { low: 0, high } }), five)
    expect(to(112)).toMatchObject({ highest: 4, reachesHigh: true })
    expect(to(111)).toMatchObject({ highest: 3, reachesHigh: false })
  })

  it('a chart counts in values of its own as far as 14 bits go', () => {
    const charted = (max: number) =>
      mappedRange(
        plain,
        parameter({ range: { min: 0, max, unit: '' }, fixed: { kind: 'nrpn', number: 1, channel: null } }),
      )
    expect(charted(16_383).rawTop).toBe(16_383)
    expect(charted(16_384).rawTop).toBeNull()
  })

  it('names the end that a short pedal does not get to', () => {
    const pedal = swept({ kind: 'cc', number: 11, range: { low: 0, high: 110 } })
    expect(coverageOf(pedal, mappedRange(plain, volume))).toMatchObject({
      reachesLow: true,
      reachesHigh: false,
    })
    const upside = { ...plain, inverted: true }
    expect(coverageOf(pedal, mappedRange(upside, volume))).toMatchObject({
      reachesLow: false,
      reachesHigh: true,
    })
  })

  it('has its ends where going through all values finds them', () => {
    const end = fc.integer({ min: 0, max: 127 })
    fc.assert(
      fc.property(anyRange, end, end, (range, low, high) => {
        fc.pre(low !== high)
        const sweep = swept({ kind: 'cc', number: 1, range: { low, high } })
        const { lowest, highest, reachesLow, reachesHigh } = coverageOf(sweep, range)
        expect(endsOf(sweep, range)).toEqual({ lowest, highest, reachesLow, reachesHigh })
      }),
    )
  })

  it('counts what is missed as looking at every value does', () => {
    fc.assert(
      fc.property(anyRange, fc.integer({ min: 2, max: 128 }), (range, count) => {
        const { count: has } = range.span
        fc.pre(has !== null)
        const sweep = swept({ kind: 'cc', number: 1, resolution: { kind: 'steps', count } })
        const reached = new Set(valuesOf(sweep).map((sent) => valueFrom(range, sent, 127).toFixed(6)))
        expect(coverageOf(sweep, range).missed).toMatchObject({ count: (has ?? 0) - reached.size, of: has })
      }),
    )
  })
})

it('an end of a mapping is refused where, and only where, the mapping could not be', () => {
  const value = fc.option(fc.integer({ min: -20, max: 140 }))
  const held = parameter({ range: { min: 0, max: 100 } })
  fc.assert(
    fc.property(value, value, value, fc.constantFrom('min' as const, 'max' as const), (min, max, to, end) => {
      const mapping = MappingSchema.parse({
        ...{ id: 'm', gesture: null, destination: 'd', parameter: 'p', min, max, [end]: to },
      })
      const refused = endProblem({ min, max }, held, end, to)
      const other = end === 'min' ? max : min
      // What is wrong at the other end is not said of this one.
      if (other !== null && (other < 0 || other > 100)) return
      expect(refused !== null).toBe(mappingProblem(mapping, held) !== null)
    }),
  )
  expect(endProblem({ min: null, max: 40 }, held, 'min', 40)).toMatch(/must differ/)
  expect(endProblem({ min: null, max: 40 }, held, 'min', 41)).toMatch(/below/)
  expect(endProblem({ min: null, max: null }, held, 'max', 101)).toMatch(/from 0 to 100/)
})
