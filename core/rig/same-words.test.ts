import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { EditError, parseRig, perform, type RigEdit } from '.'

const rig = nineRingsRig('as-found')
const at = (test: boolean[]): number => {
  const found = test.indexOf(true)
  if (found < 0) throw new Error('The demo has lost what this needs.')
  return found
}
const d = at(rig.destinations.map(({ claims }) => claims.length > 0))
const m = at(rig.models.map(({ abilities }) => (abilities.lights?.palette.length ?? 0) > 1))
const destination = rig.destinations[d]!
const model = rig.models[m]!
const lights = model.abilities.lights!
const control = model.surface.controls[0]!
const palette = [lights.palette[0]!, lights.palette[0]!]
const gestures = [control.gestures[0]!, control.gestures[0]!]
const claims = [{ ...destination.claims[0]!, low: 9, high: 3 }]
const turned = [{ ...rig.houseRules[0]!, low: 9, high: 3 }]
const homeless = [{ ...rig.houseRules[0]!, controller: null, block: 'rings' }]

/** A fault as a file would have it, as an edit would make it, and a part of what both are told. */
const FAULTS: ReadonlyArray<readonly [string, (file: any) => void, RigEdit, RegExp]> = [
  [
    'two colours of one number',
    (file) => (file.models[m].abilities.lights.palette = palette),
    {
      type: 'abilities-set',
      model: model.id,
      abilities: { ...model.abilities, lights: { ...lights, palette } },
    },
    /has two colours at/,
  ],
  [
    'a movement sensed twice',
    (file) => (file.models[m].surface.controls[0].gestures = gestures),
    { type: 'controls-set', model: model.id, controls: [{ id: control.id, set: { gestures } }] },
    /senses each movement once/,
  ],
  [
    'numbers kept the wrong way round',
    (file) => (file.destinations[d].claims = claims),
    { type: 'destination-set', destination: destination.id, set: { claims } },
    /keeps numbers from 9 to 3: turn the ends round/,
  ],
  [
    'a house rule the wrong way round',
    (file) => (file.houseRules = turned),
    { type: 'rig-set', set: { houseRules: turned } },
    /from the lower number to the higher/,
  ],
  [
    'a house rule for a block of no controller',
    (file) => (file.houseRules = homeless),
    { type: 'rig-set', set: { houseRules: homeless } },
    /needs the controller it is on/,
  ],
  [
    'a destination inside itself',
    (file) => (file.destinations[d].inside = destination.id),
    { type: 'destination-set', destination: destination.id, set: { inside: destination.id } },
    /cannot run inside itself/,
  ],
]

it.each(FAULTS)('a file and an edit are refused in the same words: %s', (_, spoil, edit, words) => {
  const file = structuredClone(rig)
  spoil(file)
  const read = parseRig(file)
  expect(read.ok ? '' : read.problems.map(({ message }) => message).join()).toMatch(words)
  expect(() => perform(rig, 'x', [edit])).toThrow(EditError)
  expect(() => perform(rig, 'x', [edit])).toThrow(words)
})
