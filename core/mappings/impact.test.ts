import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { assignmentsOf, perform, placeKey, withChannel, type RigEdit } from '../rig'
import { anyRig, sendingCc, testController, testDestination, testRig } from '../testing/rigs'
import { mappingName, mappingState, onceTaught, unheardAfter } from '.'

const rig = nineRingsRig('as-performed')
const after = (edit: RigEdit) => perform(rig, 'x', [edit]).rig

describe('what a change makes unheard', () => {
  it('names what a deleted control moved', () => {
    const { models } = rig
    const model = models.find(({ surface }) => surface.controls.some(({ label }) => label === 'Rings'))
    const control = model?.surface.controls.find(({ label }) => label === 'Rings')
    if (!model || !control) throw new Error('no fader')
    const without = after({ type: 'controls-remove', model: model.id, controls: [control.id] })
    expect(unheardAfter(rig, without).map((mapping) => mappingName(rig, mapping))).toContain(
      'Loomwright · Track 1 Rings · Volume',
    )
  })

  it('is nothing for a new name, or another order', () => {
    const renamed = after({ type: 'controller-set', controller: 'syzra', set: { name: 'X' } })
    expect(unheardAfter(rig, renamed)).toEqual([])
    expect(unheardAfter(rig, after({ type: 'controller-move', controller: 'syzra', to: 3 }))).toEqual([])
  })

  it('is everything that rests on a home channel, when that changes', () => {
    const moved = after({ type: 'controller-set', controller: 'syzra', set: { homeChannel: 15 } })
    expect(unheardAfter(rig, moved).length).toBeGreaterThan(8)
  })

  it('can be taught again, but not what a chart fixes', () => {
    const parameters = [
      { id: 'p1', name: 'One' },
      { id: 'bright', name: 'Bright', fixed: { kind: 'cc' as const, number: 74 } },
    ]
    const at = (parameter: string, learnedAt: string | null, number: number) =>
      testRig(
        [testController('a', { 'k1.turn': sendingCc(number) })],
        [testDestination('d', { parameters })],
        { mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter, learnedAt }] },
      )
    expect(onceTaught(at('p1', '1:cc20', 20), at('p1', '1:cc20', 21)).taught).toEqual(['m'])
    const fixed = onceTaught(at('bright', null, 74), at('bright', null, 21))
    expect(fixed.taught).toEqual([])
    expect(fixed.rig.mappings[0]?.learnedAt).toBeNull()
  })

  it('is what a cable writes to another place', () => {
    const cable = rig.cables.find(({ from }) => from.owner === 'syzra')
    if (!cable) throw new Error('no cable')
    const away = after({
      type: 'cable-set',
      cable: cable.id,
      set: {
        rules: [
          {
            kind: 'rewrite',
            match: { kinds: ['cc'], channels: [], low: 0, high: 63 },
            to: { kind: null, channel: null, number: 64, range: null },
          },
        ],
      },
    })
    expect(unheardAfter(rig, away).length).toBeGreaterThan(0)
  })

  it('sees a message that is put elsewhere, of a control that goes on sending as many', () => {
    const place = { controller: 'syzra', template: 'nine-rings', layer: null, gesture: 'fader-1.slide' }
    const [assigned] = rig.controllers.flatMap((controller) =>
      [...assignmentsOf(controller)].filter(({ place: at }) => placeKey(at) === placeKey(place)),
    )
    const message = assigned?.assignment.messages[0]
    if (!assigned || !message) throw new Error('no fader')
    const elsewhere = withChannel(message, 16)
    expect(
      unheardAfter(rig, after({ type: 'message', at: place, index: 0, message: elsewhere })).length,
    ).toBeGreaterThan(0)
    const pinned = { ...assigned.assignment, pinned: !assigned.assignment.pinned }
    expect(unheardAfter(rig, after({ type: 'assignment', at: place, assignment: pinned }))).toEqual([])
  })

  it('is exactly what agreed before and does not agree after', () => {
    fc.assert(
      fc.property(
        anyRig,
        fc.constantFrom('a', 'b'),
        fc.integer({ min: 1, max: 16 }),
        (before, controller, homeChannel) => {
          const { rig: next } = perform(before, 'x', [
            { type: 'controller-set', controller, set: { homeChannel } },
            { type: 'controls-remove', model: 'plain', controls: ['k2'] },
          ])
          const agreed = (of: typeof before, id: string): boolean => {
            const mapping = of.mappings.find((candidate) => candidate.id === id)
            return mapping !== undefined && mappingState(of, mapping).agreement === 'agrees'
          }
          const expected = before.mappings.filter(({ id }) => agreed(before, id) && !agreed(next, id))
          expect(unheardAfter(before, next)).toEqual(expected)
        },
      ),
    )
  })
})
