import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { DESTINATION_STARTERS } from './destination-starters'
import { perform } from './edits'
import { newDestination } from './fresh'
import { emptyRig } from './parse'
import { firstSteps, startController, startDestination } from './start'
import { STARTERS } from './surface'
import type { Rig } from './types'
import { USUAL_SENDING } from './program'

const knobBox = STARTERS.find(({ id }) => id === 'knob-box')!
const open = (rig: Rig): string[] => firstSteps(rig).flatMap(({ id, isDone }) => (isDone ? [] : [id]))

it('each step done leaves the next: controllers, destinations, cables, numbers, join', () => {
  let rig = emptyRig('New')
  expect(open(rig)).toEqual(['controllers', 'destinations', 'cables', 'numbers', 'join'])
  const box = startController(rig, 'Box', knobBox.make({ rows: 1, columns: 8 }), USUAL_SENDING)
  expect([box.given, box.left, box.joined, box.ways]).toEqual([8, 0, null, 0])
  rig = perform(rig, 'Add', box.edits).rig
  expect(open(rig)).toEqual(['destinations', 'cables', 'join'])
  const daw = startDestination(rig, DESTINATION_STARTERS[0]!, { tracks: 8, sends: 0, scenes: 0 }, 'DAW')
  expect(daw.joined).toBe('through a computer')
  rig = perform(rig, 'Add', daw.edits).rig
  expect(open(rig)).toEqual(['join'])
})

it('a second one of a name has a number after it', () => {
  let rig = emptyRig('New')
  const names = [0, 1, 2].map(() => {
    const started = startDestination(rig, DESTINATION_STARTERS[0]!, {}, 'DAW')
    rig = perform(rig, 'Add', started.edits).rig
    return started.name
  })
  expect(names).toEqual(['DAW', 'DAW 2', 'DAW 3'])
})

it('what is joined to nothing is named, what is put away is not', () => {
  const rig = nineRingsRig('as-performed')
  expect(open(rig)).toEqual([])
  const alone = perform(rig, 'Add', [{ type: 'destination-add', destination: newDestination(rig) }]).rig
  const cables = firstSteps(alone).find(({ id }) => id === 'cables')
  expect(cables?.id === 'cables' && cables.open.map(({ name }) => name)).toEqual(['Destination 6'])
})
