import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { landedAt } from '../addresses'
import {
  ASKED_CLICKS,
  ASKED_PRESSES,
  guessesOf,
  guessFor,
  listen,
  LISTEN_START,
  messageFor,
  sendersIn,
  type Ask,
  type Guess,
  type ListenState,
} from '../listen'
import { printTag, type SentMessage } from '../midi'
import { decodeWire, WIRE_START } from '../midi/bytes'
import { splitGestureKey, type Id, type Rig } from '../rig'
import { anyMessage, fullMessage, sending, testController, testRig, type MessageInput } from '../testing/rigs'
import { playRig, switchedOn } from './played'
import type { Hand } from './hands'
import type { BenchState } from './running'
import { cases } from '../testing/cases'

/** How a hand treats what sends a message: a knob is not pressed, and a button is not turned. */
function handsFor(message: SentMessage, gesture: string, ask: Ask | 'try'): Hand[] {
  const behaviour = 'behaviour' in message ? message.behaviour.kind : null
  const isClicked = behaviour === 'relative'
  const isSwept =
    behaviour === 'absolute' ||
    ['pitchBend', 'channelPressure', 'polyPressure', 'nrpn', 'rpn'].includes(message.kind)
  const presses = (times: number): Hand[] =>
    Array.from({ length: times }).flatMap((): Hand[] => [
      { kind: 'press', gesture, force: 0.7 },
      { kind: 'let-go', gesture },
    ])
  const clicks = (times: number): Hand[] =>
    [1, -1].flatMap((by) => Array.from({ length: times }, (): Hand => ({ kind: 'click', gesture, by })))
  if (isClicked) return ask === 'press' ? [] : ask === 'try' ? clicks(1) : clicks(ASKED_CLICKS)
  if (isSwept)
    return ask === 'press' || ask === 'clicks'
      ? []
      : [1, 0].map((to): Hand => ({ kind: 'move', gesture, to: ask === 'try' ? to / 5 : to, overMs: 1500 }))
  return ask === 'press' ? presses(ASKED_PRESSES) : ask === 'try' ? presses(1) : []
}

/** Play one gesture of a simulated controller as a player would, and do what the listener asks for. */
function listened(
  rig: Rig,
  id: Id,
  gesture: string,
  message: SentMessage,
): { guess: Guess | null; state: ListenState } {
  let [bench, state]: [BenchState, ListenState] = [switchedOn(rig), LISTEN_START]
  let at = 0
  const act = (ask: Ask | 'try'): void => {
    for (const hand of handsFor(message, gesture, ask)) {
      const step = playRig(rig, bench, id, hand, at)
      bench = step.state
      for (const passing of step.passed)
        for (const event of decodeWire(WIRE_START, passing.bytes, passing.at).events)
          if (event.kind === 'message')
            state = listen(state, { kind: 'message', at: passing.at, bytes: event.bytes })
      // Pressed briefly, and left alone for longer.
      at += hand.kind === 'press' ? 100 : hand.kind === 'move' ? 2000 : 700
    }
  }
  act('try')
  for (let asked = 0; ; asked++) {
    const guess = guessesOf(state).find(({ sender }) => sender === state.last) ?? guessesOf(state)[0] ?? null
    const [ask] = guess?.asks ?? []
    if (!guess || guess.isConfident || ask === undefined || asked === 3) return { guess, state }
    state = listen(state, { kind: 'asked', ask, sender: guess.sender })
    act(ask)
    state = listen(state, { kind: 'answered' })
  }
}

/** What a stream can tell of a message: where it lands, and how it works; of one value sent at every press, only that. */
function told(message: SentMessage): string {
  const where = landedAt(message).map(printTag).join()
  if (!('behaviour' in message)) return where
  const { behaviour } = message
  const range = 'range' in message ? message.range : { low: 0, high: 1 }
  const isOne = range.low === range.high
  switch (behaviour.kind) {
    case 'absolute':
    case 'latch':
      return `${where} absolute`
    case 'relative':
      return `${where} ${behaviour.encoding}`
    case 'list':
      return `${where} list ${behaviour.values.join()}`
    case 'trigger':
      return `${where} trigger ${message.kind === 'note' ? '' : range.high}`
    case 'momentary':
      return isOne
        ? `${where} trigger ${range.high}`
        : `${where} momentary ${message.kind === 'note' ? '' : `${range.low} ${range.high}`}`
    case 'toggle':
      return isOne
        ? `${where} trigger ${range.high}`
        : `${where} toggle ${message.kind === 'note' ? '' : [range.low, range.high].toSorted((a, b) => a - b).join(' ')}`
  }
}

describe('what a simulated controller plays, listened to', () => {
  it('gives its template again as far as a stream can tell, and is never sure of anything else', () => {
    let [sure, all] = [0, 0]
    fc.assert(
      fc.property(anyMessage, (input) => {
        const rig = testRig([testController('a', { 'k1.turn': sending(input) })])
        const message = rig.controllers[0]?.templates[0]?.base['k1.turn']?.messages[0]
        // What says one value wherever it stands says nothing while it is moved.
        const isStill =
          message &&
          'range' in message &&
          message.range.low === message.range.high &&
          'behaviour' in message &&
          message.behaviour.kind === 'absolute'
        if (
          !message ||
          message.kind === 'off' ||
          isStill ||
          ('keys' in message && message.keys.kind !== 'one')
        )
          return
        const home = rig.controllers[0]?.homeChannel ?? 1
        const { guess, state } = listened(rig, 'a', 'k1.turn', message)
        // CC 0 and 32 select banks, and 120 on are modes: as controls of their own they are not heard.
        if (message.kind === 'cc' && [0, 32, 120].includes(message.number as number)) return
        if (!guess) throw new Error('nothing was heard')
        expect(sendersIn(state).length).toBeLessThanOrEqual(2)
        all++
        if (!guess.isConfident) return
        sure++
        const found = messageFor(guess, null, home)
        if (!found) throw new Error('sure, and not to be written')
        const onHome = (each: SentMessage): SentMessage =>
          'channel' in each && each.channel === 'home' ? { ...each, channel: home } : each
        expect(told(onHome(found))).toBe(told(onHome(message)))
      }),
      cases(35),
    )
    expect(sure / all).toBeGreaterThan(0.9)
  })

  it('finds the demo’s own numbers, control by control', () => {
    const rig = nineRingsRig('as-performed')
    const syzra = rig.controllers.find(({ id }) => id === 'syzra')
    const base = syzra?.templates[0]?.base ?? {}
    let sure = 0
    for (const [gesture, { messages }] of Object.entries(base)) {
      const [message] = messages
      if (!message || message.kind === 'off' || messages.length !== 1 || message.moment !== 'move') continue
      const { guess } = listened(rig, 'syzra', gesture, message)
      if (!guess?.isConfident) continue
      const found = messageFor(guess, message, syzra?.homeChannel ?? 1)
      expect(found && landedAt(found).map(printTag), splitGestureKey(gesture).control).toEqual(
        landedAt(message).map(printTag),
      )
      sure++
    }
    expect(sure).toBeGreaterThan(10)
  })

  it('is the same guess whether it is asked for alone or with all others', () => {
    const rig = testRig([testController('a', { 'k1.turn': sending({ kind: 'cc', number: 20 }) })])
    const message = rig.controllers[0]?.templates[0]?.base['k1.turn']?.messages[0]
    if (!message || message.kind === 'off') throw new Error('no message')
    const { guess, state } = listened(rig, 'a', 'k1.turn', message)
    expect(guessFor(state, guess?.sender ?? '')).toEqual(guess)
  })

  it('tells how strongly an encoder is accelerated once it is turned fast, and keeps what is written until then', () => {
    const accelerationOf = (message: SentMessage | null): string | null =>
      message && 'behaviour' in message && message.behaviour.kind === 'relative'
        ? message.behaviour.acceleration
        : null
    for (const encoding of ['twos-complement', 'offset-binary', 'sign-magnitude'] as const) {
      for (const acceleration of ['none', 'gentle', 'strong'] as const) {
        const input: MessageInput = {
          kind: 'cc',
          number: 20,
          behaviour: { kind: 'relative', encoding, acceleration },
        }
        const rig = testRig([testController('a', { 'k1.turn': sending(input) })])
        const message = fullMessage(input)
        if (message.kind === 'off') throw new Error('nothing is sent')
        const slow = listened(rig, 'a', 'k1.turn', message)
        expect(slow.guess?.isConfident).toBe(true)
        const written = (guess: Guess | null | undefined, before: SentMessage | null) =>
          accelerationOf(guess ? messageFor(guess, before, 1) : null)
        expect([written(slow.guess, null), written(slow.guess, message)]).toEqual(['none', acceleration])

        let { state } = slow
        let bench = switchedOn(rig)
        for (const [turn, by] of [8, -8].entries()) {
          const hand: Hand = { kind: 'click', gesture: 'k1.turn', by, overMs: 80 }
          const step = playRig(rig, bench, 'a', hand, 60_000 + turn * 1000)
          bench = step.state
          for (const { at, bytes } of step.passed) state = listen(state, { kind: 'message', at, bytes })
        }
        const [fast] = guessesOf(state)
        expect(fast?.isConfident).toBe(true)
        expect(written(fast, null)).toBe(acceleration)
      }
    }
  })
})
