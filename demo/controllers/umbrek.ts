import { MOVEMENTS } from '../destinations/loomwright'
import {
  run,
  sends,
  slug,
  keysOf,
  cc,
  pressed,
  note,
  type Assignments,
  type ControllerInput,
  type DemoState,
} from '../kit'

/** Numbers of the five plain switches in each row. */
const ROWS = [[80, 81, 82, 83, 85], [86, 87, 89, 90, 14], run(102, 5), run(107, 5)] as const

export function umbrekController(state: DemoState): ControllerInput {
  const layers = MOVEMENTS.map((name, row) => {
    const numbers: readonly number[] = ROWS[row] ?? []
    const assignments: Assignments = {
      'foot-1.press': sends({
        kind: 'program',
        channel: state === 'as-found' ? 1 : 2,
        number: row,
        bank: state === 'as-found' && row === 3 ? null : { msb: 0, lsb: 1 },
      }),
    }
    numbers.forEach((number, index) => {
      const sent = state === 'as-found' && row === 0 && index === 0 ? 64 : number
      assignments[`foot-${index + 2}.press`] = sends(pressed(sent))
    })
    // The board cannot send notes; someone wrote one down all the same.
    if (state === 'as-found' && name === 'Night Side') assignments['foot-6.press'] = sends(note(111))
    return { id: slug(name), name, assignments }
  })
  return {
    id: 'umbrek',
    name: 'Umbrek 6',
    letter: 'U',
    hue: 3,
    model: 'umbrek-6',
    homeChannel: 9,
    ports: [{ id: 'din', name: 'DIN out', direction: 'out' }],
    templates: [
      {
        id: 'nine-rings',
        name: 'Nine Rings',
        base: {
          // Never set up after it came: it stops short of its end.
          'pedal.press': sends(cc(11, state === 'as-found' ? { range: { low: 0, high: 104 } } : {})),
          'socket.press': sends({ kind: 'off' }),
        },
        stacks: [
          { id: 'rows', name: 'Rows', gestures: keysOf(layers[0]?.assignments), layers, powerUp: 'overture' },
        ],
      },
    ],
    slots: [{ number: 1, template: 'nine-rings' }],
  }
}
