import * as fc from 'fast-check'
import { RigSchema } from '../rig/schema'
import { parseRig, type Message, type Rig, type RigInput } from '../rig'

type ModelInput = NonNullable<RigInput['models']>[number]
type ControllerInput = NonNullable<RigInput['controllers']>[number]
type StackInput = NonNullable<NonNullable<ControllerInput['templates']>[number]['stacks']>[number]
type DestinationInput = NonNullable<RigInput['destinations']>[number]
type MappingInput = NonNullable<RigInput['mappings']>[number]
export type Assigned = Record<string, { messages: MessageInput[]; pinned?: boolean }>
export type MessageInput = NonNullable<
  NonNullable<ControllerInput['templates']>[number]['base']
>[string]['messages'][number]

/** Six knobs in a row (`k1`–`k6`), the last with a push: enough of a controller for a test. */
export const plainModel: ModelInput = {
  id: 'plain',
  name: 'Plain',
  abilities: {
    connection: 'usb',
    fourteenBit: true,
    relativeEncodings: ['twos-complement', 'offset-binary', 'sign-magnitude'],
    stacks: 8,
    layersAStack: 16,
  },
  surface: {
    width: 200,
    height: 40,
    controls: [1, 2, 3, 4, 5, 6].map((n) => ({
      id: `k${n}`,
      kind: n === 6 ? 'encoder' : 'knob',
      label: `Knob ${n}`,
      gestures: n === 6 ? ['turn', 'push'] : ['turn'],
      place: { x: n * 30 - 25, y: 5, w: 14, h: 14 },
    })),
  },
}

export const testController = (
  id: string,
  base: Assigned,
  more: Partial<ControllerInput> = {},
): ControllerInput => ({
  id,
  name: id.toUpperCase(),
  letter: id.slice(0, 1).toUpperCase(),
  hue: 0,
  model: 'plain',
  homeChannel: 1,
  ports: [{ id: 'out', name: 'Out', direction: 'out' }],
  templates: [{ id: 't', name: 'T', base }],
  ...more,
})

export const testDestination = (id: string, more: Partial<DestinationInput> = {}): DestinationInput => ({
  id,
  name: id.toUpperCase(),
  kind: 'synth',
  ports: [{ id: 'in', name: 'In', direction: 'in' }],
  hears: {},
  parameters: [
    { id: 'p1', name: 'One' },
    { id: 'p2', name: 'Two' },
  ],
  ...more,
})

/** One template with a stack of two layers, `x` and `y`; `stack` says which gestures it holds, and more of it. */
export const layeredTemplates = (
  x: Assigned,
  y: Assigned,
  stack: Omit<StackInput, 'id' | 'name' | 'layers'>,
  base: Assigned = {},
): NonNullable<ControllerInput['templates']> => [
  {
    id: 't',
    name: 'T',
    base,
    stacks: [
      {
        id: 's',
        name: 'S',
        layers: [
          { id: 'x', name: 'X', assignments: x },
          { id: 'y', name: 'Y', assignments: y },
        ],
        ...stack,
      },
    ],
  },
]

/** A valid rig of these controllers, all cabled to these destinations. */
export function testRig(
  controllers: readonly ControllerInput[],
  destinations: readonly DestinationInput[] = [testDestination('d')],
  more: Partial<RigInput> = {},
): Rig {
  const result = parseRig({
    format: 'deft-lattice/rig',
    version: 7,
    name: 'Test',
    models: [plainModel],
    controllers,
    destinations,
    cables: controllers.flatMap((controller) =>
      destinations
        .filter((destination) => !destination.inside)
        .map((destination) => ({
          id: `${controller.id}-${destination.id}`,
          from: { owner: controller.id, port: 'out' },
          to: { owner: destination.id, port: 'in' },
        })),
    ),
    ...more,
  })
  if (!result.ok) throw new Error(result.problems.map(({ path, message }) => `${path} ${message}`).join('\n'))
  return result.rig
}

export const sending = (...messages: MessageInput[]): Assigned[string] => ({ messages })
export const sendingCc = (number: number, more: object = {}): Assigned[string] =>
  sending({ kind: 'cc', number, ...more })

const channel = fc.constantFrom<(number | 'home')[]>(1, 2, 'home')
/** A few numbers that like to collide: pairs, well-known, reserved, and free ones. */
const number = fc.constantFrom(0, 7, 16, 17, 20, 32, 48, 49, 52, 74, 118, 119, 120)
const behaviour = fc.constantFrom(
  { kind: 'absolute' as const },
  { kind: 'momentary' as const },
  { kind: 'toggle' as const },
  { kind: 'trigger' as const },
  { kind: 'relative' as const, encoding: 'offset-binary' as const },
)
const range = fc.constantFrom(
  { low: 0, high: 127 },
  { low: 10, high: 10 },
  { low: 64, high: 127 },
  { low: 127, high: 0 },
)

export const anyMessage: fc.Arbitrary<MessageInput> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({ kind: fc.constant('cc' as const), channel, number, behaviour, range }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('cc14' as const),
      channel,
      number: fc.constantFrom(16, 17, 20),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('note' as const),
      channel,
      keys: fc.oneof(
        fc.record({ kind: fc.constant('one' as const), number: fc.integer({ min: 60, max: 64 }) }),
        fc.record({
          kind: fc.constant('span' as const),
          low: fc.constantFrom(58, 61),
          high: fc.constantFrom(61, 63),
        }),
      ),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constantFrom('pitchBend' as const, 'channelPressure' as const),
      channel,
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('program' as const),
      channel,
      number: fc.integer({ min: 0, max: 3 }),
    }),
  },
  { weight: 1, arbitrary: fc.constant({ kind: 'off' as const }) },
)

/** Messages that belong together over a channel: parameters, what carries them, and programs with and without bank. */
const anyOfChannel: fc.Arbitrary<MessageInput> = fc.oneof(
  fc.record({
    kind: fc.constantFrom('nrpn' as const, 'rpn' as const),
    channel,
    number: fc.constantFrom<(number | 'wanted')[]>(1, 300, 'wanted'),
    omitNumber: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('cc' as const),
    channel,
    number: fc.constantFrom(6, 38, 96, 97, 98, 99, 100, 101, 20),
  }),
  fc.record({
    kind: fc.constant('program' as const),
    channel,
    number: fc.constantFrom<(number | 'wanted')[]>(1, 2, 'wanted'),
    bank: fc.constantFrom(null, { msb: 1, lsb: 0 }),
  }),
)

const gestures = ['k1.turn', 'k2.turn', 'k3.turn', 'k4.turn', 'k5.turn', 'k6.turn', 'k6.push'] as const

const assigned = (from: readonly string[], message: fc.Arbitrary<MessageInput>): fc.Arbitrary<Assigned> =>
  fc
    .array(fc.record({ gesture: fc.constantFrom(...from), message, pinned: fc.boolean() }), {
      maxLength: 4,
    })
    .map((list) =>
      Object.fromEntries(
        list.map(({ gesture, message, pinned }) => [gesture, { messages: [message], pinned }]),
      ),
    )

const anyController = (
  id: string,
  message: fc.Arbitrary<MessageInput> = anyMessage,
): fc.Arbitrary<ControllerInput> =>
  fc
    .record({
      base: assigned(gestures.slice(0, 4), message),
      a: assigned(gestures.slice(4), message),
      b: assigned(gestures.slice(4), message),
      home: fc.constantFrom(1, 2),
      inUse: fc.boolean().map((value) => value || id === 'a'),
    })
    .map(({ base, a, b, home, inUse }) =>
      testController(id, base, {
        homeChannel: home,
        inUse,
        templates: [
          {
            id: 't',
            name: 'T',
            base,
            stacks: [
              {
                id: 's',
                name: 'S',
                gestures: gestures.slice(4),
                layers: [
                  { id: 'la', name: 'LA', assignments: a },
                  { id: 'lb', name: 'LB', assignments: b },
                ],
              },
            ],
          },
        ],
      }),
    )

type Channels = { kind: 'apart' } | { kind: 'merged' } | { kind: 'only'; channels: number[] }
const anyHearing = fc.constantFrom<Channels[]>(
  { kind: 'apart' },
  { kind: 'merged' },
  { kind: 'only', channels: [1] },
)

const anyDestination = (id: string): fc.Arbitrary<DestinationInput> =>
  fc
    .record({ hearing: anyHearing, settable: fc.boolean(), claim: fc.boolean(), chart: fc.boolean() })
    .map(({ hearing, settable, claim, chart }) =>
      testDestination(id, {
        hears: { playing: { channels: hearing }, settable },
        claims: claim
          ? [{ id: 'c', function: 'its clock', kind: 'cc', channel: 1, low: 118, high: 119, serves: ['p1'] }]
          : [],
        scopes: [{ id: 's1', name: 'S1' }],
        learns: ['cc', 'cc14'],
        parameters: [
          { id: 'p1', name: 'One', range: { min: 0, max: 1, unit: '' }, steps: 300 },
          { id: 'p2', name: 'Two', kind: 'switch' as const },
          { id: 'p3', name: 'Selected', kind: 'relative' as const, standsFor: 'One' },
          ...(chart
            ? [
                { id: 'f1', name: 'Bright', fixed: { kind: 'cc' as const, number: 74 } },
                { id: 'f2', name: 'Fine', fixed: { kind: 'cc14' as const, number: 20 } },
              ]
            : []),
        ],
      }),
    )

const anyMapping = fc.record({
  controller: fc.constantFrom('a', 'b', 'c'),
  gesture: fc.constantFrom(...gestures),
  destination: fc.constantFrom('d', 'e'),
  parameter: fc.constantFrom('p1', 'p2', 'p3'),
  learnedAt: fc.constantFrom(null, '1:cc16+48', '1:cc74', '2:cc20', '1:cc118'),
  scope: fc.constantFrom(null, null, 's1'),
  expects: fc.constantFrom(
    { kind: 'absolute' as const },
    { kind: 'press' as const },
    { kind: 'relative' as const, encoding: 'offset-binary' as const },
  ),
})

/** Small rigs in which much collides: three controllers with two layers each, two destinations. */
export const anyRig: fc.Arbitrary<Rig> = fc
  .record({
    controllers: fc.tuple(anyController('a'), anyController('b'), anyController('c')),
    destinations: fc.tuple(anyDestination('d'), anyDestination('e')),
    mappings: fc.array(anyMapping, { maxLength: 6 }),
    accord: fc.boolean(),
  })
  .map(({ controllers, destinations, mappings, accord }) =>
    testRig(controllers, destinations, {
      mappings: mappings.map(({ controller, gesture, ...mapping }, index): MappingInput => ({
        id: `m${index}`,
        gesture: `${controller}/${gesture}`,
        ...mapping,
      })),
      accords: accord ? [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'b/k1.turn'] }] : [],
    }),
  )

/** One controller whose keys are a per-note zone, low or high, beside a knob. */
export const anyZoneRig: fc.Arbitrary<Rig> = fc
  .record({
    low: fc.integer({ min: 48, max: 60 }),
    width: fc.integer({ min: 0, max: 6 }),
    manager: fc.constantFrom(1 as const, 16 as const),
    members: fc.integer({ min: 1, max: 5 }),
    highResolutionVelocity: fc.boolean(),
  })
  .map(({ low, width, manager, members, highResolutionVelocity }) =>
    testRig([
      testController('a', {
        'k1.turn': sending({
          kind: 'note',
          keys: { kind: 'zone', low, high: low + width, manager, members },
          highResolutionVelocity,
        }),
        'k2.turn': sendingCc(20, { channel: 9 }),
      }),
    ]),
  )

/** Small rigs in which parameters, their carriers and programs share channels. */
export const anyChannelRig: fc.Arbitrary<Rig> = fc
  .record({
    controllers: fc.tuple(
      anyController('a', anyOfChannel),
      anyController('b', anyOfChannel),
      anyController('c', anyOfChannel),
    ),
    destinations: fc.tuple(anyDestination('d'), anyDestination('e')),
    accord: fc.boolean(),
  })
  .map(({ controllers, destinations, accord }) =>
    testRig(controllers, destinations, {
      accords: accord ? [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'b/k1.turn'] }] : [],
    }),
  )

const fewMessages: fc.Arbitrary<MessageInput> = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('cc' as const),
      channel,
      number: fc.constantFrom(20, 74),
      behaviour: fc.oneof(behaviour, fc.constant({ kind: 'toggle' as const })),
      range,
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant('cc14' as const), channel, number: fc.constant(20) }),
  },
)

interface SentInput {
  gesture: string
  learnedAt: string
}

/** What a controller of `anyController` sends with `fewMessages`, as a destination learns it. */
const learnable = ({ id, homeChannel, templates }: ControllerInput): SentInput[] =>
  (templates ?? []).flatMap(({ base, stacks }) =>
    [
      base ?? {},
      ...(stacks ?? []).flatMap(({ layers }) => layers.map((layer) => layer.assignments ?? {})),
    ].flatMap((table) =>
      Object.entries(table).flatMap(([gesture, { messages }]) =>
        messages.flatMap((message): SentInput[] => {
          if (message.kind !== 'cc' && message.kind !== 'cc14') return []
          const channel = message.channel === 'home' ? homeChannel : message.channel
          const number = Number(message.number)
          const tag = message.kind === 'cc' ? `cc${number}` : `cc${number}+${number + 32}`
          return [{ gesture: `${id}/${gesture}`, learnedAt: `${channel}:${tag}` }]
        }),
      ),
    ),
  )

/** Small rigs whose mappings mostly hear their own control, and often the same. */
export const anyMappedRig: fc.Arbitrary<Rig> = fc
  .record({
    controllers: fc.tuple(anyController('a', fewMessages), anyController('b', fewMessages)),
    destinations: fc.tuple(anyDestination('d'), anyDestination('e')),
    mappings: fc.array(
      fc.record({
        mapping: anyMapping,
        of: fc.nat(),
        isOwn: fc.constantFrom(true, true, true, false),
        parameter: fc.constantFrom('p1', 'p1', 'p2', 'p3'),
      }),
      { minLength: 2, maxLength: 6 },
    ),
    accord: fc.boolean(),
  })
  .map(({ controllers, destinations, mappings, accord }) => {
    const sent = controllers.flatMap(learnable)
    return testRig(controllers, destinations, {
      mappings: mappings.map(({ mapping, of, isOwn, parameter }, index): MappingInput => {
        const { controller, gesture, ...rest } = mapping
        const own = isOwn ? sent[of % sent.length] : undefined
        return {
          ...rest,
          id: `m${index}`,
          parameter,
          gesture: own?.gesture ?? `${controller === 'c' ? 'a' : controller}/${gesture}`,
          learnedAt: own?.learnedAt ?? '1:cc20',
        }
      }),
      accords: accord ? [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'b/k1.turn'] }] : [],
    })
  })

/** A message with its defaults filled in. */
export const fullMessage = (input: MessageInput): Message => {
  const rig = RigSchema.parse(testRig([testController('a', { 'k1.turn': sending(input) })]))
  const message = rig.controllers[0]?.templates[0]?.base['k1.turn']?.messages[0]
  if (!message) throw new Error('The message is gone.')
  return message
}
