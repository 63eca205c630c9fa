import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { check } from '../../conflicts'
import { anyRig } from '../../testing/rigs'
import { perform } from '../edits'
import { newController } from '../fresh'
import { emptyRig, parseRig } from '../parse'
import { assignmentsOf } from '../places'
import { STARTERS } from '../surface'
import type { Rig } from '../types'
import { firstNumbers, silentGestures, USUAL_SENDING, type FirstSending } from './first-numbers'
import { waysToJoin } from '../ways'
import { DESTINATION_STARTERS, startedDestination } from '../destination-starters'
import { cases } from '../../testing/cases'

const sendings: fc.Arbitrary<FirstSending> = fc.record({
  moved: fc.constantFrom('cc', 'nothing'),
  wheels: fc.constantFrom('play', 'as-knobs'),
  pads: fc.constantFrom('notes', 'drums', 'held', 'nothing'),
  buttons: fc.constantFrom('held', 'stays', 'notes', 'nothing'),
})
/** A starter in any size that it can have. */
const sized = fc.constantFrom(...STARTERS).chain((starter) =>
  fc.record({
    starter: fc.constant(starter),
    sizes: fc.record(
      Object.fromEntries(
        starter.fields.map(({ id, low, high }) => [id, fc.integer({ min: low, max: high })]),
      ),
    ) as fc.Arbitrary<Record<string, number>>,
  }),
)

const usual = (fields: ReadonlyArray<{ id: string; usual: number }>): Record<string, number> =>
  Object.fromEntries(fields.map((field) => [field.id, field.usual]))

function added(
  rig: Rig,
  starter: (typeof STARTERS)[number],
  sizes = usual(starter.fields),
): { rig: Rig; id: string } {
  const { controller, model } = newController(rig, starter.name, starter.make(sizes))
  return { rig: perform(rig, 'Add', [{ type: 'controller-add', controller, model }]).rig, id: controller.id }
}

function numbered(rig: Rig, id: string, wanted: FirstSending): { rig: Rig; given: number; left: number } {
  const controller = rig.controllers.find((each) => each.id === id)!
  const { edits, given, left } = firstNumbers(rig, controller, wanted)
  return { rig: perform(rig, 'Numbers', edits).rig, given, left }
}

const errors = (rig: Rig): string[] =>
  check(rig)
    .findings.filter(({ severity }) => severity === 'error')
    .map(({ rule }) => rule)

describe('first numbers', () => {
  it('several new controllers at one destination never collide, whatever they are told to send', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(sized, sendings), { minLength: 1, maxLength: 5 }), (list) => {
        let rig = emptyRig('New')
        for (const [{ starter, sizes }, wanted] of list) {
          const next = added(rig, starter, sizes)
          rig = numbered(next.rig, next.id, wanted).rig
        }
        const [daw] = DESTINATION_STARTERS
        const destination = startedDestination(rig, daw!, {}, 'DAW')
        rig = perform(rig, 'Add', [{ type: 'destination-add', destination }]).rig
        for (const way of waysToJoin(rig, destination.id).slice(0, 1))
          rig = perform(rig, 'Join', way.edits).rig
        expect(parseRig(JSON.parse(JSON.stringify(rig))).ok).toBe(true)
        expect(errors(rig)).toEqual([])
      }),
      cases(10),
    )
  })

  it('touches nothing that sends, and leaves nothing silent that was asked for while there are numbers', () => {
    fc.assert(
      fc.property(anyRig, sendings, (rig, wanted) => {
        for (const controller of rig.controllers) {
          const before = [...assignmentsOf(controller)]
          const { edits, given, left } = firstNumbers(rig, controller, wanted)
          const after = perform(rig, 'Numbers', edits).rig
          const now = after.controllers.find(({ id }) => id === controller.id)!
          const byPlace = new Map(
            [...assignmentsOf(now)].map(({ place, assignment }) => [JSON.stringify(place), assignment]),
          )
          for (const { place, assignment } of before)
            if (assignment.messages.some(({ kind }) => kind !== 'off'))
              expect(byPlace.get(JSON.stringify(place))).toEqual(assignment)
          const silent = silentGestures(after, now)
          expect(silent.length).toBe(silentGestures(rig, controller).length - given)
          // Asked again, it finds nothing more.
          const again = firstNumbers(after, now, wanted)
          expect([again.given, again.left]).toEqual([0, left])
        }
      }),
      cases(88),
    )
  })

  it('wheels bend and modulate, a block gets a run, pads play from the bottom left', () => {
    const { rig, id } = added(
      emptyRig('New'),
      STARTERS.find((each) => each.id === 'small-keyboard')!,
    )
    const done = numbered(rig, id, USUAL_SENDING).rig
    const sent = [...assignmentsOf(done.controllers[0]!)].map(({ place, assignment }) => [
      place.gesture,
      assignment.messages[0],
    ])
    const of = (gesture: string) => sent.find(([each]) => each === gesture)?.[1]
    expect(of('wheel-1.turn')).toMatchObject({ kind: 'pitchBend' })
    expect(of('wheel-2.turn')).toMatchObject({ kind: 'cc', number: 1 })
    for (let knob = 1; knob <= 8; knob++)
      expect(of(`knob-${knob}.turn`)).toMatchObject({ kind: 'cc', number: 19 + knob })
    const pads = added(
      emptyRig('New'),
      STARTERS.find((each) => each.id === 'pad-grid')!,
    )
    const grid = numbered(pads.rig, pads.id, { ...USUAL_SENDING, pads: 'drums' }).rig
    const notes = [...assignmentsOf(grid.controllers[0]!)].map(({ place, assignment }) => [
      place.gesture,
      assignment.messages[0],
    ])
    expect(notes.find(([gesture]) => gesture === 'pad-13.strike')?.[1]).toMatchObject({
      kind: 'note',
      channel: 10,
      keys: { number: 36 },
    })
  })

  it('pads beside keys take the notes that the keys leave', () => {
    const keyboard = STARTERS.find((each) => each.id === 'small-keyboard')!
    const { rig, id } = added(emptyRig('New'), keyboard, { knobs: 8, pads: 8 })
    const done = numbered(rig, id, USUAL_SENDING)
    expect(done.left).toBe(0)
    const notes = [...assignmentsOf(done.rig.controllers[0]!)].flatMap(
      ({ place, assignment: { messages } }) => {
        const [message] = messages
        return place.gesture.startsWith('pad') && message?.kind === 'note' && message.keys.kind === 'one'
          ? [message.keys.number]
          : []
      },
    )
    expect(notes.toSorted()).toEqual([85, 86, 87, 88, 89, 90, 91, 92])
  })

  it('has nothing to do on the demo but for what is silent on purpose', () => {
    const rig = nineRingsRig('as-performed')
    for (const controller of rig.controllers) {
      const { edits } = firstNumbers(rig, controller, USUAL_SENDING)
      expect(perform(rig, 'Numbers', edits).rig.mappings).toEqual(rig.mappings)
    }
  })
})
