import { describe, expect, it } from 'vitest'
import { perform, type Rig } from '../../rig'
import { cleanRig, PLAIN, sendsElse } from '../../testing/clean-rigs'
import { changedSince, rehearse, rehearsedOf, type Rehearsal } from '.'

const rehearsed = (rig: Rig): Rehearsal => {
  const report = rehearse(rig)
  if (!report) throw new Error('stopped')
  return report
}

describe('what was rehearsed', () => {
  const kept = (rig: Rig): Rig =>
    perform(rig, '', [
      { type: 'rehearsed-set', rehearsed: rehearsedOf(rig, rehearsed(rig), '2026-05-04T19:30:00Z') },
    ]).rig

  it('stays so until something changes that a mapping rests on, and names that mapping', () => {
    const rig = kept(cleanRig(PLAIN))
    expect(changedSince(rig)).toEqual({
      same: ['m1', 'm2', 'm3', 'm4', 'mute', 'tap'],
      changed: [],
      unproven: [],
      gone: 0,
    })
    const place = { controller: 'a', template: 't', layer: null, gesture: 'k2.turn' }
    const touched: Array<[Parameters<typeof perform>[2], string[]]> = [
      [[sendsElse(rig, place, { number: 30 })], ['m2']],
      [[{ type: 'mapping-set', mapping: 'm3', set: { inverted: true } }], ['m3']],
      [
        [
          {
            type: 'parameter-set',
            destination: 'd',
            parameter: 'p1',
            set: { range: { min: 0, max: 5, unit: '' } },
          },
        ],
        ['m1'],
      ],
      [[{ type: 'cable-remove', cable: 'a-d' }], ['m1', 'm2', 'm3', 'm4', 'mute', 'tap']],
      [[{ type: 'mapping-set', mapping: 'm3', set: { memo: 'a word' } }], []],
      [[{ type: 'rig-set', set: { name: 'Another' } }], []],
    ]
    for (const [edits, changed] of touched)
      expect(changedSince(perform(rig, '', edits).rig)?.changed).toEqual(changed)
  })

  it('is not said of a rig that never was, and counts what is gone', () => {
    expect(changedSince(cleanRig(PLAIN))).toBeNull()
    const without = perform(kept(cleanRig(PLAIN)), '', [{ type: 'mapping-remove', mapping: 'm1' }]).rig
    expect(changedSince(without)).toMatchObject({ gone: 1, unproven: [] })
  })
})
