import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, type RigEdit } from '../rig'
import { senderChange } from './sender-change'

const rig = nineRingsRig('as-performed')
const [model] = rig.models
const [controller] = rig.controllers
const control = model?.surface.controls[0]
if (!model || !controller || !control) throw new Error('The demo is empty.')

const changeBy = (edit: RigEdit) => senderChange(rig, perform(rig, 'x', [edit]).rig)
const controlSet = (set: object): RigEdit => ({
  type: 'controls-set',
  model: model.id,
  controls: [{ id: control.id, set }],
})

it.each<[string, RigEdit]>([
  ['a control that is moved', controlSet({ place: { ...control.place, x: control.place.x + 1 } })],
  [
    'another hue',
    { type: 'controller-set', controller: controller.id, set: { hue: (controller.hue + 1) % 8 } },
  ],
  ['another name of the rig', { type: 'rig-set', set: { name: 'Other', notes: 'More' } }],
])('%s changes nothing for those who send', (_, edit) => {
  expect(changeBy(edit)).toMatchObject({ removed: [], added: [], mappings: [] })
})

it.each<[string, RigEdit]>([
  ['a control with another name, which findings say', controlSet({ label: 'Other' })],
  ['another home channel', { type: 'controller-set', controller: controller.id, set: { homeChannel: 9 } }],
])('%s is not among what it can tell', (_, edit) => {
  expect(changeBy(edit)).toBeNull()
})
