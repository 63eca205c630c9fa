import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { occupancyOf } from '../../addresses'
import type { Place } from '../../rig'
import {
  sendingCc,
  sending,
  testController,
  testDestination,
  testRig,
  type Assigned,
  type MessageInput,
} from '../../testing/rigs'
import { classRank, freeAddresses, preferencesAt } from '.'

/** The numbers free on channel 1 for the first knob of a controller, beside what else is sent. */
function freeBeside(
  others: Assigned,
  own: MessageInput = { kind: 'cc', number: 3 },
  destination: Parameters<typeof testDestination>[1] = {},
  mappings: Parameters<typeof testRig>[2] = {},
): number[] {
  const rig = testRig(
    [testController('a', { 'k1.turn': sending(own), ...others })],
    [testDestination('d', destination)],
    mappings,
  )
  const occupancy = occupancyOf(rig)
  const [sender] = occupancy.senders
  if (!sender) throw new Error('Nobody sends.')
  return freeAddresses(rig, occupancy).onChannel(sender, 128).numbers
}
/** Which of some numbers are free. */
const freeOf = (numbers: readonly number[], ...given: Parameters<typeof freeBeside>): number[] => {
  const free = freeBeside(...given)
  return numbers.filter((number) => free.includes(number))
}

describe('a free number', () => {
  it('is not taken, and is neither half of a pair', () => {
    expect(freeOf([20, 21, 52, 53, 54], {})).toEqual([20, 21, 52, 53, 54])
    expect(freeOf([20, 21], { 'k2.turn': sendingCc(20) })).toEqual([21])
    expect(freeOf([20, 21, 52, 53, 54], { 'k2.turn': sending({ kind: 'cc14', number: 21 }) })).toEqual([
      20, 52, 54,
    ])
  })

  it('for a pair has its LSB free too', () => {
    expect(freeOf([20, 21], { 'k2.turn': sendingCc(53) }, { kind: 'cc14', number: 3 })).toEqual([20])
  })

  it('is no half of a pair that is listened for, where another sends the other half', () => {
    const pairAt = (gesture: string) => ({
      mappings: [{ id: 'm', gesture, destination: 'd', parameter: 'p1', learnedAt: '1:cc21+53' }],
    })
    const others = { 'k2.turn': sendingCc(53) }
    expect(freeOf([20, 21], others, undefined, {}, pairAt('a/k1.turn'))).toEqual([20])
    expect(freeOf([20, 21], {}, undefined, {}, pairAt('a/k1.turn'))).toEqual([20, 21])
    const bothHalves = {
      'k1.turn': {
        messages: [
          { kind: 'cc' as const, number: 3 },
          { kind: 'cc' as const, number: 53 },
        ],
      },
    }
    expect(freeOf([20, 21], bothHalves, undefined, {}, pairAt('a/k1.turn'))).toEqual([20, 21])
    const first = { 'k2.turn': sendingCc(21) }
    expect(freeOf([53, 54], first, undefined, {}, pairAt('a/k1.turn'))).toEqual([54])
    expect(freeOf([53, 54], {}, undefined, {}, pairAt('a/k1.turn'))).toEqual([53, 54])
  })

  it('is none that a destination keeps or that another parameter listens at', () => {
    const claims = [
      { id: 'c', function: 'its clock', kind: 'cc' as const, channel: 1, low: 20, high: 21, serves: [] },
    ]
    expect(freeOf([20, 21, 22], {}, undefined, { claims })).toEqual([22])
    const mappings = [
      { id: 'm', gesture: 'a/k2.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc22' },
    ]
    expect(freeOf([22, 23], {}, undefined, {}, { mappings })).toEqual([23])
    expect(
      freeOf([22], {}, undefined, {}, { mappings: [{ ...mappings[0]!, gesture: 'a/k1.turn' }] }),
    ).toEqual([22])
  })

  it('is none that the standard keeps', () =>
    expect(freeOf([0, 6, 32, 38, 98, 101, 120, 127], {})).toEqual([]))
})

describe('how little a number is wanted', () => {
  it('grows from undefined over general purpose and LSBs to what the standard names', () => {
    const ranks = [102, 16, 52, 74].map(classRank)
    expect(ranks).not.toContain(null)
    expect(ranks).toEqual([...ranks].sort((a, b) => (a ?? 0) - (b ?? 0)))
    expect(new Set(ranks).size).toBe(4)
    for (const number of [0, 32, 6, 98, 123]) expect(classRank(number)).toBeNull()
  })
})

describe('a house rule', () => {
  const rig = nineRingsRig('as-found')
  const holds = (place: Place, kind: 'note' | 'cc' | 'cc14'): string[] =>
    preferencesAt(rig, [], place, kind).map(({ low, high }) => `${low}–${high}`)
  const at = (controller: string, gesture: Place['gesture']): Place => ({
    controller,
    template: 'nine-rings',
    layer: null,
    gesture,
  })
  it('holds for its kind of message, its controller and its block', () => {
    expect(holds(at('pelluna', 'pad-1.strike'), 'note')).toEqual(['36–83'])
    expect(holds(at('pelluna', 'slim-1.press'), 'note')).toEqual([])
    expect(holds(at('syzra', 'side-1.press'), 'note')).toEqual([])
    expect(holds(at('pelluna', 'pad-1.strike'), 'cc')).toEqual(['0–13'])
    expect(holds(at('pelluna', 'pad-1.strike'), 'cc14')).toEqual(['0–13'])
  })
})
