import {
  across,
  run,
  sends,
  cc,
  pressed,
  note,
  type MessageInput,
  type ControllerInput,
  type DemoState,
} from '../kit'

export function merrodController(state: DemoState): ControllerInput {
  return {
    id: 'merrod',
    name: 'Merrod 49',
    letter: 'M',
    hue: 2,
    model: 'merrod-49',
    homeChannel: state === 'as-found' ? 1 : 2,
    ports: [
      { id: 'usb', name: 'USB', direction: 'out' },
      { id: 'din', name: 'DIN out', direction: 'out' },
    ],
    templates: [
      {
        id: 'nine-rings',
        name: 'Nine Rings',
        base: {
          'keys.strike': sends({ kind: 'note', keys: { kind: 'span', low: 36, high: 84 } }),
          'keys.pressure': sends({ kind: 'channelPressure' }),
          'bend.turn': sends({ kind: 'pitchBend' }),
          'mod.turn': sends(cc(1)),
          'ribbon.slide': sends(cc(1)),
          'tilt.tilt': sends(cc(2)),
          'xy.x': sends(cc(74)),
          'xy.y': sends(cc(71)),
          'xy.touch': sends(state === 'as-found' ? pressed(71) : { kind: 'off' }),
          ...across('knob', 'turn', [
            ...[73, 75, 79, 72, 76, 77, 16].map((number) => cc(number)),
            {
              kind: 'nrpn',
              number: 640,
              range: { low: 0, high: 1000 },
              ...(state === 'as-found' ? { nullAfter: true } : { omitNumber: true }),
            },
          ]),
          ...across(
            'pad',
            'strike',
            run(36, 8).map((number) => note(number, { channel: 13 })),
          ),
          ...across(
            'pad',
            'pressure',
            run(36, 8).map((): MessageInput => ({ kind: 'channelPressure', channel: 13 })),
          ),
        },
      },
    ],
    slots: [{ number: 3, template: 'nine-rings' }],
  }
}
