import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { guessesOf, listen, LISTEN_START, startWalk, walk } from '../core/listen'
import { layOut, usualPlan } from '../core/rig'
import { played, tagOf } from '../core/testing/heard-player'
import { anyHardware, anyTrouble } from '../core/testing/heard-streams'

const [A_SECOND, ROOM] = [3000, 10]
const SECONDS = 10
const STREAMS = 20_000
const NOTHING = { width: 400, height: 300, blocks: [], controls: [] }

it('a listener keeps up with ten streams of 3,000 messages a second', () => {
  let seed = 1
  const random = (below: number): number => {
    seed = (seed * 48_271) % 2_147_483_647
    return seed % below
  }
  const messages = Array.from({ length: A_SECOND * SECONDS }, (_, index) => {
    const channel = random(4)
    switch (random(6)) {
      case 0:
        return [0x90 | channel, 36 + random(48), random(128)]
      case 1:
        return [0xe0 | channel, random(128), random(128)]
      case 2:
        return [0xb0 | channel, 16 + random(8), index % 128]
      case 3:
        return [0xb0 | channel, 48 + random(8), random(128)]
      default:
        return [0xb0 | channel, 70 + random(20), index % 128]
    }
  })
  const start = performance.now()
  const state = messages.reduce(
    (now, bytes, index) => listen(now, { kind: 'message', at: index / (A_SECOND / 1000), bytes }),
    LISTEN_START,
  )
  const ms = performance.now() - start
  const began = performance.now()
  const guesses = guessesOf(state)
  const guessing = performance.now() - began
  const share = ms / (SECONDS * 1000)
  const { controls } = layOut(NOTHING, { ...usualPlan('fader'), columns: 32 }, { x: 0, y: 0 })
  const set = performance.now()
  messages.reduce(
    (now, bytes, index) =>
      walk(now, { kind: 'message', at: (index * 1000) / A_SECOND, bytes, isKnown: false }),
    startWalk(controls),
  )
  const along = (performance.now() - set) / (SECONDS * 1000)
  console.log(
    [
      `${messages.length.toLocaleString('en')} messages, which come in ${SECONDS} s, are heard in ${ms.toFixed(0)} ms: ${(share * 100).toFixed(1)} % of one core (figure: ${100 / ROOM} %)`,
      `The same while 32 controls are drawn: ${(along * 100).toFixed(1)} % of one core`,
      `All ${guesses.length} guesses: ${guessing.toFixed(0)} ms`,
    ].join('\n'),
  )
  expect(share).toBeLessThan(1 / ROOM)
  expect(along).toBeLessThan(1 / ROOM)
})

it('a listener is right where it is sure, and sure after three gestures at most', () => {
  let [all, sure, wrong, asked, most] = [0, 0, 0, 0, 0]
  fc.assert(
    fc.property(anyHardware, anyTrouble, fc.integer(), (hardware, trouble, seed) => {
      const found = played(hardware, trouble, seed)
      all++
      asked += found.asked
      most = Math.max(most, found.asked)
      if (found.guess?.isConfident) sure++
      const isWrong = found.steps.some(
        (guess) =>
          guess.isConfident &&
          (JSON.stringify(guess.fitting[0]) !== JSON.stringify(hardware.truth) ||
            tagOf(guess) !== hardware.tag),
      )
      if (isWrong) wrong++
    }),
    { numRuns: STREAMS, seed: 19 },
  )
  console.log(
    `${all.toLocaleString('en')} streams: sure of ${((sure / all) * 100).toFixed(2)} % (figure: 99 %), wrong where sure ${wrong} (figure: 0), gestures asked for ${(asked / all).toFixed(2)} on average, ${most} at most (figure: 3)`,
  )
  expect(wrong).toBe(0)
  expect(sure / all).toBeGreaterThan(0.99)
})
