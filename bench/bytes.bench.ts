import { expect, it } from 'vitest'
import { decodeWire, runningWriter, WIRE_START } from '../core/midi/bytes'

const MESSAGES = 1_000_000
const CHUNK = 4096
const RUNS = 3
/** Encoding or decoding may take so many times as long as copying message by message. */
const MOST_RATIO = 10

/** Mixed messages, the same in every run: notes, controllers, bend, programs, clocks, now and then a SysEx. */
function mixed(count: number): number[][] {
  let seed = 1
  const random = (below: number): number => {
    seed = (seed * 48_271) % 2_147_483_647
    return seed % below
  }
  return Array.from({ length: count }, () => {
    const channel = random(16)
    switch (random(12)) {
      case 0:
        return [0xc0 | channel, random(128)]
      case 1:
        return [0xf8]
      case 2:
        return [0xe0 | channel, random(128), random(128)]
      case 3:
        return random(50) === 0 ? [0xf0, 0x7d, random(128), random(128), 0xf7] : [0xd0 | channel, random(128)]
      case 4:
      case 5:
      case 6:
        return [0x90 | channel, random(128), random(128)]
      default:
        return [0xb0 | channel, random(128), random(128)]
    }
  })
}
const best = (work: () => void): number =>
  Math.min(
    ...Array.from({ length: RUNS }, () => {
      const start = performance.now()
      work()
      return performance.now() - start
    }),
  )

it('bytes are encoded and decoded in a few times what copying them takes', () => {
  const messages = mixed(MESSAGES)
  const stream = Uint8Array.from(messages.flat())
  let kept: unknown = null
  const copying = best(() => {
    const copies: number[][] = []
    for (const message of messages) copies.push(message.slice())
    kept = copies
  })
  const encoding = best(() => {
    const writer = runningWriter()
    const written: number[][] = []
    for (const message of messages) written.push(writer.write(message))
    kept = written
  })
  const decoding = best(() => {
    let state = WIRE_START
    let count = 0
    for (let at = 0; at < stream.length; at += CHUNK) {
      const read = decodeWire(state, stream.subarray(at, at + CHUNK), at)
      state = read.state
      count += read.events.length
    }
    kept = count
  })
  expect(kept).toBe(MESSAGES)
  console.log(
    `copying ${copying.toFixed(0)} ms, encoding ${(encoding / copying).toFixed(1)}, decoding ${(decoding / copying).toFixed(1)} times that`,
  )
  expect.soft(encoding / copying).toBeLessThan(MOST_RATIO)
  expect.soft(decoding / copying).toBeLessThan(MOST_RATIO)
})
