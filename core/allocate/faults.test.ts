import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import { onceTaught } from '../mappings'
import type { Rig } from '../rig'
import { joined } from '../testing/mapped-rigs'
import { moveTo, slotsOf, type Slot } from '../testing/naive-plan'
import { apply } from '../testing/plans'
import { layeredTemplates, sendingCc, testController, testRig, type Assigned } from '../testing/rigs'
import { faultsOf } from './faults'

describe('who moves what another control would move then, once it is taught again', () => {
  const pinned = { ...sendingCc(40), pinned: true }
  const rigOf = (x: Assigned, y: Assigned = {}): Rig => {
    const templates = layeredTemplates(
      x,
      { 'k1.turn': sendingCc(30), ...y },
      { mode: 'replace', gestures: ['k1.turn', 'k2.turn'] },
    )
    return testRig([testController('a', {}, { templates })], undefined, {
      mappings: [joined('a/k1.turn', 'p1', { learnedAt: '1:cc30' })],
    })
  }
  /** Where knob 1 of the second layer goes to a number, of how much it is at fault. */
  const faultAt = (rig: Rig, number: number): string[] => {
    const isIt = ({ place }: Pick<Slot, 'place'>): boolean =>
      place.layer === 'y' && place.gesture === 'k1.turn'
    const slot = slotsOf(rig).find(isIt)
    if (!slot) throw new Error('Nothing moves.')
    const edit = moveTo(rig, slot, 1, number)
    const before = check(rig)
    const sender = before.context.occupancy.senders.find(isIt)
    const moved = apply(rig, [edit])
    const { rig: then, taught } = onceTaught(rig, moved)
    const after = check(then)
    const to = after.context.occupancy.senders.find(isIt)?.address
    if (!sender || !to) throw new Error('Nothing is sent.')
    const change = {
      key: sender.key,
      at: { ...sender.place, message: sender.messageIndex },
      from: sender.address,
      to,
      channel: 1 as const,
      reason: '',
      edit,
    }
    return faultsOf(before, after, taught, [{ change, spots: ['', '', ''] }], new Set(), apply).map(
      ({ extent }) => extent,
    )
  }

  it('may go elsewhere where it is taught at the new number', () => {
    const rig = rigOf({ 'k2.turn': pinned })
    expect(faultAt(rig, 40)).toEqual(['address'])
    expect(faultAt(rig, 41)).toEqual([])
  })

  it('stays where it is taught in another layer, wherever this one goes', () => {
    const rig = rigOf({ 'k1.turn': pinned }, { 'k2.turn': pinned })
    expect(faultAt(rig, 41)).toEqual(['everywhere'])
  })
})
