import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decodeWire, endWire, runningWriter, SYSEX_MOST, WIRE_START, type WireEvent } from '.'
import { cases } from '../../testing/cases'

const seven = fc.nat(127)
const channelVoice = fc
  .tuple(fc.constantFrom(0x80, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0), fc.nat(15), seven, seven)
  .map(([status, channel, a, b]) =>
    (status & 0xe0) === 0xc0 ? [status | channel, a] : [status | channel, a, b],
  )
const common = fc.oneof(
  seven.map((a) => [0xf1, a]),
  fc.tuple(seven, seven).map(([a, b]) => [0xf2, a, b]),
  seven.map((a) => [0xf3, a]),
  fc.constant([0xf6]),
)
const sysex = fc.array(seven, { maxLength: 20 }).map((data) => [0xf0, ...data, 0xf7])
const realTime = fc.constantFrom(0xf8, 0xfa, 0xfb, 0xfc, 0xfe, 0xff)
const messages = fc.array(fc.oneof({ weight: 4, arbitrary: channelVoice }, common, sysex), { maxLength: 40 })

/** Read a stream in pieces that end at these places. */
function readAll(bytes: readonly number[], cuts: readonly number[] = []): WireEvent[] {
  let state = WIRE_START
  const events: WireEvent[] = []
  const places = [...new Set([0, ...cuts.filter((cut) => cut < bytes.length), bytes.length])].sort(
    (a, b) => a - b,
  )
  for (let index = 1; index < places.length; index++) {
    const read = decodeWire(state, bytes.slice(places[index - 1], places[index]), index)
    state = read.state
    events.push(...read.events)
  }
  const end = endWire(state, places.length)
  return end ? [...events, end] : events
}
const bytesIn = (events: readonly WireEvent[]) =>
  events.flatMap((event) => (event.kind === 'message' ? [event.bytes] : []))
const faultsIn = (events: readonly WireEvent[]) =>
  events.flatMap((event) => (event.kind === 'fault' ? [[event.fault, event.place]] : []))

describe('a stream of bytes', () => {
  it('is read as it was written, with running status, cut anywhere, real-time bytes anywhere', () => {
    fc.assert(
      fc.property(
        messages,
        fc.array(fc.nat(300), { maxLength: 10 }),
        fc.array(fc.tuple(fc.nat(300), realTime), { maxLength: 10 }),
        (list, cuts, clocks) => {
          const writer = runningWriter()
          const bytes = list.flatMap((message) => writer.write(message))
          for (const [place, byte] of clocks) bytes.splice(Math.min(place, bytes.length), 0, byte)
          const events = readAll(bytes, cuts)
          expect(faultsIn(events)).toEqual([])
          const read = bytesIn(events)
          expect(read.filter(([status = 0]) => status < 0xf8)).toEqual(list)
          expect(read.filter(([status = 0]) => status >= 0xf8)).toHaveLength(clocks.length)
        },
      ),
      cases(1000),
    )
  })

  it('of any bytes at all ends in events: each byte is in a message, in a fault, or still open', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(255), { maxLength: 200 }),
        fc.array(fc.nat(200), { maxLength: 6 }),
        (bytes, cuts) => {
          const whole = readAll(bytes)
          const cut = readAll(bytes, cuts)
          const bare = (events: readonly WireEvent[]) => events.map(({ at: _, ...rest }) => rest)
          expect(bare(cut)).toEqual(bare(whole))
          for (const message of bytesIn(whole)) {
            expect(message[0]).toBeGreaterThanOrEqual(0x80)
            const data = message[0] === 0xf0 ? message.slice(1, -1) : message.slice(1)
            expect(data.every((byte) => byte < 0x80)).toBe(true)
          }
          // After whatever it was, the next whole message is read right.
          const after = readAll([...bytes, 0x95, 60, 100])
          expect(bytesIn(after).at(-1)).toEqual([0x95, 60, 100])
        },
      ),
      cases(2000),
    )
  })

  it.each<[string, number[], unknown[], number[][]]>([
    [
      'data without a status',
      [10, 20, 0x90, 1, 2],
      [
        ['stray-data', 0],
        ['stray-data', 1],
      ],
      [[0x90, 1, 2]],
    ],
    ['a message cut short by another', [0x90, 1, 0xb0, 7, 9], [['cut-short', 0]], [[0xb0, 7, 9]]],
    ['a SysEx ended by another status', [0xf0, 1, 2, 0x80, 3, 4], [['sysex-unended', 0]], [[0x80, 3, 4]]],
    [
      'undefined statuses',
      [0xf4, 0xf5, 0xf9, 0xfd],
      [
        ['undefined-status', 0],
        ['undefined-status', 1],
        ['undefined-status', 2],
        ['undefined-status', 3],
      ],
      [],
    ],
    [
      'running status after a SysEx',
      [0x90, 1, 2, 0xf0, 0xf7, 3],
      [['stray-data', 5]],
      [
        [0x90, 1, 2],
        [0xf0, 0xf7],
      ],
    ],
    ['an end without a SysEx', [0xf7], [['undefined-status', 0]], []],
    ['a stream that ends too early', [0xe0, 5], [['cut-short', 0]], []],
  ])('names the place of %s', (_, bytes, faults, read) => {
    const events = readAll(bytes)
    expect(faultsIn(events)).toEqual(faults)
    expect(bytesIn(events)).toEqual(read)
  })

  it('with a SysEx that never ends keeps a bounded part of it, says so once, and goes on', () => {
    const long = [0xf0, ...Array.from({ length: SYSEX_MOST * 3 }, () => 1)]
    const { state, events } = decodeWire(WIRE_START, long, 0)
    expect(faultsIn(events)).toEqual([['sysex-too-long', 0]])
    expect(state.open?.bytes.length).toBeLessThan(10)
    expect(bytesIn(decodeWire(state, [1, 2, 0xf7, 0xc0, 5], 1).events)).toEqual([[0xc0, 5]])
  })

  it('with what is no byte says where, and drops it', () => {
    const events = readAll([0x90, 300, 60, 1.5, 100])
    expect(faultsIn(events)).toEqual([
      ['not-a-byte', 1],
      ['not-a-byte', 3],
    ])
    expect(bytesIn(events)).toEqual([[0x90, 60, 100]])
  })
})
