import type { Page } from './page'

/** A message of made-up hardware and when it comes, in ms from the beginning of what a hand does. */
export interface Timed {
  at: number
  bytes: number[]
}

const CC = 0xb0
const value = (at: number, number: number, to: number): Timed => ({ at, bytes: [CC, number, to] })

/** A movement from one end to the other and back. */
export const swept = (number: number, at = 0, ms = 900): Timed[] =>
  Array.from({ length: 85 }, (_, index) =>
    value(at + (index * ms) / 85, number, Math.round((1 - Math.abs(index - 42) / 42) * 127)),
  )
/** Six presses of what sends one value while it is down and another when it is let go. */
export const held = (number: number): Timed[] =>
  Array.from({ length: 6 }, (_, press) => [
    value(press * 330, number, 127),
    value(press * 330 + 80, number, 0),
  ]).flat()
/** Six presses of what goes on and off by turns. */
export const flipped = (number: number): Timed[] =>
  Array.from({ length: 6 }, (_, press) => value(press * 330, number, press % 2 === 0 ? 127 : 0))
/** Six presses of what sends the same value each time. */
export const setOff = (number: number, to: number): Timed[] =>
  Array.from({ length: 6 }, (_, press) => value(press * 330, number, to))
/** Five clicks one way and five back, in two’s complement. */
export const clicked = (number: number, at = 0): Timed[] =>
  Array.from({ length: 10 }, (_, click) => value(at + click * 90, number, click < 5 ? 1 : 127))
/** The same with a hand on it: it says so before and after. */
export const touched = (number: number, inside: readonly Timed[]): Timed[] => {
  const end = inside.reduce((most, { at }) => Math.max(most, at), 0)
  return [
    value(0, number, 127),
    ...inside.map((each) => ({ ...each, at: each.at + 120 })),
    value(end + 260, number, 0),
  ]
}

/** A key that is struck and let go, on a channel from 1 to 16. */
export const struck = (note: number, at = 0, channel = 1): Timed[] => [
  { at, bytes: [0x90 + channel - 1, note, 80] },
  { at: at + 200, bytes: [0x80 + channel - 1, note, 64] },
]
/** The same key bent while it is down, by itself. */
export const bent = (note: number, at: number, channel: number): Timed[] => [
  ...struck(note, at, channel),
  { at: at + 100, bytes: [0xe0 + channel - 1, 0, 80] },
]

/** How long a hand is left still, in ms, so that it is seen to be done. */
const STILL_MS = 700

/** Let messages come in by a real port in their time, and wait until the hand is still. */
export const playedBy = (page: Page, port: string, timed: readonly Timed[]): Promise<unknown> =>
  page.runAsync(
    `const [port, timed, still, done] = arguments
    const began = performance.now()
    let next = 0
    const timer = setInterval(() => {
      const now = performance.now() - began
      for (; next < timed.length && timed[next].at <= now; next++)
        midi.deliverAt(port, began + timed[next].at, timed[next].bytes)
      if (next < timed.length || now < (timed.at(-1)?.at ?? 0) + still) return
      clearInterval(timer)
      done()
    }, 2)`,
    port,
    [...timed].sort((a, b) => a.at - b.at),
    STILL_MS,
  )
