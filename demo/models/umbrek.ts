import { grid, type ModelInput } from '../kit'

export const umbrek: ModelInput = {
  id: 'umbrek-6',
  name: 'Umbrek 6',
  abilities: {
    connection: 'din',
    kinds: {
      footswitch: ['cc', 'program', 'mmc', 'realtime'],
      pedal: ['cc', 'pitchBend', 'channelPressure'],
    },
    slots: 4,
    stacks: 1,
    layersAStack: 4,
    lights: { levels: { footswitch: 'on-off' }, setBy: { kind: 'fixed' } },
  },
  surface: {
    width: 430,
    height: 152,
    blocks: [{ id: 'switches', label: 'Switches', rows: 2, columns: 3 }],
    controls: [
      ...grid({
        id: 'foot',
        kind: 'footswitch',
        gestures: ['press'],
        block: 'switches',
        x: 28,
        y: 18,
        columns: 3,
        pitch: { x: 76, y: 70 },
        size: { w: 32, h: 32 },
        labels: ['Go', 'Freeze', 'Swell', 'Back', 'Tape', 'Dark'],
      }),
      {
        id: 'pedal',
        kind: 'pedal',
        label: 'Expression',
        gestures: ['press'],
        place: { x: 262, y: 18, w: 66, h: 112 },
      },
      {
        id: 'socket',
        kind: 'pedal',
        label: 'Second pedal',
        gestures: ['press'],
        place: { x: 346, y: 18, w: 66, h: 118 },
      },
    ],
  },
}
