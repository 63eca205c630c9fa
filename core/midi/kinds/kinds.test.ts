import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fullMessage } from '../../testing/rigs'
import {
  bytesOf,
  cellsOf,
  decodeClicks,
  encodeClicks,
  fitsNumber,
  MOST_CLICKS,
  numberOf,
  sweepBytes,
  targetOf,
  travelOf,
  valuesOf,
  withNumber,
  withTarget,
  type Message,
} from '..'
import { toJson } from '../written'
import { KINDS } from '.'
import { SCHEMAS } from './schemas'
import { cases } from '../../testing/cases'

/** A receiver, written from the standard alone: what it holds after some bytes. */
function received(bytes: readonly number[]) {
  const heard = {
    messages: [] as number[][],
    cc: new Map<string, number>(),
    parameters: new Map<string, number>(),
  }
  let status = 0
  let data: number[] = []
  const selected = new Map<number, { kind: 'nrpn' | 'rpn'; number: number }>()
  const controller = (channel: number, number: number, value: number): void => {
    heard.cc.set(`${channel}/${number}`, value)
    const held = (of: number): number => heard.cc.get(`${channel}/${of}`) ?? 0
    if (number === 98 || number === 99)
      selected.set(channel, { kind: 'nrpn', number: held(99) * 128 + held(98) })
    if (number === 100 || number === 101)
      selected.set(channel, { kind: 'rpn', number: held(101) * 128 + held(100) })
    const parameter = selected.get(channel)
    // The null parameter takes no data.
    if (!parameter || (parameter.kind === 'rpn' && parameter.number === 16383)) return
    const name = `${channel}/${parameter.kind}${parameter.number}`
    const before = heard.parameters.get(name) ?? 0
    if (number === 6) heard.parameters.set(name, value * 128)
    if (number === 38) heard.parameters.set(name, (before & ~127) + value)
    if (number === 96) heard.parameters.set(name, before + 1)
    if (number === 97) heard.parameters.set(name, before - 1)
  }
  for (const byte of bytes) {
    if (byte >= 0x80 && byte !== 0xf7) {
      expect(data.length, 'a message cut short').toBe(0)
      status = byte
      if (byte >= 0xf8) heard.messages.push([byte])
      continue
    }
    data.push(byte)
    const kind = status & 0xf0
    const wanted = kind === 0xc0 || kind === 0xd0 ? 1 : 2
    if (status === 0xf0 ? byte !== 0xf7 : data.length < wanted) continue
    heard.messages.push([status, ...data])
    const [first = 0, second = 0] = data
    if (kind === 0xb0) controller((status & 0x0f) + 1, first, second)
    data = []
  }
  expect(data.length, 'a message without its end').toBe(0)
  return heard
}

const full = (input: Parameters<typeof fullMessage>[0]): Message => fullMessage(input)
const at = (value: number, previous: number | null = null, key = 60) => ({
  channel: 3,
  value,
  previous,
  key,
  device: 5,
})
const seven = fc.integer({ min: 0, max: 127 })
const fourteen = fc.integer({ min: 0, max: 16383 })
const ends = <T>(value: fc.Arbitrary<T>) => fc.record({ low: value, high: value })
const channel = fc.constant(3)
const spanned = {
  low: fc.integer({ min: 0, max: 60 }),
  high: fc.integer({ min: 60, max: 127 }),
  transpose: fc.integer({ min: -24, max: 24 }),
  octaveReach: fc.integer({ min: 0, max: 3 }),
}
const keys = fc.oneof(
  fc.record({ kind: fc.constant('one' as const), number: seven }),
  fc.record({ kind: fc.constant('span' as const), ...spanned }),
  fc.record({
    kind: fc.constant('zone' as const),
    ...spanned,
    manager: fc.constantFrom(1, 16),
    members: fc.integer({ min: 1, max: 15 }),
  }),
)

/** A message of any kind, all of its fields drawn. */
const anyKind = fc.oneof(
  fc.record({
    kind: fc.constant('cc'),
    channel,
    number: seven,
    range: ends(seven),
    resolution: fc.oneof(
      fc.constant({ kind: 'full' }),
      fc.record({ kind: fc.constant('steps'), count: fc.integer({ min: 2, max: 16 }) }),
    ),
    behaviour: fc.constantFrom({ kind: 'absolute' }, { kind: 'toggle' }, { kind: 'momentary' }),
  }),
  fc.record({
    kind: fc.constant('cc14'),
    channel,
    number: fc.constantFrom(1, 5, 7, 16, 31),
    range: ends(fourteen),
    halves: fc.constantFrom('both', 'lsb-while-msb-same', 'msb-only'),
  }),
  fc.record({
    kind: fc.constantFrom('nrpn', 'rpn'),
    channel,
    number: fourteen,
    range: ends(fourteen),
    steps: fc.constantFrom('values', 'increments'),
    omitNumber: fc.boolean(),
    sendsLsb: fc.boolean(),
    nullAfter: fc.boolean(),
  }),
  fc.record({ kind: fc.constant('note'), channel, keys, highResolutionVelocity: fc.boolean() }),
  fc.record({ kind: fc.constant('polyPressure'), channel, keys, range: ends(seven) }),
  fc.record({ kind: fc.constant('channelPressure'), channel, range: ends(seven) }),
  fc.record({ kind: fc.constant('pitchBend'), channel, range: ends(fourteen) }),
  fc.record({
    kind: fc.constant('program'),
    channel,
    number: seven,
    bank: fc.option(fc.record({ msb: seven, lsb: seven })),
  }),
  fc.record({ kind: fc.constant('channelMode'), channel, number: fc.integer({ min: 120, max: 127 }) }),
  fc.constant({ kind: 'off' }),
) as fc.Arbitrary<Parameters<typeof fullMessage>[0]>

describe('every kind of message', () => {
  it('has a definition and a schema, and stands in both lists under its own name', () => {
    expect(Object.keys(KINDS).sort()).toEqual(Object.keys(SCHEMAS).sort())
    for (const [kind, { fresh }] of Object.entries(KINDS)) {
      for (const isPressed of [true, false]) {
        const message = fresh({ isPressed, isKeyboard: false })
        expect(message.kind).toBe(kind)
        expect(SCHEMAS[message.kind].message.safeParse(message).data).toEqual(message)
      }
    }
  })

  it('takes any number within its bounds, and none outside', () => {
    fc.assert(
      fc.property(anyKind, fc.integer({ min: -2, max: 16390 }), (input, number) => {
        const message = full(input)
        if (!fitsNumber(message.kind, number)) {
          expect(() => withNumber(message, number)).toThrow(RangeError)
          return
        }
        const next = withNumber(message, number)
        expect(numberOf(next)).toBe(number)
        const target = targetOf(next)
        if (target) expect(targetOf(withTarget(message, target))).toEqual(target)
      }),
    )
  })

  it('sends whole messages, on its channel, to cells that it says it occupies', () => {
    fc.assert(
      fc.property(anyKind, seven, seven, (input, value, key) => {
        const message = full(input)
        const { messages } = received(bytesOf(message, at(value, null, key)))
        const cells = new Set(
          cellsOf(message, 3).map(({ kind, channel, number }) => `${kind} ${channel} ${number}`),
        )
        for (const [status = 0, number = 0] of messages) {
          if (status >= 0xf0) continue
          const channel = (status & 15) + 1
          const kinds: Record<number, string> = {
            0x80: `note ${channel} ${number}`,
            0x90: `note ${channel} ${number}`,
            0xa0: `polyPressure ${channel} ${number}`,
            0xb0: `cc ${channel} ${number}`,
            0xc0: `program ${channel} ${number}`,
            0xd0: `channelPressure ${channel} 0`,
            0xe0: `pitchBend ${channel} 0`,
          }
          // A span plays the keys that are there; any other key is none of its own.
          if ('keys' in message && message.keys.kind !== 'one') {
            const { low, high } = message.keys
            if (key < low || key > high) continue
          }
          expect(cells).toContain(kinds[status & 0xf0])
        }
      }),
      cases(461),
    )
  })

  it('counts the bytes of a sweep as they are sent', () => {
    fc.assert(
      fc.property(anyKind, (input) => {
        const message = full(input)
        const travel = travelOf(message, { detentsPerTurn: null })
        const isSwept = travel.kind === 'sweep' && !('keys' in message)
        if (!isSwept || numberOf(message) === null) return
        let previous: number | null = null
        let sent = 0
        for (const value of valuesOf(travel)) {
          sent += bytesOf(message, at(value, previous)).length
          previous = value
        }
        expect(sweepBytes(message, 1e9)).toBe(sent)
      }),
    )
  })
})

describe('the cells that a message occupies', () => {
  const numbers = (input: Parameters<typeof fullMessage>[0], kind = 'note'): number[] =>
    cellsOf(full(input), 3).flatMap((cell) => (cell.kind === kind ? [cell.number] : []))
  const span = (more: object) =>
    numbers({
      kind: 'note',
      keys: { kind: 'span', low: 60, high: 61, transpose: 0, octaveReach: 0, ...more },
    })

  it('are the keys as they sound, an octave button up and down, within 0 to 127', () => {
    expect(span({})).toEqual([60, 61])
    expect(span({ transpose: -3 })).toEqual([57, 58])
    expect(span({ octaveReach: 1 })).toEqual(Array.from({ length: 26 }, (_, index) => 48 + index))
    expect(span({ high: 127, low: 126, transpose: 5 })).toEqual([127])
    expect(span({ low: 0, high: 1, transpose: -5 })).toEqual([0])
  })

  it('of a zone: notes, bend, pressure and CC 74 on each member, and RPN 6 with its carriers on the manager', () => {
    const keys = {
      kind: 'zone',
      low: 60,
      high: 60,
      transpose: 0,
      octaveReach: 0,
      manager: 1,
      members: 2,
    } as const
    const cells = cellsOf(full({ kind: 'note', keys }), 1)
    const names = cells.map(({ kind, channel: on, number, role }) => `${kind} ${on} ${number} ${role}`)
    expect(names.toSorted()).toEqual(
      [
        ...[2, 3].flatMap((on) => [
          `note ${on} 60 main`,
          `pitchBend ${on} 0 channel-wide`,
          `channelPressure ${on} 0 channel-wide`,
          `cc ${on} 74 main`,
        ]),
        'rpn 1 6 main',
        ...[100, 101, 6].map((number) => `cc 1 ${number} carrier`),
      ].toSorted(),
    )
  })

  it('say which values the gesture itself sends', () => {
    const sent = (more: object) => cellsOf(full({ kind: 'cc', number: 20, ...more } as never), 3)[0]?.sent
    const range = { low: 5, high: 90 }
    const only = (value: number) => ({ low: value, high: value })
    expect(sent({ behaviour: { kind: 'momentary' }, range, releaseValue: 7 })).toEqual([only(90)])
    expect(sent({ range: { low: 90, high: 5 } })).toEqual([range])
    expect(sent({ behaviour: { kind: 'toggle' }, range })).toEqual([only(5), only(90)])
    expect(sent({ behaviour: { kind: 'trigger' }, range })).toEqual([only(90)])
  })

  it('of parameters are the selection, the data, and the null at the end', () => {
    const carriers = (more: object) =>
      cellsOf(full({ kind: 'nrpn', number: 300, ...more } as never), 3)
        .filter(({ role }) => role === 'carrier')
        .map(({ number }) => number)
        .toSorted((a, b) => a - b)
    expect(carriers({})).toEqual([6, 38, 98, 99])
    expect(carriers({ sendsLsb: false })).toEqual([6, 98, 99])
    expect(carriers({ steps: 'increments' })).toEqual([96, 97, 98, 99])
    expect(carriers({ nullAfter: true })).toEqual([6, 38, 98, 99, 100, 101])
  })
})

describe('what a receiver makes of it', () => {
  it.each(['both', 'lsb-while-msb-same', 'msb-only'] as const)('a 14-bit pair, sending %s', (halves) => {
    fc.assert(
      fc.property(fc.array(fourteen, { minLength: 1, maxLength: 12 }), (values) => {
        const message = full({ kind: 'cc14', number: 17, halves })
        const bytes: number[] = []
        values.forEach((value, index) => {
          bytes.push(...bytesOf(message, at(value, values[index - 1] ?? null)))
          const { cc } = received(bytes)
          const held = (cc.get('3/17') ?? 0) * 128 + (cc.get('3/49') ?? 0)
          expect(held).toBe(halves === 'msb-only' ? value & ~127 : value)
        })
      }),
    )
  })

  it.each(['nrpn', 'rpn'] as const)('%s: the parameter holds the value, whatever is left out', (kind) => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 16382 }),
        fc.array(fourteen, { minLength: 1, maxLength: 8 }),
        fc.boolean(),
        fc.boolean(),
        fc.boolean(),
        (number, values, omitNumber, sendsLsb, nullAfter) => {
          const message = full({ kind, number, sendsLsb, nullAfter, omitNumber })
          const bytes: number[] = []
          values.forEach((value, index) => {
            bytes.push(...bytesOf(message, at(value, values[index - 1] ?? null)))
            const { parameters } = received(bytes)
            expect(parameters.get(`3/${kind}${number}`)).toBe(sendsLsb ? value : value & ~127)
          })
          const after = received([...bytes, 0xb2, 6, 1]).parameters.get(`3/${kind}${number}`)
          const last = values.at(-1) ?? 0
          expect(after).toBe(nullAfter ? (sendsLsb ? last : last & ~127) : 128)
        },
      ),
    )
  })

  it('increments of a parameter go up and down', () => {
    const message = full({ kind: 'nrpn', number: 5, steps: 'increments' })
    const bytes = [1, 1, -1, 1].flatMap((clicks) => bytesOf(message, at(clicks)))
    expect(received(bytes).parameters.get('3/nrpn5')).toBe(2)
  })

  it('a program comes after its bank', () => {
    const message = full({ kind: 'program', number: 9, bank: { msb: 2, lsb: 3 } })
    expect(received(bytesOf(message, at(0))).messages).toEqual([
      [0xb2, 0, 2],
      [0xb2, 32, 3],
      [0xc2, 9],
    ])
    expect(bytesOf(full({ kind: 'program', number: 9 }), at(0))).toEqual([0xc2, 9])
  })

  it('a note is let go as it is set, a span is transposed, a zone plays on its first member', () => {
    const one = { kind: 'note', keys: { kind: 'one', number: 61 } } as const
    expect(bytesOf(full(one), at(90))).toEqual([0x92, 61, 90])
    expect(bytesOf(full(one), at(0))).toEqual([0x82, 61, 64])
    expect(bytesOf(full({ ...one, release: { kind: 'velocity-zero' } } as never), at(0))).toEqual([
      0x92, 61, 0,
    ])
    expect(bytesOf(full({ ...one, highResolutionVelocity: true }), at(90))).toEqual([
      0xb2, 88, 0, 0x92, 61, 90,
    ])
    const span = { kind: 'span', low: 36, high: 84, transpose: 5, octaveReach: 0 } as const
    expect(bytesOf(full({ kind: 'note', keys: span }), at(90, null, 60))).toEqual([0x92, 65, 90])
    const zone = { ...span, kind: 'zone', manager: 1, members: 4 } as const
    expect(bytesOf(full({ kind: 'note', keys: zone }), at(90, null, 60))).toEqual([0x91, 65, 90])
    expect(bytesOf(full({ kind: 'note', keys: { ...zone, manager: 16 } }), at(90, null, 60))).toEqual([
      0x9e, 65, 90,
    ])
  })

  it('pitch bend goes LSB first', () => {
    fc.assert(
      fc.property(fourteen, (value) => {
        const [status, low = 0, high = 0] = bytesOf(full({ kind: 'pitchBend' }), at(value))
        expect([status, high * 128 + low]).toEqual([0xe2, value])
      }),
    )
  })

  it('SysEx carries the value and the device number where it says', () => {
    const message = full({
      kind: 'sysex',
      bytes: [0x7d, 'device', 'value', 'value-high', 'value-low'],
    } as never)
    expect(bytesOf(message, at(300))).toEqual([0xf0, 0x7d, 5, 127, 2, 44, 0xf7])
    expect(bytesOf(full({ kind: 'mmc', command: 'stop' } as never), at(0))).toEqual([
      0xf0, 0x7f, 5, 6, 1, 0xf7,
    ])
    expect(bytesOf(full({ kind: 'realtime', command: 'start' } as never), at(0))).toEqual([0xfa])
  })

  it.each(['twos-complement', 'offset-binary', 'sign-magnitude'] as const)(
    '%s says its clicks, and no more than fit',
    (encoding) => {
      fc.assert(
        fc.property(fc.integer({ min: -200, max: 200 }), (clicks) => {
          const sent = encodeClicks(encoding, clicks)
          expect(sent).toBeGreaterThanOrEqual(0)
          expect(sent).toBeLessThan(128)
          expect(decodeClicks(encoding, sent)).toBe(Math.max(-MOST_CLICKS, Math.min(MOST_CLICKS, clicks)))
        }),
      )
      expect(encodeClicks('twos-complement', -1)).toBe(127)
      expect(encodeClicks('offset-binary', -1)).toBe(63)
      expect(encodeClicks('sign-magnitude', -1)).toBe(65)
    },
  )

  it('is written with tags for addresses, and with nothing else changed', () => {
    const address = { scope: 'channel', channel: 3, target: { kind: 'cc14', number: 16 } }
    expect(JSON.parse(toJson({ a: [address], scope: 'channel', target: 'text' }))).toEqual({
      a: ['3:cc16+48'],
      scope: 'channel',
      target: 'text',
    })
  })
})
