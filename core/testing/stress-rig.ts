import { parseRig, type Rig, type RigInput } from '../rig'
import type { MessageInput } from './rigs'

type ControllerInput = NonNullable<RigInput['controllers']>[number]

const CONTROLS = 98
const LAYERS = 16
const DESTINATIONS = 8
/** Every so many controls one sends where another controller is at home. */
const STRAY_EVERY = 499

const range = (count: number): number[] => Array.from({ length: count }, (_, index) => index)

/** Controller numbers that are free to use, in order. */
const FREE = range(128).filter(
  (number) =>
    (number >= 14 && number < 32) || (number >= 64 && number < 96) || (number >= 102 && number < 120),
)

/** The message of one of the controls of a layer: all of a layer differ. */
const messageAt = (index: number): MessageInput => {
  const number = FREE[index]
  return number === undefined
    ? { kind: 'note', keys: { kind: 'one', number: 36 + index - FREE.length } }
    : { kind: 'cc', number }
}

/**
 * A large rig of the kind that real ones grow into: `controllers` × 98 controls × 16 layers (64 make
 * 100,352 assignments), each cabled to two of eight destinations and at home on a channel of its own there.
 * Layers use the numbers of one another, here and there a control strays onto another's channel, and
 * every eighth control of the first layer is mapped.
 */
export function stressRig(controllers = 64): Rig {
  const result = parseRig({
    format: 'deft-lattice/rig',
    version: 7,
    name: 'Stress',
    models: [
      {
        id: 'desk',
        name: 'Desk',
        abilities: { connection: 'usb', fourteenBit: true, stacks: 1, layersAStack: LAYERS },
        surface: {
          width: 1000,
          height: 500,
          controls: range(CONTROLS).map((n) => ({
            id: `k${n}`,
            kind: 'knob',
            label: `Knob ${n + 1}`,
            gestures: ['turn'],
            place: { x: 20 + (n % 14) * 60, y: 20 + Math.floor(n / 14) * 60, w: 20, h: 20 },
          })),
        },
      },
    ],
    controllers: range(controllers).map((index): ControllerInput => {
      const home = (Math.floor(index / DESTINATIONS) * 2 + (index % 2)) % 16
      return {
        id: `c${index}`,
        name: `Controller ${index + 1}`,
        letter: 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'[index % 26] ?? 'A',
        hue: index % 8,
        model: 'desk',
        homeChannel: home + 1,
        ports: [{ id: 'out', name: 'Out', direction: 'out' }],
        templates: [
          {
            id: 't',
            name: 'T',
            stacks: [
              {
                id: 's',
                name: 'S',
                gestures: range(CONTROLS).map((n) => `k${n}.turn`),
                powerUp: 'l0',
                layers: range(LAYERS).map((layer) => ({
                  id: `l${layer}`,
                  name: `Layer ${layer + 1}`,
                  assignments: Object.fromEntries(
                    range(CONTROLS).map((n) => {
                      const isStray = (index * CONTROLS + n + layer) % STRAY_EVERY === 0
                      const message = messageAt((n + layer) % CONTROLS)
                      return [
                        `k${n}.turn`,
                        { messages: [isStray ? { ...message, channel: ((home + 2) % 16) + 1 } : message] },
                      ]
                    }),
                  ),
                })),
              },
            ],
          },
        ],
      }
    }),
    destinations: range(DESTINATIONS).map((index) => ({
      id: `d${index}`,
      name: `Destination ${index + 1}`,
      kind: 'daw',
      ports: [{ id: 'in', name: 'In', direction: 'in' }],
      hears: {},
      parameters: range(128).map((n) => ({ id: `p${n}`, name: `Parameter ${n + 1}` })),
    })),
    cables: range(controllers).flatMap((index) =>
      [0, 1].map((by) => ({
        id: `cable-${index}-${by}`,
        from: { owner: `c${index}`, port: 'out' },
        to: { owner: `d${(index + by) % DESTINATIONS}`, port: 'in' },
      })),
    ),
    mappings: range(controllers).flatMap((index) =>
      range(Math.floor(CONTROLS / 8)).map((n) => ({
        id: `m-${index}-${n}`,
        gesture: `c${index}/k${n * 8}.turn`,
        destination: `d${index % DESTINATIONS}`,
        parameter: `p${(n * 8 + Math.floor(index / DESTINATIONS)) % 128}`,
      })),
    ),
  })
  if (!result.ok) throw new Error(result.problems.map(({ path, message }) => `${path} ${message}`).join('\n'))
  return result.rig
}
