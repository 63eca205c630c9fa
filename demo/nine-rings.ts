import { printTag } from '../core/midi'
import { Message as MessageSchema, RigSchema } from '../core/rig/schema'
import { sentAddress, type Rig } from '../core/rig'
import { ferricMile, siltglass } from './destinations/plugins'
import { DRUM_NOTES, kettlow } from './destinations/kettlow'
import { loomwright, MOVEMENTS, TRACKS } from './destinations/loomwright'
import { ondrel } from './destinations/ondrel'
import { across, run, sends, slug, type Assignments, type DemoInput, type MessageInput } from './kit'
import { corvel } from './models/corvel'
import { merrod } from './models/merrod'
import { DRUM_LABELS, pelluna } from './models/pelluna'
import { syzra } from './models/syzra'
import { umbrek } from './models/umbrek'

/** The demo rig comes as a newcomer would find it, and as it was on the night of the show. */
export type DemoState = 'as-found' | 'as-performed'

type ControllerInput = NonNullable<DemoInput['controllers']>[number]
type MappingInput = NonNullable<DemoInput['mappings']>[number]

const cc = (number: number, more: object = {}): MessageInput => ({ kind: 'cc', number, ...more })
const pressed = (number: number, more: object = {}): MessageInput =>
  cc(number, { behaviour: { kind: 'momentary' }, ...more })
const note = (number: number, more: object = {}): MessageInput => ({
  kind: 'note',
  keys: { kind: 'one', number },
  ...more,
})
const toggled = (number: number, channel: number): MessageInput =>
  note(number, { channel, behaviour: { kind: 'toggle' }, velocity: { kind: 'fixed', value: 127 } })
const stepped = (number: number, value: number): MessageInput =>
  cc(number, { channel: 6, range: { low: value, high: value }, behaviour: { kind: 'trigger' } })

/** The channel on which Syzra's knobs and encoders send in each movement. */
const MOVEMENT_CHANNELS = [1, 3, 4, 5] as const
const movementIds = MOVEMENTS.map(slug)

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

const buttonLayer = (name: string, firstKey: number, stepNumber: number) => ({
  id: slug(name),
  name,
  assignments: {
    ...across(
      'key',
      'press',
      run(firstKey, 8).map((number) => toggled(number, 6)),
    ),
    ...across(
      'side',
      'press',
      run(firstKey + 8, 6).map((number) => note(number, { channel: 6 })),
    ),
    'side-7.press': sends(stepped(stepNumber, 1)),
    'side-8.press': sends(stepped(stepNumber, 127)),
  },
})

type ButtonLayer = Omit<ReturnType<typeof buttonLayer>, 'assignments'> & { assignments: Assignments }

/** The last key of a layer sends what it sends in another: nobody told the layers apart. */
function withSharedKey(from: ButtonLayer, to: ButtonLayer): ButtonLayer {
  const shared = from.assignments['key-8.press']
  return shared ? { ...to, assignments: { ...to.assignments, 'key-8.press': shared } } : to
}

const keysOf = (assignments: Assignments | undefined): string[] => Object.keys(assignments ?? {})

const transport = (number: number): MessageInput =>
  cc(number, { channel: 15, behaviour: { kind: 'trigger' } })

function syzraController(state: DemoState): ControllerInput {
  const knobs = syzraKnobs(state)
  const mutes = buttonLayer('Mutes', 36, 86)
  const scenes = buttonLayer('Scenes', 60, 87)
  const buttons = [mutes, state === 'as-found' ? withSharedKey(mutes, scenes) : scenes]
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

function pellunaController(state: DemoState): ControllerInput {
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
  const scales: Assignments = {
    ...across(
      'pad',
      'strike',
      run(48, 36).map((number) => note(number, { channel: 12 })),
    ),
    ...across(
      'pad',
      'pressure',
      run(48, 36).map((number): MessageInput => ({
        kind: 'poly',
        channel: 12,
        keys: { kind: 'one', number },
      })),
    ),
  }
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
              { id: 'drums', name: 'Drums and clips', assignments: drums },
              { id: 'scales', name: 'Scales', assignments: scales },
            ],
            powerUp: 'drums',
          },
        ],
      },
    ],
    slots: [{ number: 1, template: 'nine-rings' }],
  }
}

/** Numbers of the five plain switches in each row. */
const ROWS = [[80, 81, 82, 83, 85], [86, 87, 89, 90, 14], run(102, 5), run(107, 5)] as const

function umbrekController(state: DemoState): ControllerInput {
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
        base: { 'pedal.press': sends(cc(11)), 'socket.press': sends({ kind: 'off' }) },
        stacks: [
          { id: 'rows', name: 'Rows', gestures: keysOf(layers[0]?.assignments), layers, powerUp: 'overture' },
        ],
      },
    ],
    slots: [{ number: 1, template: 'nine-rings' }],
  }
}

function merrodController(state: DemoState): ControllerInput {
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
          'keys.pressure': sends({ kind: 'pressure' }),
          'bend.turn': sends({ kind: 'bend' }),
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
            run(36, 8).map((): MessageInput => ({ kind: 'pressure', channel: 13 })),
          ),
        },
      },
    ],
    slots: [{ number: 3, template: 'nine-rings' }],
  }
}

const corvelController: ControllerInput = {
  id: 'corvel',
  name: 'Corvel 8',
  letter: 'C',
  hue: 7,
  model: 'corvel-8',
  inUse: false,
  homeChannel: 7,
  ports: [{ id: 'usb', name: 'USB', direction: 'out' }],
  templates: [
    {
      id: 'macros',
      name: 'Macros',
      base: across(
        'knob',
        'turn',
        run(20, 8).map((number) => cc(number)),
      ),
    },
  ],
  notes: 'Lent to the other hall. Its mappings are still in Loomwright.',
}

/** Which parameters Syzra's encoders and knobs move in each movement, as destination and parameter. */
const KNOB_PLAN: ReadonlyArray<{ enc: readonly string[]; knob: readonly string[] }> = [
  {
    enc: [
      'siltglass/source-loop',
      'siltglass/source-start',
      'siltglass/source-rate',
      'ferric-mile/output-echo',
      'ferric-mile/tape-feedback',
      'ferric-mile/tape-wow',
      'ferric-mile/tape-drive',
      'ferric-mile/filter-high-cut',
    ],
    knob: [
      'grains-size',
      'grains-spray',
      'grains-pitch',
      'grains-window',
      'grains-drift',
      'shape-tone',
      'shape-width',
      'shape-blend',
    ].map((id) => `siltglass/${id}`),
  },
  {
    enc: TRACKS.map((_, index) => `loomwright/t${index + 1}-pan`),
    knob: TRACKS.map((_, index) => `loomwright/t${index + 1}-send-echo`),
  },
  {
    enc: TRACKS.map((_, index) => `loomwright/t${index + 1}-send-hall`),
    knob: run(1, 8).map((number) => `loomwright/macro-${number}`),
  },
  {
    enc: [
      'motion-orbit',
      'motion-reach',
      'motion-slew',
      'motion-chance',
      'shape-attack',
      'shape-decay',
      'shape-edge',
      'source-gain',
    ].map((id) => `siltglass/${id}`),
    knob: [
      'tape-time',
      'tape-flutter',
      'tape-hiss',
      'tape-speed',
      'tape-age',
      'heads-head-1',
      'heads-head-2',
      'heads-head-3',
    ].map((id) => `ferric-mile/${id}`),
  },
]

/** A join: the gesture, the layer that teaches it (null: base), destination and parameter, scope. */
type Join = readonly [gesture: string, layer: string | null, target: string, scope?: string]

const joins: readonly Join[] = [
  ...KNOB_PLAN.flatMap(({ enc, knob }, index): Join[] => {
    const layer = movementIds[index] ?? null
    return [
      ...enc.map((target, n): Join => [`syzra/enc-${n + 1}.turn`, layer, target]),
      ...knob.map((target, n): Join => [`syzra/knob-${n + 1}.turn`, layer, target]),
    ]
  }),
  ...TRACKS.map((_, n): Join => [`syzra/fader-${n + 1}.slide`, null, `loomwright/t${n + 1}-volume`]),
  ...TRACKS.map((_, n): Join => [`syzra/enc-${n + 1}.push`, null, `loomwright/t${n + 1}-solo`]),
  ...TRACKS.map((_, n): Join => [`syzra/key-${n + 1}.press`, 'mutes', `loomwright/t${n + 1}-mute`]),
  ...run(1, 8).map((n): Join => [`syzra/key-${n}.press`, 'scenes', `loomwright/cue-${n}`]),
  ['syzra/side-1.press', 'mutes', 'loomwright/hold'],
  ['syzra/side-3.press', 'mutes', 'loomwright/mark'],
  ['syzra/side-4.press', 'mutes', 'loomwright/next-mark'],
  ['syzra/side-5.press', 'mutes', 'loomwright/tap-tempo'],
  ['syzra/side-7.press', 'mutes', 'loomwright/scene-size'],
  ['syzra/side-8.press', 'mutes', 'loomwright/scene-size'],
  ['syzra/run-1.press', null, 'loomwright/play'],
  ['syzra/run-2.press', null, 'loomwright/stop'],
  ['syzra/run-3.press', null, 'loomwright/record'],
  ...DRUM_LABELS.map((label, n): Join => [`pelluna/pad-${n + 1}.strike`, 'drums', `kettlow/${slug(label)}`]),
  ...run(1, 22).map((n): Join => [`pelluna/pad-${n + 14}.strike`, 'drums', `loomwright/clip-${n}`]),
  ...run(1, 3).map((n): Join => [`pelluna/slim-${n + 2}.press`, null, `loomwright/scene-${n}`]),
  ['pelluna/slim-6.press', null, 'loomwright/stop-all-clips'],
  ...MOVEMENTS.flatMap((name, row): Join[] => [
    ['umbrek/foot-1.press', slug(name), `ondrel-vi/program-${row + 1}`],
    ...['freeze', 'swell', 'back', 'tape', 'dark'].map((id, n): Join => [
      `umbrek/foot-${n + 2}.press`,
      slug(name),
      `loomwright/${id}`,
      slug(name),
    ]),
  ]),
  ['umbrek/pedal.press', null, 'loomwright/expression'],
  ['merrod/bend.turn', null, 'ondrel-vi/bend'],
  ['merrod/keys.pressure', null, 'ondrel-vi/aftertouch'],
  ['merrod/mod.turn', null, 'ondrel-vi/play-modulation'],
  ['merrod/ribbon.slide', null, 'ondrel-vi/play-modulation'],
  ['merrod/tilt.tilt', null, 'ondrel-vi/play-swell'],
  ['merrod/xy.x', null, 'ondrel-vi/filter-brightness'],
  ['merrod/xy.y', null, 'ondrel-vi/filter-resonance'],
  ...[
    'envelope-1-attack',
    'envelope-1-decay',
    'envelope-1-sustain',
    'envelope-1-release',
    'vibrato-rate',
    'vibrato-depth',
    'oscillator-1-wave-fold',
    'halo-size',
  ].map((id, n): Join => [`merrod/knob-${n + 1}.turn`, null, `ondrel-vi/${id}`]),
  ...['Ring A', 'Ring B', 'Ring C', 'Ring D', 'Ring E', 'Ring F', 'Gap', 'Moon'].map((name, n): Join => [
    `merrod/pad-${n + 1}.strike`,
    null,
    `siltglass/throw-${slug(name)}`,
  ]),
]

/** The address a gesture sends in a layer, as the destination learned it. */
function learnedTag(
  controllers: readonly ControllerInput[],
  gesture: string,
  layer: string | null,
): string | null {
  const [id = '', key = ''] = gesture.split('/')
  const controller = controllers.find((candidate) => candidate.id === id)
  const template = controller?.templates[0]
  const table =
    layer === null
      ? template?.base
      : template?.stacks?.flatMap((stack) => stack.layers).find((candidate) => candidate.id === layer)
          ?.assignments
  const message = table?.[key]?.messages[0]
  if (!controller || !message) throw new Error(`The demo joins ${gesture}, which sends nothing.`)
  const address = sentAddress(MessageSchema.parse(message), controller.homeChannel)
  return address === null ? null : printTag(address)
}

/** What was left as it came: a fader taught before the home channel changed, a knob that jumps. */
function neglected(gesture: string, target: string): Partial<MappingInput> {
  if (target === 'loomwright/t8-volume') return { learnedAt: '3:cc23+55' }
  return gesture === 'syzra/knob-8.turn' && target === 'loomwright/macro-8' ? { takeover: 'at-once' } : {}
}

function mappingsOf(controllers: readonly ControllerInput[], state: DemoState): MappingInput[] {
  const charted = new Set(['ondrel-vi', 'kettlow'])
  const joined = joins.map(([gesture, layer, target, scope], index): MappingInput => {
    const [destination = '', parameter = ''] = target.split('/')
    return {
      id: `map-${index + 1}`,
      gesture,
      destination,
      parameter,
      learnedAt: charted.has(destination) ? null : learnedTag(controllers, gesture, layer),
      scope: scope ?? null,
      ...(state === 'as-found' ? neglected(gesture, target) : {}),
      feedback: destination === 'loomwright',
    }
  })
  const old = run(1, 8).map((n): MappingInput => {
    const learnedAt = state === 'as-found' && n <= 4 ? `1:cc${101 + n}` : `7:cc${19 + n}`
    return {
      id: `old-${n}`,
      gesture: `corvel/knob-${n}.turn`,
      destination: 'loomwright',
      parameter: `macro-${n}`,
      learnedAt,
      memo: 'From the Corvel, before it was lent.',
    }
  })
  const unplugged: MappingInput = {
    id: 'second-pedal',
    gesture: 'umbrek/socket.press',
    destination: 'loomwright',
    parameter: 'selected-volume',
    learnedAt: '9:cc4',
  }
  return [...joined, ...old, ...(state === 'as-found' ? [unplugged] : [])]
}

const usb = (owner: string, port: string) => ({
  id: `${owner}-to-laptop`,
  from: { owner, port: 'usb' },
  to: { owner: 'laptop', port },
})

function cables(state: DemoState): DemoInput['cables'] {
  return [
    usb('syzra', 'usb-syzra'),
    usb('pelluna', 'usb-pelluna'),
    usb('merrod', 'usb-merrod'),
    { id: 'merrod-din', from: { owner: 'merrod', port: 'din' }, to: { owner: 'junction', port: 'in-a' } },
    { id: 'umbrek-din', from: { owner: 'umbrek', port: 'din' }, to: { owner: 'junction', port: 'in-b' } },
    { id: 'syzra-din', from: { owner: 'syzra', port: 'din' }, to: { owner: 'junction', port: 'in-c' } },
    { id: 'to-ondrel', from: { owner: 'junction', port: 'out-1' }, to: { owner: 'ondrel-vi', port: 'in' } },
    {
      id: 'feet-to-laptop',
      from: { owner: 'junction', port: 'out-2' },
      to: { owner: 'laptop', port: 'din' },
      rules: [{ kind: 'pass', match: { channels: state === 'as-found' ? [9, 10, 15] : [9] } }],
      otherwise: 'stop',
    },
    {
      id: 'to-kettlow',
      from: { owner: 'loomwright', port: 'thru' },
      to: { owner: 'kettlow', port: 'in' },
      rules: [{ kind: 'pass', match: { kinds: ['note'], channels: state === 'as-found' ? [10, 13] : [10] } }],
      otherwise: 'stop',
    },
    ...(state === 'as-found'
      ? [
          {
            id: 'drums-back',
            from: { owner: 'kettlow', port: 'thru' },
            to: { owner: 'junction', port: 'in-d' },
          },
        ]
      : []),
  ]
}

const passages = MOVEMENTS.map((name, index) => {
  const layer = slug(name)
  return {
    id: layer,
    name,
    showing: [
      { controller: 'syzra', template: 'nine-rings', layers: [{ stack: 'knobs', layer }] },
      { controller: 'umbrek', template: 'nine-rings', layers: [{ stack: 'rows', layer }] },
      {
        controller: 'pelluna',
        template: 'nine-rings',
        layers: index === 3 ? [{ stack: 'pads', layer: 'scales' }] : [],
      },
    ],
    scopes: [{ destination: 'loomwright', scope: layer }],
  }
})

function choices(): DemoInput['choices'] {
  const pads = (layer: string) => [
    {
      kind: 'layers' as const,
      controller: 'pelluna',
      template: 'nine-rings',
      stack: 'pads',
      layers: [layer],
    },
  ]
  return [
    {
      id: 'page-1',
      by: { kind: 'gesture', gesture: 'pelluna/slim-1.press' },
      how: 'this-one',
      targets: pads('drums'),
    },
    {
      id: 'page-2',
      by: { kind: 'gesture', gesture: 'pelluna/slim-2.press' },
      how: 'this-one',
      targets: pads('scales'),
    },
    {
      id: 'shift-buttons',
      by: { kind: 'gesture', gesture: 'syzra/side-2.press' },
      how: 'next',
      targets: [
        {
          kind: 'layers',
          controller: 'syzra',
          template: 'nine-rings',
          stack: 'buttons',
          layers: ['mutes', 'scenes'],
        },
      ],
    },
    {
      id: 'next-movement',
      by: { kind: 'gesture', gesture: 'umbrek/foot-1.press' },
      how: 'next',
      targets: [
        { kind: 'layers', controller: 'syzra', template: 'nine-rings', stack: 'knobs', layers: movementIds },
        { kind: 'layers', controller: 'umbrek', template: 'nine-rings', stack: 'rows', layers: movementIds },
      ],
    },
  ]
}

const modulation = {
  id: 'modulation',
  name: 'Modulation by wheel or ribbon',
  reason: 'Left hand takes the wheel when seated, the ribbon when standing; never both at once.',
  gestures: ['merrod/mod.turn', 'merrod/ribbon.slide'],
}

const sceneSteps = {
  id: 'scene-steps',
  name: 'Scene length down and up',
  reason: 'Two buttons send two values of one number: the shorter and the longer length.',
  gestures: ['syzra/side-7.press', 'syzra/side-8.press'],
}

const formerSharing = {
  id: 'tape-and-dark',
  name: 'Tape and dark on one number',
  reason: 'They once shared a number; they no longer do.',
  gestures: ['umbrek/foot-5.press', 'umbrek/foot-6.press'],
}

/** A program from the rehearsal that nobody closed: it still has Syzra's port. */
const leftOpen: NonNullable<DemoInput['destinations']>[number] = {
  id: 'siltglass-alone',
  name: 'Siltglass alone',
  kind: 'plugin',
  ports: [
    {
      id: 'in',
      name: 'Syzra 24',
      direction: 'in',
      opens: { computer: 'laptop', port: 'usb-syzra' },
    },
  ],
  hears: { playing: { channels: { kind: 'only', channels: [16] } }, learning: {} },
}

/**
 * The one finding that stays as it is, because the player knows why it may: notes held while the pads turn
 * their page. The check says when these facts are no longer true, and the demo's test then tells.
 */
const knownToStay: NonNullable<DemoInput['setAside']>[number] = {
  finding: 'stuck:7eab2edfc634b481',
  facts: '868e2662e6812fc8',
  reason: 'Both hands are off the pads when the page turns, between movements.',
}

/** The demo rig "Nine Rings" in one of its two states, as it would stand in a file. */
export function nineRings(state: DemoState): DemoInput {
  const controllers = [
    syzraController(state),
    pellunaController(state),
    merrodController(state),
    umbrekController(state),
    corvelController,
  ]
  const found = state === 'as-found'
  return {
    format: 'deft-lattice/rig',
    version: 1,
    name: found ? 'Nine Rings · as found' : 'Nine Rings · as performed',
    notes: 'One player, a planetarium, four movements in fifty minutes.',
    models: [syzra, pelluna, merrod, umbrek, corvel],
    controllers,
    destinations: [
      loomwright,
      siltglass,
      ...(found ? [leftOpen] : []),
      ferricMile,
      {
        ...ondrel,
        hears: { ...ondrel.hears, playing: { channels: { kind: 'only', channels: [found ? 1 : 2] } } },
      },
      {
        ...kettlow,
        hears: {
          ...kettlow.hears,
          playing: { channels: found ? { kind: 'merged' } : { kind: 'only', channels: [10] } },
        },
      },
    ],
    boxes: [
      {
        id: 'junction',
        name: 'Junction',
        kind: 'merge',
        ports: [
          ...['a', 'b', 'c', 'd'].map((letter) => ({
            id: `in-${letter}`,
            name: `In ${letter.toUpperCase()}`,
            direction: 'in' as const,
          })),
          { id: 'out-1', name: 'Out 1', direction: 'out' },
          { id: 'out-2', name: 'Out 2', direction: 'out' },
        ],
      },
    ],
    computers: [
      {
        id: 'laptop',
        name: 'Dome laptop',
        ports: [
          { id: 'usb-syzra', name: 'Syzra 24', sharing: found ? 'exclusive' : 'shared' },
          { id: 'usb-pelluna', name: 'Pelluna 36' },
          { id: 'usb-merrod', name: 'Merrod 49' },
          { id: 'din', name: 'DIN interface' },
        ],
      },
    ],
    cables: cables(state),
    mappings: mappingsOf(controllers, state),
    choices: choices(),
    accords: found ? [modulation, formerSharing] : [modulation, sceneSteps],
    lightRoles: [
      {
        id: 'drum',
        name: 'Drum',
        letter: 'D',
        states: [
          { name: 'off', colour: '#3a1505' },
          { name: 'on', colour: '#ff8a1e' },
        ],
      },
      {
        id: 'launch',
        name: 'Launch',
        letter: 'L',
        states: [
          { name: 'off', colour: '#062a3a' },
          { name: 'on', colour: '#2fc7ff' },
        ],
      },
      {
        id: 'voice',
        name: 'Voice',
        letter: 'V',
        states: [
          { name: 'off', colour: '#251038' },
          { name: 'on', colour: '#b06bff' },
        ],
      },
      {
        id: 'effect',
        name: 'Effect',
        letter: 'E',
        states: [
          { name: 'off', colour: '#0d2e14' },
          { name: 'on', colour: '#4be070' },
        ],
      },
    ],
    passages,
    setAside: found ? [] : [knownToStay],
    houseRules: [
      { id: 'nothing-low', kind: 'avoid', low: 0, high: 13, memo: 'Nothing below 14.' },
      {
        id: 'pads-keep',
        kind: 'prefer',
        message: 'note',
        low: 36,
        high: 83,
        controller: 'pelluna',
        block: 'pads',
      },
    ],
  }
}

/** As `nineRings`, complete and validated. */
export const nineRingsRig = (state: DemoState): Rig => RigSchema.parse(nineRings(state))
