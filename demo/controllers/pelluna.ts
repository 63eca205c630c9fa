import { DRUM_NOTES } from '../destinations/kettlow'
import {
  across,
  run,
  keysOf,
  pressed,
  note,
  lit,
  type Assignments,
  type MessageInput,
  type ControllerInput,
  type DemoState,
} from '../kit'

export function pellunaController(state: DemoState): ControllerInput {
  const clips =
    state === 'as-found'
      ? run(76, 22).map((number) => note(number, { channel: 14 }))
      : run(36, 22).map((number) => note(number, { channel: 11 }))
  const drums: Assignments = {
    ...across('pad', 'strike', [...DRUM_NOTES.map((number) => note(number)), ...clips]),
  }
  if (state === 'as-performed') {
    for (const [index, key] of keysOf(drums).entries()) {
      const role = index < DRUM_NOTES.length ? 'drum' : 'launch'
      drums[key] = {
        ...drums[key],
        messages: drums[key]?.messages ?? [],
        light: { role, setBy: { kind: 'press' } },
      }
    }
  }
  const sounding: Assignments = {
    ...across(
      'pad',
      'strike',
      run(48, 36).map((number) => note(number, { channel: 12 })),
    ),
    ...across(
      'pad',
      'pressure',
      run(48, 36).map((number): MessageInput => ({
        kind: 'polyPressure',
        channel: 12,
        keys: { kind: 'one', number },
      })),
    ),
  }
  const scales =
    state === 'as-performed' ? lit(sounding, 'pad-', { role: 'voice', setBy: { kind: 'press' } }) : sounding
  return {
    id: 'pelluna',
    name: 'Pelluna 36',
    letter: 'P',
    hue: 1,
    model: 'pelluna-36',
    homeChannel: 10,
    ports: [
      { id: 'usb', name: 'USB', direction: 'out' },
      { id: 'usb-in', name: 'USB lights', direction: 'in' },
    ],
    templates: [
      {
        id: 'nine-rings',
        name: 'Nine Rings',
        base: across(
          'slim',
          'press',
          run(state === 'as-found' ? 115 : 20, 6).map((number) => pressed(number, { channel: 11 })),
        ),
        stacks: [
          {
            id: 'pads',
            name: 'Pads',
            gestures: keysOf(scales),
            layers: [
              { id: 'drums', name: 'Drums and clips', colour: '#ff8a1e', assignments: drums },
              { id: 'scales', name: 'Scales', colour: '#b06bff', assignments: scales },
            ],
            powerUp: 'drums',
          },
        ],
      },
    ],
    slots: [{ number: 1, template: 'nine-rings' }],
  }
}
