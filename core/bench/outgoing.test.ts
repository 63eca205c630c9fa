import { describe, expect, it } from 'vitest'
import { rewrite, rigOf, ruled } from '../testing/mapped-rigs'
import { sending, sendingCc } from '../testing/rigs'
import { playRig, switchedOn } from './played'
import { outgoing } from './outgoing'
import type { Hand } from './hands'

const PORT = new Set(['d/in'])
const out = (rig: ReturnType<typeof rigOf>, hand: Hand): number[][] =>
  playRig(rig, switchedOn(rig), 'a', hand, 0).passed.flatMap((passing) =>
    outgoing(rig, passing, PORT).map(({ bytes }) => [...bytes]),
  )
const move: Hand = { kind: 'move', gesture: 'k1.turn', to: 1 }
const knob = { 'k1.turn': sendingCc(20) }

describe('what arrives at a port', () => {
  it('is what was sent, where cables leave it as it is', () => {
    expect(out(rigOf(knob), move)).toEqual([[0xb0, 20, 127]])
  })
  it('is what cables have made of it', () => {
    const halved = rigOf(
      knob,
      [],
      {},
      ruled([rewrite({ kinds: ['cc'] }, { channel: 3, number: 33, range: { low: 0, high: 50 } })]),
    )
    expect(out(halved, move)).toEqual([[0xb2, 33, 50]])
    const note = rigOf(
      { 'k1.turn': sending({ kind: 'note', keys: { kind: 'one', number: 51 } }) },
      [],
      {},
      ruled([rewrite({ kinds: ['note'] }, { kind: 'cc', number: 64 })]),
    )
    const press: Hand = { kind: 'press', gesture: 'k1.turn' }
    expect(out(note, press)).toEqual([[0xb0, 64, 127]])
  })
  it('is nothing where a cable stops it, or for a port that nobody asked for', () => {
    expect(out(rigOf(knob, [], {}, ruled([], 'stop')), move)).toEqual([])
    const rig = rigOf(knob)
    const [passing] = playRig(rig, switchedOn(rig), 'a', move, 0).passed
    expect(passing && outgoing(rig, passing, new Set(['d/other']))).toEqual([])
  })
})
