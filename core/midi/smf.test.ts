import * as fc from 'fast-check'
import { parseMidi } from 'midi-file'
import { expect, it } from 'vitest'
import { writeSmf, type TimedMessage } from './smf'

const seven = fc.nat(127)
const oneOf = fc.oneof(
  fc
    .tuple(fc.constantFrom(0x80, 0x90, 0xa0, 0xb0, 0xe0), fc.nat(15), seven, seven)
    .map(([status, channel, a, b]) => [status | channel, a, b]),
  fc
    .tuple(fc.constantFrom(0xc0, 0xd0), fc.nat(15), seven)
    .map(([status, channel, a]) => [status | channel, a]),
  fc.array(seven, { maxLength: 6 }).map((data) => [0xf0, ...data, 0xf7]),
  fc.constantFrom([0xf8], [0xfa], [0xfc]),
)

/** The bytes of a file's events, by the package's own reader. */
function bytesOf(event: any): number[] {
  switch (event.type) {
    case 'noteOff':
      return [0x80 | event.channel, event.noteNumber, event.velocity]
    case 'noteOn':
      return [0x90 | event.channel, event.noteNumber, event.velocity]
    case 'noteAftertouch':
      return [0xa0 | event.channel, event.noteNumber, event.amount]
    case 'controller':
      return [0xb0 | event.channel, event.controllerType, event.value]
    case 'programChange':
      return [0xc0 | event.channel, event.programNumber]
    case 'channelAftertouch':
      return [0xd0 | event.channel, event.amount]
    case 'pitchBend':
      return [0xe0 | event.channel, (event.value + 8192) & 127, (event.value + 8192) >> 7]
    case 'sysEx':
      return [0xf0, ...event.data]
    default:
      return [...event.data]
  }
}

it('a Standard MIDI File holds every message at its time, in order, as another reader finds them', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(5000), fc.array(oneOf, { minLength: 1, maxLength: 3 })), { maxLength: 30 }),
      (list) => {
        const messages: TimedMessage[] = list.map(([at, several]) => ({ at, bytes: several.flat() }))
        const { header, tracks } = parseMidi(writeSmf('Kept', messages))
        expect([header.format, header.numTracks, header.ticksPerBeat]).toEqual([0, 1, 1000])
        let tick = 0
        const read = (tracks[0] ?? []).flatMap((event: any) => {
          tick += event.deltaTime
          if (event.meta) return []
          // A note on of velocity 0 is read as a note off that says so.
          const bytes =
            event.type === 'noteOff' && event.byte9
              ? [0x90 | event.channel, event.noteNumber, 0]
              : bytesOf(event)
          return [[tick / 2, ...bytes]]
        })
        const expected = list
          .flatMap(([at, several]) => several.map((bytes) => [at, ...bytes]))
          .toSorted((a, b) => (a[0] ?? 0) - (b[0] ?? 0))
        expect(read).toEqual(expected)
      },
    ),
  )
})
