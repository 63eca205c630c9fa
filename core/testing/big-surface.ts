import { parseRig, type Rig, type RigInput } from '../rig'

const COLUMNS = 20

/**
 * One controller with many pads, all of them changing over many layers, which reaches one destination.
 * Layer by layer a channel further; on one channel notes as far as they go, then controllers.
 */
export function bigSurfaceRig(controls: number, layers: number): Rig {
  const pads = Array.from({ length: controls }, (_, index) => `pad-${index + 1}`)
  const rows = Math.ceil(controls / COLUMNS)
  const message = (index: number, layer: number): object =>
    index % 256 < 128
      ? { kind: 'note', channel: (layer % 16) + 1, keys: { kind: 'one', number: index % 128 } }
      : { kind: 'cc', channel: (layer % 16) + 1, number: index % 120 }
  const input = {
    format: 'deft-lattice/rig',
    version: 7,
    name: `${controls} pads in ${layers} layers`,
    models: [
      {
        id: 'wall',
        name: 'Pad wall',
        abilities: { connection: 'usb', stacks: 1, layersAStack: layers },
        surface: {
          width: COLUMNS * 24 + 16,
          height: rows * 24 + 16,
          blocks: [{ id: 'all', label: 'Pads', rows, columns: COLUMNS }],
          controls: pads.map((id, index) => ({
            id,
            kind: 'pad',
            label: `Pad ${index + 1}`,
            block: 'all',
            gestures: ['strike'],
            place: { x: 12 + (index % COLUMNS) * 24, y: 12 + Math.floor(index / COLUMNS) * 24, w: 16, h: 16 },
          })),
        },
      },
    ],
    controllers: [
      {
        id: 'wall',
        name: 'Pad wall',
        letter: 'W',
        hue: 0,
        model: 'wall',
        homeChannel: 1,
        ports: [{ id: 'usb', name: 'USB', direction: 'out' }],
        templates: [
          {
            id: 't',
            name: 'Wall',
            stacks: [
              {
                id: 's',
                name: 'Pads',
                gestures: pads.map((id) => `${id}.strike`),
                powerUp: 'layer-1',
                layers: Array.from({ length: layers }, (_, layer) => ({
                  id: `layer-${layer + 1}`,
                  name: `Layer ${layer + 1}`,
                  assignments: Object.fromEntries(
                    pads.map((id, index) => [`${id}.strike`, { messages: [message(index, layer)] }]),
                  ),
                })),
              },
            ],
          },
        ],
      },
    ],
    destinations: [
      {
        id: 'daw',
        name: 'Sequencer',
        kind: 'daw',
        ports: [{ id: 'in', name: 'In', direction: 'in' }],
        hears: {},
      },
    ],
    cables: [{ id: 'c', from: { owner: 'wall', port: 'usb' }, to: { owner: 'daw', port: 'in' } }],
  } as RigInput
  const parsed = parseRig(input)
  if (!parsed.ok) throw new Error(parsed.problems[0]?.message)
  return parsed.rig
}
