import { describe, expect, it } from 'vitest'
import { plan } from '../testing/plans'
import { sending, sendingCc, testController, testRig } from '../testing/rigs'

describe('help', () => {
  const pinned = (number: number) => ({ ...sendingCc(number), pinned: true })

  it('is named only where it helps', () => {
    const rig = testRig(
      [testController('a', { 'k1.turn': pinned(20) }), testController('b', { 'k1.turn': sendingCc(20) })],
      undefined,
      { houseRules: [{ id: 'x', kind: 'avoid', low: 0, high: 127 }] },
    )
    const [shortage] = plan(rig, { kind: 'repair', policy: { kind: 'keep' } }).shortages
    expect(shortage?.message).toBe('Knob 1 (B): no CC number is free on channel 1; this one is left.')
    expect(shortage?.help).toBe('To help: loosen the house rule that avoids 0–127.')
  })

  it('names whoever could go out of the way, if it were not pinned', () => {
    const rig = testRig(
      [testController('a', { 'k1.turn': pinned(20) }), testController('b', { 'k1.turn': sendingCc(20) })],
      undefined,
      { houseRules: [{ id: 'x', kind: 'avoid', controller: 'b', low: 0, high: 127 }] },
    )
    const [shortage] = plan(rig, { kind: 'repair', policy: { kind: 'keep' } }).shortages
    expect(shortage?.help).toBe('To help: unpin Knob 1 (A), or loosen the house rule that avoids 0–127.')
  })

  it('names nobody who would have to go together with another that is pinned', () => {
    const rig = testRig(
      [
        testController('a', { 'k1.turn': pinned(20) }),
        testController('b', { 'k1.turn': sending({ kind: 'cc14', number: 20 }) }),
        testController('c', { 'k1.turn': pinned(20) }),
      ],
      undefined,
      { houseRules: [{ id: 'x', kind: 'avoid', message: 'cc14', low: 0, high: 127 }] },
    )
    const [shortage] = plan(rig, { kind: 'repair', policy: { kind: 'keep' } }).shortages
    expect(shortage?.help).toBe('To help: loosen the house rule that avoids 0–127.')
  })

  it('speaks of the channels that were asked for', () => {
    const rig = testRig([
      testController('a', { 'k1.turn': pinned(20) }),
      testController('b', { 'k1.turn': sendingCc(20) }),
    ])
    const rules = [{ kind: 'avoid' as const, channel: 2, low: 0, high: 127 }]
    const policy = { kind: 'among' as const, channels: [2] }
    const [shortage] = plan(rig, { kind: 'repair', policy, rules }).shortages
    expect(shortage?.message).toMatch(/on channel 2; this one is left/)
    expect(shortage?.help).toBe('To help: let them use any channel.')
  })
})
