import * as fc from 'fast-check'
import { perform, programmedAt, type Place, type Rig, type RigEdit, type RigInput } from '../rig'
import { plainModel, sending, sendingCc, testController, testDestination, testRig } from './rigs'

/** A gesture sends something else in its first message. */
export function sendsElse(rig: Rig, at: Place, change: object): RigEdit {
  const message = programmedAt(rig, at)?.assignment.messages[0]
  if (!message) throw new Error('sends nothing')
  return { type: 'message', at, index: 0, message: { ...message, ...change } as typeof message }
}
export const sendingElse = (rig: Rig, at: Place, change: object): Rig =>
  perform(rig, '', [sendsElse(rig, at, change)]).rig

export const KNOBS = 4
export const litModel: NonNullable<RigInput['models']>[number] = {
  ...plainModel,
  abilities: {
    ...plainModel.abilities,
    lights: {
      levels: { button: 'palette' },
      setBy: { kind: 'note-velocity' },
      palette: [
        { index: 0, colour: '#000000', name: 'Dark' },
        { index: 1, colour: '#a01010', name: 'Red' },
        { index: 2, colour: '#10c040', name: 'Green' },
      ],
    },
  },
  surface: {
    ...plainModel.surface,
    controls: [
      ...plainModel.surface.controls,
      ...[1, 2].map((n) => ({
        id: `b${n}`,
        kind: 'button' as const,
        label: `Button ${n}`,
        gestures: ['press' as const],
        place: { x: 5, y: 22 + n * 8, w: 6, h: 6 },
      })),
    ],
  },
}
export const lightRoles: NonNullable<RigInput['lightRoles']> = [
  {
    id: 'voice',
    name: 'Voice',
    letter: 'V',
    states: [
      { name: 'off', colour: '#a01010' },
      { name: 'on', colour: '#10c040' },
    ],
  },
]

export interface CleanShape {
  numbers: readonly number[]
  channels: readonly number[]
  inverted: boolean
  curve: 'linear' | 'exponential' | 's'
  takeover: 'at-once' | 'when-met' | 'gradual'
}

/** Knobs, each joined to a parameter of its own; a toggle whose destination tells its light, and a button with a light. */
export function cleanRig(
  { numbers, channels, inverted, curve, takeover }: CleanShape,
  more: Partial<RigInput> = {},
): Rig {
  const knobs = numbers.map(
    (number, at) => [`k${at + 1}.turn`, sendingCc(number, { channel: channels[at] ?? 1 })] as const,
  )
  const note = (number: number, kind: 'toggle' | 'momentary', setBy: 'feedback' | 'press') => ({
    ...sending({
      kind: 'note',
      keys: { kind: 'one', number },
      channel: 16,
      behaviour: { kind },
      velocity: { kind: 'fixed', value: 127 },
    }),
    light: { role: 'voice', setBy: { kind: setBy } },
  })
  return testRig(
    [
      testController(
        'a',
        {
          ...Object.fromEntries(knobs),
          'b1.press': note(60, 'toggle', 'feedback'),
          'b2.press': note(61, 'momentary', 'press'),
        },
        { model: 'plain' },
      ),
    ],
    [
      testDestination('d', {
        feedback: true,
        parameters: [
          ...numbers.map((_, at) => ({
            id: `p${at + 1}`,
            name: `P ${at + 1}`,
            range: { min: -10, max: 10 + at },
          })),
          { id: 'mute', name: 'Mute', kind: 'switch' },
          { id: 'tap', name: 'Tap', kind: 'action' },
        ],
      }),
    ],
    {
      models: [litModel],
      lightRoles,
      mappings: [
        ...numbers.map((number, at) => ({
          id: `m${at + 1}`,
          gesture: `a/k${at + 1}.turn`,
          destination: 'd',
          parameter: `p${at + 1}`,
          learnedAt: `${channels[at] ?? 1}:cc${number}`,
          inverted,
          curve,
          takeover,
        })),
        {
          id: 'mute',
          gesture: 'a/b1.press',
          destination: 'd',
          parameter: 'mute',
          learnedAt: '16:note60',
          feedback: true,
        },
        { id: 'tap', gesture: 'a/b2.press', destination: 'd', parameter: 'tap', learnedAt: '16:note61' },
      ],
      ...more,
    },
  )
}
export const anyShape: fc.Arbitrary<CleanShape> = fc.record({
  numbers: fc.uniqueArray(fc.integer({ min: 20, max: 31 }), { minLength: KNOBS, maxLength: KNOBS }),
  channels: fc.array(fc.integer({ min: 1, max: 15 }), { minLength: KNOBS, maxLength: KNOBS }),
  inverted: fc.boolean(),
  curve: fc.constantFrom('linear' as const, 'exponential' as const, 's' as const),
  takeover: fc.constantFrom('at-once' as const, 'when-met' as const, 'gradual' as const),
})

/** Four knobs on one channel, taken over when met. */
export const PLAIN: CleanShape = {
  numbers: [20, 21, 22, 23],
  channels: [1, 1, 1, 1],
  inverted: false,
  curve: 'linear',
  takeover: 'when-met',
}
