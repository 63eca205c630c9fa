import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sending, sendingCc, testController, testRig } from '../../testing/rigs'
import { assignmentsOf, perform, sentAddress, type Rig } from '..'
import { printTag } from '../../midi'
import { shiftAddresses } from './shift'

const fail = (): never => {
  throw new Error('no address')
}
const rig = testRig([
  testController('a', {
    'k1.turn': sendingCc(20),
    'k2.turn': sendingCc(21),
    'k3.turn': { ...sendingCc(22), pinned: true },
  }),
])
const place = (key: string, message = 0) => ({
  place: { controller: 'a', template: 't', layer: null, gesture: `${key}.turn` },
  message,
})
const sent = (of: Rig): string[] =>
  of.controllers.flatMap((controller) =>
    [...assignmentsOf(controller)].flatMap(({ assignment }) => {
      const [message] = assignment.messages
      const address = message ? sentAddress(message, controller.homeChannel) : null
      return address ? [printTag(address)] : []
    }),
  )

describe('moving addresses', () => {
  it('keeps the shape of a run, and is refused whole where any of it would fall out', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -20, max: 20 }),
        fc.integer({ min: -130, max: 130 }),
        (channels, numbers) => {
          const shift = shiftAddresses(rig, [place('k1'), place('k2')], { channels, numbers })
          const fits = 1 + channels >= 1 && 1 + channels <= 16 && 20 + numbers >= 0 && 21 + numbers <= 127
          expect(shift.ok).toBe(fits)
          if (!shift.ok) return
          expect(sent(perform(rig, 'x', shift.edits).rig)).toEqual([
            `${1 + channels}:cc${20 + numbers}`,
            `${1 + channels}:cc${21 + numbers}`,
            '1:cc22',
          ])
        },
      ),
    )
  })

  it('moves the message that is named, and leaves the others of its control', () => {
    const two = testRig([
      testController('a', {
        'k1.turn': sending({ kind: 'cc', number: 20 }, { kind: 'cc', number: 30, moment: 'release' }),
      }),
    ])
    const shift = shiftAddresses(two, [place('k1', 1)], { channels: 1, numbers: 2 })
    if (!shift.ok) throw new Error(shift.message)
    const [assignment] = [
      ...perform(two, 'x', shift.edits).rig.controllers.flatMap((each) => [...assignmentsOf(each)]),
    ]
    expect(
      assignment?.assignment.messages.map((message) => printTag(sentAddress(message, 1) ?? fail())),
    ).toEqual(['1:cc20', '2:cc32'])
  })

  it('refuses what is pinned', () => {
    const shift = shiftAddresses(rig, [place('k1'), place('k3')], { channels: 0, numbers: 1 })
    expect(shift).toMatchObject({ ok: false, message: expect.stringContaining('pinned') })
  })
})
