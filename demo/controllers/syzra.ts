import { MOVEMENTS } from '../destinations/loomwright'
import {
  across,
  run,
  sends,
  slug,
  keysOf,
  cc,
  pressed,
  note,
  lit,
  type Assignments,
  type MessageInput,
  type ControllerInput,
  type DemoState,
} from '../kit'

const toggled = (number: number, channel: number): MessageInput =>
  note(number, { channel, behaviour: { kind: 'toggle' }, velocity: { kind: 'fixed', value: 127 } })
const stepped = (number: number, value: number): MessageInput =>
  cc(number, { channel: 6, range: { low: value, high: value }, behaviour: { kind: 'trigger' } })

/** The channel on which Syzra's knobs and encoders send in each movement. */
const MOVEMENT_CHANNELS = [1, 3, 4, 5] as const

function syzraKnobs(state: DemoState): Array<{ id: string; name: string; assignments: Assignments }> {
  return MOVEMENTS.map((name, index) => {
    const channel = MOVEMENT_CHANNELS[index] ?? 1
    const assignments: Assignments = {
      ...across(
        'enc',
        'turn',
        run(102, 8).map((number) => cc(number, { channel })),
      ),
      ...across(
        'knob',
        'turn',
        run(110, 8).map((number) => cc(number, { channel })),
      ),
    }
    // Wow has no end to run into: clicks suit it better than positions.
    if (name === 'Overture') {
      const behaviour = { kind: 'relative', encoding: 'offset-binary' } as const
      assignments['enc-6.turn'] = sends(cc(107, { channel, behaviour }))
    }
    if (state === 'as-found' && name === 'Overture') {
      assignments['enc-5.turn'] = sends(cc(74), { memo: 'Was on the old map.' })
      assignments['enc-7.turn'] = sends(cc(71))
      assignments['knob-5.turn'] = sends(cc(49))
    }
    if (state === 'as-found' && name === 'Transit') {
      assignments['knob-8.turn'] = sends(cc(32, { channel }))
    }
    if (state === 'as-found' && name === 'Night Side') {
      assignments['knob-8.turn'] = sends({ kind: 'nrpn', channel: 1, number: 641 })
    }
    return { id: slug(name), name, assignments }
  })
}

/** `stepNumber` null: the last two buttons have nothing to do in this layer. */
const buttonLayer = (name: string, firstKey: number, stepNumber: number | null, isKept: boolean) => ({
  id: slug(name),
  name,
  assignments: {
    ...across(
      'key',
      'press',
      run(firstKey, 8).map((number) => (isKept ? toggled(number, 6) : note(number, { channel: 6 }))),
    ),
    ...across(
      'side',
      'press',
      run(firstKey + 8, 6).map((number) => note(number, { channel: 6 })),
    ),
    ...(stepNumber === null
      ? {}
      : {
          'side-7.press': sends(stepped(stepNumber, 1)),
          'side-8.press': sends(stepped(stepNumber, 127)),
        }),
  },
})

type ButtonLayer = Omit<ReturnType<typeof buttonLayer>, 'assignments'> & { assignments: Assignments }

/** The last key of a layer sends what it sends in another: nobody told the layers apart. */
function withSharedKey(from: ButtonLayer, to: ButtonLayer): ButtonLayer {
  const shared = from.assignments['key-8.press']
  return shared ? { ...to, assignments: { ...to.assignments, 'key-8.press': shared } } : to
}

const transport = (number: number): MessageInput =>
  cc(number, { channel: 15, behaviour: { kind: 'trigger' } })

export function syzraController(state: DemoState): ControllerInput {
  const knobs = syzraKnobs(state)
  const mutes = buttonLayer('Mutes', 36, 86, true)
  const scenes = buttonLayer('Scenes', 60, state === 'as-found' ? 87 : null, false)
  const found = [
    // Somebody wanted the one lit, and did not see that both answer to it.
    {
      ...mutes,
      assignments: lit(mutes.assignments, 'side-8.', {
        role: 'effect',
        setBy: { kind: 'steady', state: 'on' },
      }),
    },
    withSharedKey(mutes, scenes),
  ]
  const performed = [
    {
      ...mutes,
      assignments: lit(mutes.assignments, 'key-', { role: 'effect', setBy: { kind: 'feedback' } }),
    },
    {
      ...scenes,
      assignments: lit(scenes.assignments, 'key-', {
        role: 'launch',
        setBy: { kind: 'one-of-many', group: 'Cues' },
      }),
    },
  ]
  const buttons = state === 'as-found' ? found : performed
  return {
    id: 'syzra',
    name: 'Syzra 24',
    letter: 'S',
    hue: 0,
    model: 'syzra-24',
    homeChannel: 1,
    ports: [
      { id: 'usb', name: 'USB', direction: 'out' },
      { id: 'din', name: 'DIN out', direction: 'out' },
    ],
    templates: [
      {
        id: 'nine-rings',
        name: 'Nine Rings',
        base: {
          ...across(
            'fader',
            'slide',
            run(16, 8).map((number): MessageInput => ({ kind: 'cc14', number })),
          ),
          ...across(
            'enc',
            'push',
            run(24, 8).map((number) => pressed(number)),
          ),
          ...across('run', 'press', run(110, 3).map(transport)),
          ...(state === 'as-found' ? { 'enc-8.touch': sends(pressed(98, { channel: 1 })) } : {}),
        },
        stacks: [
          {
            id: 'knobs',
            name: 'Knobs',
            gestures: keysOf(knobs[0]?.assignments),
            layers: knobs,
            powerUp: 'overture',
          },
          {
            id: 'buttons',
            name: 'Buttons',
            gestures: keysOf(buttons[0]?.assignments),
            layers: buttons,
            powerUp: 'mutes',
          },
        ],
      },
      { id: 'empty', name: 'Empty' },
    ],
    slots: [{ number: 2, template: 'nine-rings', memo: 'The show' }],
  }
}
