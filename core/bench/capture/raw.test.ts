import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { guessFor, listen, LISTEN_START, type ListenState } from '../../listen'
import { RAW_APART_MS, readRaw } from './raw'
import { readCapture } from '.'

const channelMessage = fc
  .tuple(fc.integer({ min: 0x80, max: 0xef }), fc.nat(127), fc.nat(127))
  .map(([status, first, second]) => ((status & 0xe0) === 0xc0 ? [status, first] : [status, first, second]))
const sysex = fc.array(fc.nat(127), { maxLength: 20 }).map((bytes) => [0xf0, ...bytes, 0xf7])
const messagesIn = (bytes: readonly number[]): number[][] => {
  const read = readRaw(Uint8Array.from(bytes))
  return read.ok ? read.tracks.flatMap(({ messages }) => messages.map((each) => [...each.bytes])) : []
}
const heard = (messages: readonly number[][]): ListenState => {
  const read = readRaw(Uint8Array.from(messages.flat()))
  if (!read.ok) throw new Error(read.message)
  return (read.tracks[0]?.messages ?? []).reduce(
    (state, { at, bytes }) => listen(state, { kind: 'message', at, bytes }),
    LISTEN_START,
  )
}

describe('the bytes of a stream', () => {
  it('are read message by message, in order, and none is lost', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(channelMessage, sysex), { minLength: 1 }), (messages) => {
        expect(messagesIn(messages.flat())).toEqual(messages)
      }),
    )
  })

  it('are refused whole with the place where they are none, whatever they are', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (data) => {
        const read = readRaw(data)
        if (!read.ok) expect(read.message).toMatch(/^At byte \d+, /)
      }),
    )
    const refused = readRaw(Uint8Array.from([0xb0, 1, 2, 0xf0, 1, 2]))
    expect(refused).toMatchObject({
      ok: false,
      message: expect.stringMatching(/^At byte 3, a SysEx never ends/),
    })
  })

  it('are known by their first byte, and a text with its mark is none', () => {
    expect(readCapture(Uint8Array.from([0xb0, 20, 1]))).toMatchObject({ ok: true, isTimed: false })
    const csv = new TextEncoder().encode('\ufeffms,Bytes\r\n5,b0 14 01')
    expect(readCapture(csv)).toMatchObject({ ok: true, isTimed: true })
  })

  it('tell no rhythm: held and on/off stay apart, and what moves is still seen to move', () => {
    const pressed = Array.from({ length: 20 }, (_, index) => [0xb0, 20, index % 2 === 0 ? 127 : 0])
    expect(guessFor(heard(pressed), '1:cc20')?.isConfident).toBe(false)
    const moved = Array.from({ length: 128 }, (_, value) => [0xb0, 20, value])
    expect(guessFor(heard(moved), '1:cc20')).toMatchObject({
      isConfident: true,
      fitting: [{ kind: 'swept' }],
    })
  })

  it('keep together what belongs together: halves, and a parameter with its number', () => {
    const read = readRaw(Uint8Array.from([0xb0, 99, 2, 0xb0, 98, 44, 0xb0, 6, 1, 0xb0, 20, 1, 0xb0, 52, 3]))
    expect(read.ok && read.tracks[0]?.messages.map(({ at }) => at)).toEqual([
      0,
      0,
      0,
      RAW_APART_MS,
      RAW_APART_MS,
    ])
    const buttons = readRaw(Uint8Array.from([0xb0, 70, 127, 0xb0, 102, 127]))
    expect(buttons.ok && buttons.tracks[0]?.messages.map(({ at }) => at)).toEqual([0, RAW_APART_MS])
  })
})
