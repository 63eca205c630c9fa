import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { occupancyOf } from '../addresses'
import { DESTINATION_STARTERS, startedDestination } from './destination-starters'
import { perform } from './edits'
import { newComputer, newController } from './fresh'
import { emptyRig, parseRig } from './parse'
import { firstNumbers, USUAL_SENDING } from './program'
import { STARTERS } from './surface'
import type { Rig } from './types'
import { isJoined, waysToJoin } from './ways'
import { cases } from '../testing/cases'

const knobBox = STARTERS.find(({ id }) => id === 'knob-box')!
const starter = (id: string) => DESTINATION_STARTERS.find((each) => each.id === id)!

function withController(rig: Rig): { rig: Rig; id: string } {
  const { controller, model } = newController(
    rig,
    `Box ${rig.controllers.length + 1}`,
    knobBox.make({ rows: 1, columns: 4 }),
  )
  const added = perform(rig, 'Add', [{ type: 'controller-add', controller, model }]).rig
  const numbers = firstNumbers(added, added.controllers.at(-1)!, USUAL_SENDING).edits
  return { rig: perform(added, 'Numbers', numbers).rig, id: controller.id }
}

function withDestination(rig: Rig, id: string): { rig: Rig; id: string } {
  const destination = startedDestination(rig, starter(id), {}, starter(id).name)
  return { rig: perform(rig, 'Add', [{ type: 'destination-add', destination }]).rig, id: destination.id }
}

/** The controllers whose messages arrive at a destination. */
function heard(rig: Rig, destination: string): Set<string> {
  const { buses, cells } = occupancyOf(rig)
  const own = buses.filter((bus) => bus.destination === destination)
  return new Set(
    own.flatMap(({ id }) =>
      [...(cells.get(id)?.values() ?? [])].flat().map(({ sender }) => sender.place.controller),
    ),
  )
}

type Act = { kind: 'controller' } | { kind: 'computer' } | { kind: 'destination'; starter: string }
const acts: fc.Arbitrary<Act> = fc.oneof(
  fc.constant<Act>({ kind: 'controller' }),
  fc.constant<Act>({ kind: 'computer' }),
  fc.constantFrom(...DESTINATION_STARTERS.map(({ id }): Act => ({ kind: 'destination', starter: id }))),
)

describe('ways to join', () => {
  it('every way that is offered can be taken, joins what asked for it, and lets it hear or be heard', () => {
    fc.assert(
      fc.property(fc.array(acts, { minLength: 2, maxLength: 6 }), fc.nat(), (list, pick) => {
        let rig = emptyRig('New')
        for (const act of list) {
          if (act.kind === 'computer') {
            rig = perform(rig, 'Add', [{ type: 'computer-add', computer: newComputer(rig) }]).rig
            continue
          }
          const added = act.kind === 'controller' ? withController(rig) : withDestination(rig, act.starter)
          rig = added.rig
          const ways = waysToJoin(rig, added.id)
          const names = ways.map(({ name }) => name)
          expect(new Set(names).size, names.join()).toBe(names.length)
          const results = ways.map(({ edits }) => perform(rig, 'Join', edits).rig)
          for (const joined of results) {
            expect(parseRig(JSON.parse(JSON.stringify(joined))).ok).toBe(true)
            expect(isJoined(joined, added.id)).toBe(true)
            expect(waysToJoin(joined, added.id)).toEqual([])
          }
          rig = results[pick % Math.max(1, results.length)] ?? rig
        }
      }),
      cases(63),
    )
  })

  it('a DAW hears every controller there is, by a computer that comes with it', () => {
    const first = withController(emptyRig('New'))
    const second = withController(first.rig)
    const daw = withDestination(second.rig, 'daw')
    const ways = waysToJoin(daw.rig, daw.id)
    expect(ways.map(({ name }) => name)).toEqual(['through a computer'])
    const joined = perform(daw.rig, 'Join', ways[0]!.edits).rig
    expect(heard(joined, daw.id)).toEqual(new Set([first.id, second.id]))
    // A third is heard as soon as it is joined to that computer.
    const third = withController(joined)
    const [way] = waysToJoin(third.rig, third.id)
    expect(way?.name).toBe('to Computer')
    expect(heard(perform(third.rig, 'Join', way!.edits).rig, daw.id).has(third.id)).toBe(true)
  })

  it('a synth with one in can be reached from either controller, or from both through a merge box', () => {
    const first = withController(emptyRig('New'))
    const second = withController(first.rig)
    const synth = withDestination(second.rig, 'synth')
    const ways = waysToJoin(synth.rig, synth.id)
    expect(ways.map(({ name }) => name)).toEqual([
      'from Box 1',
      'from Box 2',
      'from all, through a merge box',
    ])
    const reached = ways.map(({ edits }) => heard(perform(synth.rig, 'Join', edits).rig, synth.id).size)
    expect(reached).toEqual([1, 1, 2])
  })

  it('there is none where there is nothing to join to', () => {
    const synth = withDestination(emptyRig('New'), 'synth')
    expect(waysToJoin(synth.rig, synth.id)).toEqual([])
    expect(waysToJoin(withController(emptyRig('New')).rig, 'controller')).toEqual([])
  })
})
