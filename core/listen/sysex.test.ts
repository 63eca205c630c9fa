import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layOut, usualPlan } from '../rig'
import { hearAll } from '../testing/heard-player'
import type { Sent } from '../testing/heard-streams'
import {
  guessFor,
  guessesOf,
  knownIn,
  LISTEN_START,
  messageFor,
  primaryOf,
  startWalk,
  walk,
  type Walk,
} from '.'
import { cases } from '../testing/cases'

const EMPTY = { width: 400, height: 300, blocks: [], controls: [] }
/** A fader of hardware that says everything by SysEx: its value stands at one place. */
const swept = (head: readonly number[], tail: readonly number[], at = 0): Sent[] =>
  Array.from({ length: 64 }, (_, index) => ({
    at: at + index * 12,
    bytes: [0xf0, ...head, index * 2, ...tail, 0xf7],
  }))
const seven = fc.nat(127)

describe('SysEx whose value stands at a place', () => {
  it('is one sender that is moved, wherever the place is, and is written with its value there', () => {
    fc.assert(
      fc.property(
        fc.array(seven, { minLength: 1, maxLength: 12 }),
        fc.array(seven, { maxLength: 12 }),
        (rest, tail) => {
          const head = [0x7d, ...rest]
          const state = hearAll(LISTEN_START, swept(head, tail))
          const guesses = guessesOf(state)
          expect(guesses).toHaveLength(1)
          expect(guesses[0]).toMatchObject({
            isConfident: true,
            fitting: [{ kind: 'swept' }],
            low: 0,
            high: 126,
          })
          expect(guesses[0] && messageFor(guesses[0], null, 1)).toMatchObject({
            kind: 'sysex',
            bytes: [...head, 'value', ...tail],
            range: { low: 0, high: 127 },
          })
        },
      ),
      cases(43),
    )
  })

  it('is not sure of one that came once, nor of few that may be buttons', () => {
    const once = hearAll(LISTEN_START, [{ at: 0, bytes: [0xf0, 0x7d, 1, 2, 0xf7] }])
    expect(guessesOf(once)[0]?.isConfident).toBe(false)
    const few = hearAll(
      LISTEN_START,
      [1, 2, 1, 2, 1, 2].map((id, index) => ({ at: index * 500, bytes: [0xf0, 0x7d, id, 0xf7] })),
    )
    expect(guessesOf(few).map(({ isConfident }) => isConfident)).toEqual([false])
    const same = hearAll(
      LISTEN_START,
      [0, 500, 1000].map((at) => ({ at, bytes: [0xf0, 0x7d, 5, 0xf7] })),
    )
    expect(guessesOf(same)[0]).toMatchObject({ isConfident: true, fitting: [{ kind: 'signal' }] })
  })

  it('is apart from SysEx of another length, or that differ at two places', () => {
    const state = hearAll(LISTEN_START, [
      ...swept([0x7d, 1], []),
      { at: 5000, bytes: [0xf0, 0x7d, 2, 2, 0xf7] },
      { at: 6000, bytes: [0xf0, 0x7d, 9, 9, 9, 0xf7] },
    ])
    expect(primaryOf(state, 'sysex 7d 01 40')).toBe('sysex 7d 01 00')
    expect(primaryOf(state, 'sysex 7d 09 09 09')).toBe('sysex 7d 09 09 09')
    expect(guessFor(state, 'sysex 7d 09 09 09')?.isConfident).toBe(false)
  })

  it('is no control where it answers a question', () => {
    const state = hearAll(LISTEN_START, [
      { at: 0, bytes: [0xf0, 0x7e, 1, 6, 2, 0x7d, 1, 0, 1, 0, 1, 0, 0, 0, 0xf7] },
    ])
    expect(guessesOf(state)).toEqual([])
  })
})

describe('hardware that says everything by SysEx, gone along', () => {
  const heard = (before: Walk, sent: readonly Sent[], until: number): Walk =>
    walk(
      sent.reduce((now, { at, bytes }) => walk(now, { kind: 'message', at, bytes, isKnown: false }), before),
      { kind: 'time', at: until },
    )
  const steps = (kind: 'fader' | 'button') =>
    layOut(EMPTY, { ...usualPlan(kind), columns: 2 }, { x: 0, y: 0 }).controls

  it('has a fader for each place, and a button for each message', () => {
    const faders = heard(
      startWalk(steps('fader')),
      [...swept([0x7d, 1, 1], []), ...swept([0x7d, 2, 2], [], 4000)],
      9000,
    )
    const told = (now: Walk) =>
      now.steps.map((control) => knownIn(now, control).map(({ guess, state }) => [guess.sysex, state]))
    expect(told(faders)).toEqual([[[[0x7d, 1, 1, 'value'], 'sure']], [[[0x7d, 2, 2, 'value'], 'sure']]])
    const presses = [1, 2].flatMap((id) =>
      Array.from({ length: 6 }, (_, index) => ({
        at: id * 9000 + index * 700,
        bytes: [0xf0, 0x7d, id, 0xf7],
      })),
    )
    expect(told(heard(startWalk(steps('button')), presses, 30_000))).toEqual([
      [[[0x7d, 1], 'sure']],
      [[[0x7d, 2], 'sure']],
    ])
  })
})
