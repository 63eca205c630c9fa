import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bytesOf, type Message } from '..'
import { decodeWire, READ_START, readMessage, WIRE_START, type Reading } from '.'
import { cases } from '../../testing/cases'

/** Read bytes whole: what each message means, in order. */
function readingsOf(bytes: readonly number[]): Reading[] {
  let state = READ_START
  const readings: Reading[] = []
  for (const event of decodeWire(WIRE_START, bytes, 0).events) {
    if (event.kind === 'fault') throw new Error(event.fault)
    const read = readMessage(state, event.bytes)
    state = read.state
    readings.push(read.reading)
  }
  return readings
}
const seven = fc.nat(127)
const fourteen = fc.nat(16383)
const channel = fc.integer({ min: 1, max: 16 })
const move = (message: Message, on: number, value: number) =>
  bytesOf(message, { channel: on, value, previous: null, key: 0, device: 0 })
const placed = { moment: 'move' as const, channel: 'home' as const }
const full = { low: 0, high: 16383 }

describe('what messages mean together', () => {
  it('of both halves of 14 bits is one value', () => {
    fc.assert(
      fc.property(
        channel,
        fc.constantFrom(...Array.from({ length: 31 }, (_, n) => n + 1).filter((n) => n !== 6)),
        fourteen,
        (on, number, value) => {
          const message: Message = {
            kind: 'cc14',
            ...placed,
            number,
            range: full,
            behaviour: { kind: 'absolute', turns: null },
            halves: 'both',
          }
          expect(readingsOf(move(message, on, value)).at(-1)).toEqual({
            kind: 'value',
            address: { scope: 'channel', channel: on, target: { kind: 'cc14', number } },
            value,
            top: 16383,
            refines: true,
            alone: null,
          })
        },
      ),
    )
  })

  it('of a parameter and its data is one value, until null is selected', () => {
    fc.assert(
      fc.property(
        channel,
        fc.constantFrom('nrpn' as const, 'rpn' as const),
        fc.nat(16382),
        fourteen,
        (on, kind, number, value) => {
          const message: Message = {
            kind,
            ...placed,
            number,
            range: full,
            steps: 'values',
            omitNumber: false,
            sendsLsb: true,
            nullAfter: true,
          }
          const readings = readingsOf([...move(message, on, value), 0xb0 | (on - 1), 6, 1])
          const values = readings.filter((reading) => reading.kind === 'value')
          expect(values.at(-1)).toMatchObject({
            address: { channel: on, target: { kind, number } },
            value,
            refines: true,
          })
          expect(readings.at(-1)).toEqual({ kind: 'lone-data', channel: on, number: 6, value: 1 })
        },
      ),
    )
  })

  it('of a bank and a program is one choice, and only once', () => {
    fc.assert(
      fc.property(channel, seven, seven, seven, (on, msb, lsb, number) => {
        const message: Message = { kind: 'program', ...placed, number, bank: { msb, lsb } }
        const readings = readingsOf([...move(message, on, 0), 0xc0 | (on - 1), number])
        const target = { kind: 'program', number, bank: { msb, lsb } }
        expect(readings[2]).toMatchObject({ kind: 'signal', address: { channel: on, target } })
        expect(readings[3]).toMatchObject({ address: { target: { ...target, bank: null } } })
      }),
    )
  })

  it.each<[string, number[], object]>([
    ['a note on of velocity 0 ends the note', [0x93, 60, 0], { kind: 'note', isOn: false, isByZero: true }],
    [
      'a prefix makes a velocity fine',
      [0xb0, 88, 5, 0x90, 60, 100],
      { kind: 'note', velocity: 12805, top: 16383 },
    ],
    [
      'a prefix counts once',
      [0xb0, 88, 5, 0x90, 60, 100, 61, 100],
      { kind: 'note', velocity: 100, top: 127 },
    ],
    ['an LSB stands alone', [0xb0, 48, 5], { kind: 'value', alone: 'lsb', value: 5 }],
    ['data stands alone', [0xb2, 38, 5], { kind: 'lone-data', channel: 3, number: 38 }],
    ['half a parameter number selects nothing', [0xb0, 99, 1, 6, 5], { kind: 'lone-data' }],
    ['increments are steps', [0xb0, 99, 1, 98, 2, 97, 0], { kind: 'steps', by: -1 }],
    ['bend has its LSB first', [0xe1, 1, 64], { kind: 'value', value: 8193, top: 16383 }],
    ['a song position', [0xf2, 1, 1], { kind: 'song-position', beats: 129 }],
    ['time code', [0xf1, 0x23], { kind: 'time-code', piece: 2, value: 3 }],
    ['who is there', [0xf0, 0x7e, 0x7f, 6, 1, 0xf7], { kind: 'sysex', of: 'identity-request', device: 127 }],
    ['a capability inquiry', [0xf0, 0x7e, 0x7f, 0x0d, 0x70, 0xf7], { kind: 'sysex', of: 'midi-ci' }],
    ['play', [0xf0, 0x7f, 0x7f, 6, 2, 0xf7], { kind: 'signal', address: { target: { command: 'play' } } }],
    ['a maker’s own', [0xf0, 0x7d, 1, 0xf7], { kind: 'sysex', of: 'own', device: null }],
    ['clock', [0xf8], { kind: 'signal', address: { target: { kind: 'realtime', command: 'clock' } } }],
  ])('%s', (_, bytes, expected) => {
    expect(readingsOf(bytes).at(-1)).toMatchObject(expected)
  })

  it('of any messages is something, without an exception', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(255), { maxLength: 300 }), (bytes) => {
        let state = READ_START
        for (const event of decodeWire(WIRE_START, bytes, 0).events)
          if (event.kind === 'message') state = readMessage(state, event.bytes).state
      }),
      cases(1000),
    )
  })
})
