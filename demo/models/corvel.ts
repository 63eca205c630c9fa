import { grid, run, type ModelInput } from '../kit'

export const corvel: ModelInput = {
  id: 'corvel-8',
  name: 'Corvel 8',
  abilities: { connection: 'usb', slots: 1 },
  surface: {
    width: 220,
    height: 100,
    blocks: [{ id: 'knobs', label: 'Knobs', rows: 2, columns: 4 }],
    controls: grid({
      id: 'knob',
      kind: 'knob',
      gestures: ['turn'],
      block: 'knobs',
      x: 18,
      y: 12,
      columns: 4,
      pitch: { x: 52, y: 44 },
      size: { w: 18, h: 18 },
      labels: run(1, 8).map((number) => `Macro ${number}`),
    }),
  },
}
