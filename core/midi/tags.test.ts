import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MMC_NAMES, parseTag, printTag, REALTIME_NAMES, type Address, type ChannelTarget } from '.'

const seven = fc.integer({ min: 0, max: 127 })
const fourteen = fc.integer({ min: 0, max: 16383 })
const span = fc.tuple(seven, seven).map(([a, b]) => ({ low: Math.min(a, b), high: Math.max(a, b) }))
const target: fc.Arbitrary<ChannelTarget> = fc.oneof(
  fc.record({ kind: fc.constant('cc' as const), number: seven }),
  fc.record({
    kind: fc.constant('cc14' as const),
    number: fc.integer({ min: 1, max: 31 }).filter((number) => number !== 6),
  }),
  span.map((keys) => ({ kind: 'note' as const, ...keys })),
  span.map((keys) => ({ kind: 'polyPressure' as const, ...keys })),
  fc.record({ kind: fc.constantFrom('nrpn' as const, 'rpn' as const), number: fourteen }),
  fc.record({
    kind: fc.constant('program' as const),
    number: seven,
    bank: fc.option(fc.record({ msb: seven, lsb: seven })),
  }),
  fc.constantFrom({ kind: 'pitchBend' as const }, { kind: 'channelPressure' as const }),
  fc.record({ kind: fc.constant('channelMode' as const), number: fc.integer({ min: 120, max: 127 }) }),
)
const address: fc.Arbitrary<Address> = fc.oneof(
  fc.record({
    scope: fc.constant('channel' as const),
    channel: fc.oneof(fc.integer({ min: 1, max: 16 }), fc.constantFrom('home' as const, null)),
    target,
  }),
  fc.record({
    scope: fc.constant('system' as const),
    target: fc.oneof(
      fc.record({ kind: fc.constant('mmc' as const), command: fc.constantFrom(...MMC_NAMES) }),
      fc.record({ kind: fc.constant('realtime' as const), command: fc.constantFrom(...REALTIME_NAMES) }),
      fc.constant({ kind: 'sysex' as const }),
    ),
  }),
)

describe('address tags', () => {
  it('read back as written', () => {
    fc.assert(
      fc.property(address, (given) => {
        expect(parseTag(printTag(given))).toEqual({ ok: true, address: given })
      }),
    )
  })

  it('do not mind capitals and spaces', () => {
    expect(parseTag('  5 : CC 74 ')).toEqual(parseTag('5:cc74'))
  })

  it.each([
    ['5:cc128', 'out of range: use 0 to 127'],
    ['17:cc1', 'Channel 17 is out of range'],
    ['0:cc1', 'Channel 0 is out of range'],
    ['x:cc1', 'not a channel'],
    ['1:cc6+38', 'cannot start one'],
    ['1:cc16+47', 'is 48, not 47'],
    ['1:note60-40', 'runs upwards'],
    ['1:nrpn16384', 'out of range'],
    ['1:mode119', 'out of range: use 120 to 127'],
    ['mmc:dance', 'followed by one of'],
    ['1:banana', 'is not an address'],
    ['', 'Type an address'],
  ])('%s is refused with a reason', (text, reason) => {
    const result = parseTag(text)
    expect(result.ok ? '' : result.message).toContain(reason)
  })

  it('never throw, whatever is typed', () => {
    fc.assert(fc.property(fc.string(), (text) => void parseTag(text)))
  })
})
