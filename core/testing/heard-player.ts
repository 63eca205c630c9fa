import { printTag } from '../midi'
import {
  ASKED_CLICKS,
  ASKED_PRESSES,
  guessesOf,
  listen,
  LISTEN_START,
  type Ask,
  type Guess,
  type ListenState,
} from '../listen'
import { troubled, type Hardware, type Sent, type Trouble } from './heard-streams'

/** Numbers from 0 to 1, the same again for the same seed. */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}
export const hearAll = (state: ListenState, sent: readonly Sent[]): ListenState =>
  sent.reduce((now, { at, bytes }) => listen(now, { kind: 'message', at, bytes }), state)

export const tagOf = ({ address }: Guess): string => (address ? printTag(address) : '')
const ownGuess = (state: ListenState, { tag }: Hardware): Guess | undefined =>
  guessesOf(state).find((guess) => tagOf(guess) === tag) ??
  guessesOf(state).find((guess) => tag.startsWith(`${tagOf(guess)}+`))

const answerOf = (hardware: Hardware, ask: Ask, random: () => number, at: number): Sent[] => {
  switch (ask) {
    case 'press':
      return hardware.press?.(random, at, ASKED_PRESSES) ?? []
    case 'clicks':
      return hardware.clicks?.(random, at, ASKED_CLICKS) ?? []
    case 'sweep':
      return hardware.sweep?.(random, at) ?? []
    case 'round':
      return []
  }
}

/** A player tries the hardware, and does what is asked for until the listener is sure. */
export function played(
  hardware: Hardware,
  trouble: Trouble,
  seed: number,
): { guess: Guess | undefined; asked: number; steps: Guess[] } {
  const random = randomFrom(seed)
  let state = LISTEN_START
  let [asked, at] = [0, 0]
  // Where all of it was lost, nothing is seen, and it is tried again.
  for (; !ownGuess(state, hardware) && at < 50_000; at += 10_000)
    state = hearAll(state, troubled(hardware.tries(random, at), trouble, random))
  const steps: Guess[] = []
  for (;;) {
    const guess = ownGuess(state, hardware)
    if (guess) steps.push(guess)
    const [ask] = guess?.asks ?? []
    if (!guess || guess.isConfident || ask === undefined || asked === 3) return { guess, asked, steps }
    asked++
    state = listen(state, { kind: 'asked', ask, sender: guess.sender })
    state = hearAll(state, troubled(answerOf(hardware, ask, random, at), trouble, random))
    state = listen(state, { kind: 'answered' })
    at += 10_000
  }
}
