import { across, run, cc, type ControllerInput } from '../kit'

export const corvelController: ControllerInput = {
  id: 'corvel',
  name: 'Corvel 8',
  letter: 'C',
  hue: 7,
  model: 'corvel-8',
  inUse: false,
  homeChannel: 7,
  ports: [{ id: 'usb', name: 'USB', direction: 'out' }],
  templates: [
    {
      id: 'macros',
      name: 'Macros',
      base: across(
        'knob',
        'turn',
        run(20, 8).map((number) => cc(number)),
      ),
    },
  ],
  notes: 'Lent to the other hall. Its mappings are still in Loomwright.',
}
