import { expect, it } from 'vitest'
import {
  DESTINATION_STARTERS,
  emptyRig,
  perform,
  powerUpShowing,
  shownPlace,
  startController,
  startDestination,
  STARTERS,
  type Rig,
} from '../rig'
import { check } from '../conflicts'
import { joinInOrder } from './in-order'

const SILENT = { moved: 'nothing', wheels: 'play', pads: 'nothing', buttons: 'nothing' } as const

/** Two boxes of eight knobs that send nothing, and a synth that learns what it is sent. */
function silentRig(): Rig {
  let rig = emptyRig('New')
  const knobBox = STARTERS.find(({ id }) => id === 'knob-box')!
  for (const name of ['One', 'Two'])
    rig = perform(
      rig,
      'Add',
      startController(rig, name, knobBox.make({ rows: 1, columns: 8 }), SILENT).edits,
    ).rig
  const daw = DESTINATION_STARTERS.find(({ id }) => id === 'daw')!
  return perform(rig, 'Add', startDestination(rig, daw, { tracks: 8, sends: 0, scenes: 0 }, 'DAW').edits).rig
}

it('what sends nothing yet gets a free number as it is joined to what learns, and nothing collides', () => {
  let rig = silentRig()
  const [destination] = rig.destinations
  const volumes = destination!.parameters.filter(
    ({ name, path }) => name === 'Volume' && path[0] !== 'Master',
  )
  const pans = destination!.parameters.filter(({ name }) => name === 'Pan')
  for (const [index, parameters] of [volumes, pans].entries()) {
    const controller = rig.controllers[index]!
    const showing = powerUpShowing(controller)
    const places = Array.from({ length: 8 }, (_, knob) =>
      shownPlace(controller, showing, `knob-${knob + 1}.turn`)!,
    )
    const targets = parameters.map(({ id }) => ({ kind: 'parameter' as const, parameter: id }))
    const { edits, joined } = joinInOrder(rig, places, destination!.id, targets, null)
    expect(joined).toBe(8)
    rig = perform(rig, 'Join', edits).rig
    const numbers = places.map(({ gesture }) => {
      const [message] = rig.controllers[index]!.templates[0]!.base[gesture]?.messages ?? []
      return message?.kind === 'cc' ? message.number : null
    })
    expect(numbers).toEqual([20, 21, 22, 23, 24, 25, 26, 27])
  }
  expect(rig.mappings).toHaveLength(16)
  expect(check(rig).findings.filter(({ severity }) => severity === 'error')).toEqual([])
})

it('joining to what a chart fixes takes the number of the chart, not a free one', () => {
  const rig = silentRig()
  const drums = DESTINATION_STARTERS.find(({ id }) => id === 'drum-machine')!
  const started = startDestination(rig, drums, { sounds: 4 }, 'Drums')
  const withDrums = perform(rig, 'Add', started.edits).rig
  const [controller] = withDrums.controllers
  const place = shownPlace(controller!, powerUpShowing(controller!), 'knob-1.turn')!
  const target = { kind: 'note' as const, number: 38 }
  const { edits } = joinInOrder(withDrums, [place], started.id, [target], null)
  const joined = perform(withDrums, 'Join', edits).rig
  const [message] = joined.controllers[0]!.templates[0]!.base['knob-1.turn']?.messages ?? []
  expect(message).toMatchObject({ kind: 'note', channel: 10, keys: { kind: 'one', number: 38 } })
})
