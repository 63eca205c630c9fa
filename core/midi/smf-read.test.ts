import * as fc from 'fast-check'
import { parseMidi, writeMidi } from 'midi-file'
import { describe, expect, it } from 'vitest'
import { writeSmf, writeSmfTracks, type TimedMessage } from './smf'
import { readSmf, SMF_LIMITS } from './smf-read'
import { cases } from '../testing/cases'

const seven = fc.nat(127)
const message = fc.oneof(
  fc
    .tuple(fc.constantFrom(0x80, 0x90, 0xa0, 0xb0, 0xe0), fc.nat(15), seven, seven)
    .map(([status, channel, a, b]) => [status | channel, a, b]),
  fc
    .tuple(fc.constantFrom(0xc0, 0xd0), fc.nat(15), seven)
    .map(([status, channel, a]) => [status | channel, a]),
  fc.array(seven, { maxLength: 200 }).map((data) => [0xf0, ...data, 0xf7]),
  fc.constantFrom([0xf8], [0xfa], [0xf2, 3, 4], [0xf6]),
)
const messages: fc.Arbitrary<TimedMessage[]> = fc
  .array(fc.record({ at: fc.nat(5_000_000).map((half) => half / 2), bytes: message }), {
    minLength: 1,
    maxLength: 40,
  })
  .map((all) => all.toSorted((a, b) => a.at - b.at))
const why = (data: ArrayLike<number>): string => {
  const read = readSmf(Uint8Array.from(data))
  return read.ok ? 'read' : read.message
}

describe('a Standard MIDI File that is read', () => {
  it('gives what was written, byte for byte at the same times', () => {
    fc.assert(
      fc.property(messages, (all) => {
        const read = readSmf(writeSmf('Evening', all))
        expect(read).toEqual({ ok: true, name: 'Evening', tracks: [{ name: 'Evening', messages: all }] })
      }),
    )
  })

  it('keeps the senders apart, each with its name', () => {
    fc.assert(
      fc.property(messages, messages, (a, b) => {
        const tracks = [
          { name: 'Syzra 24', messages: a },
          { name: 'Umbrek 6', messages: b },
        ]
        expect(readSmf(writeSmfTracks('Evening', tracks))).toEqual({ ok: true, name: 'Evening', tracks })
      }),
    )
  })

  it('reads what another package writes, with running status, tempos and another division', () => {
    const cc = (deltaTime: number, value: number) =>
      ({ deltaTime, type: 'controller', channel: 2, controllerType: 7, value }) as const
    const tempo = (deltaTime: number, microsecondsPerBeat: number) =>
      ({ deltaTime, meta: true, type: 'setTempo', microsecondsPerBeat }) as const
    const end = { deltaTime: 0, meta: true, type: 'endOfTrack' } as const
    const data = writeMidi(
      {
        header: { format: 1, numTracks: 2, ticksPerBeat: 96 },
        tracks: [
          [tempo(96, 1_000_000), tempo(96, 250_000), end],
          [cc(0, 1), cc(96, 2), cc(48, 3), cc(48, 4), cc(96, 5), end],
        ],
      },
      { running: true },
    )
    const read = readSmf(Uint8Array.from(data))
    if (!read.ok) throw new Error(read.message)
    expect(read.tracks[0]?.messages).toEqual(
      [0, 500, 1000, 1500, 1750].map((at, index) => ({ at, bytes: [0xb2, 7, index + 1] })),
    )
  })

  it('is refused whole with the place where anything is wrong', () => {
    const good = [...writeSmf('x', [{ at: 0, bytes: [0xb0, 1, 2] }])]
    expect(why(good)).toBe('read')
    expect(why([])).toMatch(/byte 0: it is no Standard MIDI File/)
    expect(why([...'RIFFabcd'].map((letter) => letter.charCodeAt(0)))).toMatch(/no Standard MIDI File/)
    const with_ = (at: number, value: number): number[] =>
      good.map((each, index) => (index === at ? value : each))
    expect(why(with_(9, 2))).toMatch(/byte 8: it is of format 2/)
    expect(why(with_(12, 0xe7))).toMatch(/byte 12: it counts time in frames/)
    expect(why(with_(11, 2))).toMatch(/has 1 tracks, but says that there are 2/)
    expect(why(with_(11, 0))).toMatch(/no track/)
    expect(why(good.map((each, index) => (index === 12 || index === 13 ? 0 : each)))).toMatch(/0 ticks/)
    expect(why(good.slice(0, -3))).toMatch(/cut short/)
    const at = good.indexOf(0xb0)
    expect(why(with_(at, 0x40))).toMatch(new RegExp(`Track 1 at byte ${at}: a status byte is missing`))
    expect(why(with_(at + 1, 0x90))).toMatch(new RegExp(`Track 1 at byte ${at}: a data byte is larger`))
    expect(why(with_(at, 0xf4))).toMatch(/begin with F4/)
    expect(why(writeSmf('empty', []))).toMatch(/nothing to play/)
    expect(why(new Uint8Array(SMF_LIMITS.bytes + 1))).toMatch(/larger than 16 MB/)
  })

  it('never throws and never reads on for ever, whatever is done to it', () => {
    const good = writeSmfTracks('x', [
      {
        name: 'a',
        messages: [
          { at: 0, bytes: [0xb0, 1, 2] },
          { at: 3, bytes: [0xf0, 1, 2, 3, 0xf7] },
        ],
      },
    ])
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { maxLength: 6 }),
        fc.nat(good.length),
        (changes, length) => {
          const data = Uint8Array.from(good)
          for (const [at, value] of changes) data[at] = value
          const read = readSmf(data.subarray(0, length))
          if (!read.ok) expect(read.message).toMatch(/^(This file|Track \d+)/)
        },
      ),
      cases(2000),
    )
  })

  it('agrees with another package about which events there are', () => {
    fc.assert(
      fc.property(messages, (all) => {
        const data = writeSmfTracks('x', [{ name: 'a', messages: all }])
        const other = parseMidi(data)
          .tracks.flat()
          .filter((event) => !('meta' in event)).length
        const read = readSmf(data)
        expect(read.ok && read.tracks[0]?.messages.length).toBe(other)
      }),
    )
  })
})
