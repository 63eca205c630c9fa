import { ASKED_CLICKS, ASKED_PRESSES, type Ask, type Manner } from './types'
import type { Companion } from './companions'
import { isDataEntry, type Guess } from './guesses'

/** What to do, to be sure. */
export const ASK_WORDS: Readonly<Record<Ask, string>> = {
  press: `Press it briefly and let go, ${ASKED_PRESSES} times, about once a second.`,
  clicks: `Turn it slowly: ${ASKED_CLICKS} clicks one way, then ${ASKED_CLICKS} back.`,
  sweep: 'Move it slowly from one end to the other, and back.',
  round: 'Turn it slowly once round, one way only.',
}

/** How something goes with what is looked at, in words that go on from its address. */
export const COMPANION_WORDS: Readonly<Record<Companion['kind'], string>> = {
  touch: 'comes before it moves and goes after: its touch.',
  axis: 'moves at the same times: the other axis of one surface, a second message, or another hand.',
  pressure: 'comes while it sounds: its pressure.',
}

const ENCODING: Readonly<Record<Extract<Manner, { kind: 'relative' }>['encoding'], string>> = {
  'twos-complement': 'two’s complement, 1 up and 127 down',
  'offset-binary': 'offset binary, 65 up and 63 down',
  'sign-magnitude': 'sign and magnitude, 1 up and 65 down',
}

/** How something works, in words that go on from "it is". */
export function mannerWords(manner: Manner, isStruck = false): string {
  switch (manner.kind) {
    case 'swept':
      return 'moved from end to end: it says where it stands'
    case 'momentary':
      return isStruck
        ? 'held: it begins when pressed and ends when let go'
        : `held: ${manner.pressed} while pressed, ${manner.released} when let go`
    case 'toggle':
      return isStruck
        ? 'on and off by turns, once a press'
        : `on and off by turns: ${manner.on}, then ${manner.off}`
    case 'trigger':
      return isStruck
        ? 'set off: it begins when pressed and never ends'
        : `set off: ${manner.value} at every press`
    case 'list':
      return `a list, the next value at every press: ${manner.values.join(', ')}`
    case 'relative':
      return `turned by clicks, as ${ENCODING[manner.encoding]}`
    case 'steps':
      return 'turned by clicks, as data increment and decrement'
    case 'signal':
      return 'set off: it has no value'
  }
}

const BEND_CENTRE = 8192

/** What else is to be known of it, a sentence each. */
export function guessFacts(guess: Guess): string[] {
  const { low, high, top, skipped, isFixedVelocity, ends, halves, omitsNumber, fitting, beside } = guess
  const [best] = fitting
  const facts: string[] = []
  if (isDataEntry(guess.address))
    facts.push(
      'CC 6 and 38 carry the values of NRPN and RPN: the number may have come before anybody listened. Move something else of the hardware, and then this again.',
    )
  if (beside !== null)
    facts.push(`${beside} comes with it: they are one value in two halves, or two things that move together.`)
  if (best?.kind === 'swept') {
    if (low > 0 || high < top)
      facts.push(
        `It came from ${low} to ${high}, of 0 to ${top}: push it to both ends; if it goes no further, it wants calibrating.`,
      )
    else facts.push(`It reaches both ends, 0 and ${top}.`)
    if (skipped > 0 && top === 127)
      facts.push(
        `${skipped} values between were never sent${skipped > 8 ? ': move it more slowly to see whether they can be' : ''}.`,
      )
    if (
      guess.address?.scope === 'channel' &&
      guess.address.target.kind === 'pitchBend' &&
      guess.points.at(-1)?.value === BEND_CENTRE
    )
      facts.push('It goes back to its centre.')
  }
  if (isFixedVelocity === true) facts.push(`Every blow is the same: ${high}.`)
  if (isFixedVelocity === false) facts.push(`It senses how hard it is struck: ${low} to ${high} so far.`)
  if (ends === 'note-off') facts.push('It ends by Note Off.')
  if (ends === 'velocity-zero') facts.push('It ends by Note On of velocity 0.')
  if (halves === 'msb-first') facts.push('One value in two halves, MSB first.')
  if (halves === 'lsb-first') facts.push('One value in two halves, LSB first.')
  if (guess.clicksATurn !== null) facts.push(`${guess.clicksATurn} clicks a turn, as they were counted.`)
  if (guess.echoes > 0)
    facts.push(
      `It says again what it is told: ${guess.echoes} ${guess.echoes === 1 ? 'time' : 'times'} so far. That was no movement.`,
    )
  if (omitsNumber === true) facts.push('The number is left out while it stays.')
  return facts
}
